import type { MarkKind } from './marks';
import type { RemarkingPolicy } from './remarkingPolicy';

/** How an answer did: by the share of its points that it earned. */
export type AnswerOutcome = 'right' | 'partly' | 'wrong';

/** Right with all its points, wrong with none, partly right between. */
export const outcomeOf = (points: number, outOf: number): AnswerOutcome =>
  points >= outOf ? 'right' : points > 0 ? 'partly' : 'wrong';

/** How an answer stands, to be told: where everybody has the points, whether it was right is not what they are for. */
export type Outcome = AnswerOutcome | 'given' | 'waiting' | 'left-out';

/**
 * How an answer stands with its newest mark.
 *
 * @param newest null where there is none yet
 * @param anew by which rule the question was marked anew, as in `whyPoints`
 * @example outcomeShown({ kind: 'automatic', points: 2 }, 2, 'everyone') // 'given'
 */
export function outcomeShown(
  newest: { kind: MarkKind; points: number } | null,
  outOf: number,
  anew: RemarkingPolicy | 'unchanged' | null,
): Outcome {
  if (!newest) return 'waiting';
  if (newest.kind === 'left-out') return 'left-out';
  if (anew === 'everyone' && newest.kind !== 'adjusted') return 'given';
  return outcomeOf(newest.points, outOf);
}
