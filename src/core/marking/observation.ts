import type { MarkKind } from './marks';

/**
 * Why a mark says nothing of how hard its question is: it was one of a choose-part that the student did not choose, or
 * everyone earned its points because its key was wrong.
 */
export type Unobserved = 'not-chosen' | 'everyone-earns';

/** What of a mark decides whether it is an observation. */
export type MarkFacts = { kind: MarkKind; unobserved: Unobserved | null };

/**
 * Whether a mark is an observation of how hard its question is: it counts in success rates, expected credit and figures by
 * question. What left the total does not.
 *
 * @example isObservation({ kind: 'automatic', unobserved: null }) // true
 */
export const isObservation = ({ kind, unobserved }: MarkFacts): boolean => kind !== 'left-out' && unobserved === null;

/**
 * Whether a mark stands on its student's paper as far as figures by question go: what was not chosen, and what left the
 * total, is as if it were not there. Where everyone earned the points, the question was there all the same.
 */
export const standsOnPaper = ({
  kind,
  unobserved,
}: {
  kind: MarkKind | null;
  unobserved: Unobserved | null;
}): boolean => kind !== 'left-out' && unobserved !== 'not-chosen';
