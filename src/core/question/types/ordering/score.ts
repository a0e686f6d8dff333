import type { Random } from '../../../base/random';
import { richText } from '../../../base/rich';
import { idOf, keyOf, layOut, type Presentation } from '../../presentation';
import { creditOf, type Scored } from '../../scored';
import type { OrderingContent } from './content';
import type { OrderingResponse } from './student';

/** The items in a random order that is never the right one, every other order equally likely. */
export function presentOrdering(content: OrderingContent, random: Random): Presentation {
  for (;;) {
    const choices = layOut(content.items, true, random);
    if (choices.some((shown, i) => shown.id !== content.items[i]?.id)) return { choices };
  }
}

/** The ids in the order given; null unless every item stands in it once. */
function idsGiven(content: OrderingContent, presentation: Presentation, response: OrderingResponse): string[] | null {
  const ids = response.order.flatMap((key) => idOf(presentation.choices, key) ?? []);
  return ids.length === content.items.length && response.order.length === ids.length ? ids : null;
}

/**
 * - all or nothing: 1 if every item stands in its place;
 * - in place: share of items that stand in their places;
 * - pairs: share of the n(n − 1)/2 pairs of items in the right order relative to each other.
 */
export function scoreOrdering(
  content: OrderingContent,
  presentation: Presentation,
  response: OrderingResponse,
): Scored {
  const given = idsGiven(content, presentation, response);
  if (!given) return creditOf(0);
  const n = content.items.length;
  const place = new Map(content.items.map((item, i) => [item.id, i]));
  const places = given.map((id) => place.get(id) as number);
  const inPlace = places.filter((right, i) => right === i).length;
  if (content.rule === 'all-or-nothing') return creditOf(inPlace === n ? 1 : 0);
  if (content.rule === 'in-place') return creditOf(inPlace / n);
  let concordant = 0;
  for (let i = 0; i < n; i++)
    for (let j = i + 1; j < n; j++) if ((places[i] as number) < (places[j] as number)) concordant++;
  return creditOf(concordant / ((n * (n - 1)) / 2));
}

/** The keys of the items in the right order. */
export const rightOrdering = (content: OrderingContent, presentation: Presentation): OrderingResponse => ({
  order: content.items.map((item) => keyOf(presentation.choices, item.id)),
});

/** The items in the order given, numbered; empty where some are missing. */
export function orderingResponseText(
  content: OrderingContent,
  presentation: Presentation,
  response: OrderingResponse,
): string {
  const texts = new Map(content.items.map((item) => [item.id, richText(item.content)]));
  return (idsGiven(content, presentation, response) ?? []).map((id, i) => `${i + 1}. ${texts.get(id)}`).join('; ');
}
