import { type Try, triedCredit } from '../attempt/tries';
import type { SittingRules } from '../sitting/rules';

/** What becomes of the marks when a key was wrong. */
export const remarkingPolicies = ['new-key', 'either-key', 'everyone', 'left-out'] as const;
/** What becomes of the papers that hold a question whose key was wrong. */
export type RemarkingPolicy = (typeof remarkingPolicies)[number];

/** One check of a question, or what stood there at the hand-in, as the old key and as the new one judge it. */
export type Rescored = { old: number; new: number; again: boolean };

/**
 * The credit of a question under a policy; null where it leaves the total.
 *
 * - `new-key`: as the mended key judges, tries and their cost as the sitting's rules say;
 * - `either-key`: each try by whichever key gives it more;
 * - `everyone`: 1, also for an empty answer and whatever the tries cost;
 * - `left-out`: none.
 *
 * @param tried the tries in their order, the hand-in as the last where it counts as one
 */
export function remarkCredit(
  policy: RemarkingPolicy,
  tried: readonly Rescored[],
  rules: Pick<SittingRules, 'tries' | 'missedAgain' | 'learning'>,
): number | null {
  if (policy === 'left-out') return null;
  if (policy === 'everyone') return 1;
  const judged = tried.map(
    (one): Try => ({ credit: policy === 'new-key' ? one.new : Math.max(one.old, one.new), again: one.again }),
  );
  return triedCredit(judged, rules);
}
