import { type Random, seededRandom } from '../base/random';
import type { Duration } from '../base/time';
import { second } from '../base/time';
import { definitionOf, type QuestionResponse, type ShownQuestion } from '../question/definitions';

/** How made-up handsets behave: those who mostly agree, quick ones, lazy ones, and those that leave and come back. */
export const handsetKinds = ['able', 'quick', 'lazy', 'leaving'] as const;
/** One of them. */
export type HandsetKind = (typeof handsetKinds)[number];

/** The kind of the handset of a number, from 0: half are able, the others share the rest. */
export const kindOfHandset = (number: number): HandsetKind =>
  (['able', 'quick', 'able', 'lazy', 'able', 'leaving'] as const)[number % 6] ?? 'able';

const characters: Record<HandsetKind, { agrees: number; answers: number; from: Duration; to: Duration }> = {
  able: { agrees: 75, answers: 98, from: 3 * second, to: 12 * second },
  quick: { agrees: 45, answers: 100, from: 0.5 * second, to: 3 * second },
  lazy: { agrees: 35, answers: 70, from: 8 * second, to: 25 * second },
  leaving: { agrees: 55, answers: 90, from: 3 * second, to: 15 * second },
};

/** What a made-up handset does with a question: nothing, or an answer after a while. */
export type MadeUpAnswer = { value: QuestionResponse; after: Duration } | null;

/**
 * What a handset answers. It knows no key: handsets that agree give the answer that the question itself brings up, the same
 * for all of them; the others one of their own. Asked again, after people have talked, more of them agree.
 *
 * @param seed of the handset
 * @param vote from 1
 */
export function madeUpAnswer(kind: HandsetKind, seed: string, view: ShownQuestion, vote: number): MadeUpAnswer {
  const { agrees, answers, from, to } = characters[kind];
  const about = JSON.stringify(view.stem);
  const own = seededRandom(seed, `${about}/${vote}`);
  if (own.below(100) >= answers) return null;
  const after = from + own.below(Math.max(1, Math.round(to - from)));
  const isAgreed = own.below(100) < Math.min(95, agrees + (vote > 1 ? 20 : 0));
  const random: Random = isAgreed ? seededRandom('agreed', about) : own;
  return { value: definitionOf(view.type).guess(view, random), after };
}

/** The name under which a handset comes in: nobody takes it for a person. @example handsetName(0) // 'Made-up 1' */
export const handsetName = (number: number): string => `Made-up ${number + 1}`;

/** How long a handset that leaves is away, in milliseconds; null for one that stays. */
export function awayFor(kind: HandsetKind, random: Random): Duration | null {
  return kind === 'leaving' && random.below(3) === 0 ? 2 * second + random.below(6_000) : null;
}
