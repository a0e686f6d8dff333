import { definitionOf } from '../question/definitions';
import type { QuestionType } from '../question/types';

/** Words read in a minute by someone who must weigh each: slower than the 200 to 250 of easy running text. */
const wordsPerMinute = 130;

/** The times that papers have shown of a question: the median of so many, in minutes. */
export type ObservedTime = { n: number; median: number };

/** How many observed times the expectation by type and words weighs as much as. */
const priorWeight = 10;

/**
 * Minutes that a question is expected to take: the answering of its type and the reading of its words, giving way to the
 * observed median as times come in: (n·median + 10·expected) / (n + 10).
 */
export function expectedMinutes(type: QuestionType, words: number, observed: ObservedTime | null = null): number {
  const expected = definitionOf(type).answeringMinutes + Math.max(0, words) / wordsPerMinute;
  if (!observed) return expected;
  return (observed.n * observed.median + priorWeight * expected) / (observed.n + priorWeight);
}
