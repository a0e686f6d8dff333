import type { Rich } from '../../../base/rich';
import type { Presentation } from '../../presentation';
import { asFields, asKeys } from '../../readJson';
import { type ShownChoice, shownChoices } from '../single-choice/student';
import type { OrderingContent } from './content';

/** An ordering as a student sees it: the items in the order of the paper. */
export type OrderingView = { type: 'ordering'; stem: Rich; items: ShownChoice[] };

/** All keys of the paper in the order the student gave them. Until something is moved there is no response. */
export type OrderingResponse = { order: string[] };

/** Builds the student's view from nothing. */
export const viewOrdering = (content: OrderingContent, presentation: Presentation): OrderingView => ({
  type: 'ordering',
  stem: content.stem,
  items: shownChoices(content.items, presentation.choices),
});

/** Reads any JSON: at most 20 different keys; null where it is anything else, undefined where it is empty. */
export function readOrderingResponse(input: unknown): OrderingResponse | undefined | null {
  if (input === null || input === undefined) return undefined;
  const order = asKeys(asFields(input)?.order, 20);
  if (order === null) return null;
  return order.length ? { order } : undefined;
}
