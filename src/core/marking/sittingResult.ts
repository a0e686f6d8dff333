import type { AttemptCounts } from '../sitting/rules';
import type { AttemptScore } from './attemptScore';

/** A handed-in attempt with its score. Voided attempts are left out by the caller. */
type ScoredAttempt = { attemptId: string; number: number; score: AttemptScore };

/**
 * A student's result in a sitting. `ready` says that no mark can change which attempt counts or what it earned:
 * every attempt that has a say is completely marked.
 */
export type SittingResult = {
  earned: number;
  possible: number;
  /** Points of the questions that have a mark. */
  marked: number;
  waiting: number;
  ready: boolean;
  /** The attempts the result rests on. */
  from: string[];
};

/**
 * Applies the rule of which attempt counts.
 *
 * @param attempts handed-in attempts in any order
 * @returns null when there is none
 */
export function sittingResult(attempts: readonly ScoredAttempt[], counts: AttemptCounts): SittingResult | null {
  const ordered = [...attempts].sort((a, b) => a.number - b.number);
  const [first] = ordered;
  const last = ordered.at(-1);
  if (!first || !last) return null;
  if (counts === 'first') return resultOf([first]);
  if (counts === 'last') return resultOf([last]);
  if (counts === 'mean') return resultOf(ordered);
  const share = ({ score }: ScoredAttempt) => (score.possible > 0 ? score.earned / score.possible : 0);
  const best = ordered.reduce((winner, one) => (share(one) > share(winner) ? one : winner), first);
  const waiting = ordered.reduce((sum, one) => sum + one.score.waiting, 0);
  return { ...resultOf([best]), waiting, ready: waiting === 0 };
}

function resultOf(used: ScoredAttempt[]): SittingResult {
  const mean = (pick: (score: AttemptScore) => number) =>
    used.reduce((sum, one) => sum + pick(one.score), 0) / used.length;
  const waiting = used.reduce((sum, one) => sum + one.score.waiting, 0);
  return {
    earned: mean((score) => score.earned),
    possible: mean((score) => score.possible),
    marked: mean((score) => score.marked),
    waiting,
    ready: waiting === 0,
    from: used.map((one) => one.attemptId),
  };
}
