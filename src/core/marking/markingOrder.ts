import { quickRandom } from '../base/random';

/**
 * The order in which one marker meets the answers to one question: random, but the same every time they come back, and
 * different from question to question and marker to marker, so that nobody is always marked first or last. An answer
 * that arrives later does not move those already there relative to one another.
 *
 * @param slotIds the answers, in any order
 */
export function markingOrder(slotIds: readonly string[], markerId: string, questionId: string): string[] {
  return slotIds
    .map((slotId) => ({ slotId, place: quickRandom(slotId, `${markerId}/${questionId}`).below(2 ** 30) }))
    .sort((a, b) => a.place - b.place || (a.slotId < b.slotId ? -1 : 1))
    .map(({ slotId }) => slotId);
}
