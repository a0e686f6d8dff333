import type { SittingRules } from '../sitting/rules';
import { byPerson } from './marks';
import type { MarkFacts } from './observation';
import { type RemarkingPolicy, type Rescored, remarkCredit } from './remarkingPolicy';

/** The mark that stands at an answer, as far as a re-mark looks at it; null where there is none. */
export type StandingMark = (MarkFacts & { points: number }) | null;

/** What a re-mark makes of one answer. */
type Remarked =
  /** A person has marked it, or it was not chosen: it stays. */
  | { kind: 'kept-by-person' }
  | { kind: 'untouched' }
  /** Its new points, null where it leaves the total. `same`: only what the mark says of the question's hardness changes. */
  | { kind: 'changed'; points: number | null; same: boolean };

/**
 * What a policy makes of one answer: who gains by a re-mark, and who loses.
 *
 * - what a person marked stays;
 * - a question of a choose-part that was not chosen earns nothing, whatever becomes of it for the others, except that it
 *   leaves the total with the rest;
 * - where nothing can judge it by a rule, it stays;
 * - the same points stay the mark they are, unless everyone earns them from now on: then it is no observation any more.
 *
 * @param judged its tries, the hand-in as the last where it counts as one, by the old key and by the new; empty where no
 * rule can judge it
 * @param outOf the points of the question, more than 0
 */
export function remarked(
  standing: StandingMark,
  judged: readonly Rescored[],
  outOf: number,
  policy: RemarkingPolicy,
  rules: Pick<SittingRules, 'tries' | 'missedAgain' | 'learning'>,
): Remarked {
  if (standing && byPerson.includes(standing.kind)) return { kind: 'kept-by-person' };
  if (standing?.unobserved === 'not-chosen' && policy !== 'left-out') return { kind: 'untouched' };
  if (judged.length === 0 && policy !== 'everyone' && policy !== 'left-out') return { kind: 'untouched' };
  const credit = remarkCredit(policy, judged, rules);
  const points = credit === null ? null : credit * outOf;
  const before = standing?.kind === 'left-out' ? null : standing?.points;
  const same = before === points || (typeof before === 'number' && points !== null && Math.abs(before - points) < 1e-9);
  const told = policy !== 'everyone' || standing?.unobserved === 'everyone-earns';
  return same && told ? { kind: 'untouched' } : { kind: 'changed', points, same };
}

type Score = { earned: number; possible: number };

/** What a re-mark does to one sitting, over everybody who has a result in it. */
export type EffectOnSitting<Result extends Score = Score> = {
  results: number;
  /** Mean share of the points, in [0, 1]; 0 where there is no result. */
  meanBefore: number;
  meanAfter: number;
  /** How many results lie in each tenth of the points, from the lowest; full marks are in the last. */
  tenthsBefore: number[];
  tenthsAfter: number[];
  /** Whose result becomes another, in the order in which they were given. */
  changed: { userId: string; before: Result; after: Result }[];
};

/** The share of the points, in [0, 1]; 0 where none are possible. */
export const shareOf = ({ earned, possible }: Score): number => (possible > 0 ? earned / possible : 0);

const tenthOf = (score: Score): number => Math.min(9, Math.floor(shareOf(score) * 10 + 1e-9));

/** What becomes of a sitting whose results were those, and are these. A student without a result is left out. */
export function effectOnSitting<Result extends Score>(
  before: ReadonlyMap<string, Result | null>,
  after: ReadonlyMap<string, Result | null>,
): EffectOnSitting<Result> {
  const effect: EffectOnSitting<Result> = {
    results: 0,
    meanBefore: 0,
    meanAfter: 0,
    tenthsBefore: Array<number>(10).fill(0),
    tenthsAfter: Array<number>(10).fill(0),
    changed: [],
  };
  for (const [userId, was] of before) {
    const is = after.get(userId);
    if (!was || !is) continue;
    effect.results += 1;
    effect.meanBefore += shareOf(was);
    effect.meanAfter += shareOf(is);
    effect.tenthsBefore[tenthOf(was)] = (effect.tenthsBefore[tenthOf(was)] as number) + 1;
    effect.tenthsAfter[tenthOf(is)] = (effect.tenthsAfter[tenthOf(is)] as number) + 1;
    if (Math.abs(was.earned - is.earned) >= 1e-9 || Math.abs(was.possible - is.possible) >= 1e-9)
      effect.changed.push({ userId, before: was, after: is });
  }
  effect.meanBefore /= Math.max(1, effect.results);
  effect.meanAfter /= Math.max(1, effect.results);
  return effect;
}

/** How much of the points somebody gains, negative where they lose: in [−1, 1]. */
export const gainOf = ({ before, after }: { before: Score; after: Score }): number => shareOf(after) - shareOf(before);
