import type { Rich } from '../../../base/rich';
import type { Presentation } from '../../presentation';
import { asFields, asKeys } from '../../readJson';
import { type ShownChoice, shownChoices } from '../single-choice/student';
import type { OrderingContent } from './content';

export type OrderingView = { type: 'ordering'; stem: Rich; items: ShownChoice[] };

/** All keys of the paper in the order the student gave them. Until something is moved there is no response. */
export type OrderingResponse = { order: string[] };

export const viewOrdering = (content: OrderingContent, presentation: Presentation): OrderingView => ({
  type: 'ordering',
  stem: content.stem,
  items: shownChoices(content.items, presentation.choices),
});

export function readOrderingResponse(input: unknown): OrderingResponse | undefined | null {
  if (input === null || input === undefined) return undefined;
  const order = asKeys(asFields(input)?.order, 20);
  if (order === null) return null;
  return order.length ? { order } : undefined;
}
