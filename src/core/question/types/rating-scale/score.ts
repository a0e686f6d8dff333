import { creditOf, type Scored } from '../../scored';
import type { RatingScaleContent } from './content';
import type { RatingScaleResponse } from './student';

/** A survey has no wrong answer: any step of the scale counts in full, so that taking part can be counted. */
export const scoreRatingScale = (content: RatingScaleContent, { step }: RatingScaleResponse): Scored =>
  creditOf(step <= content.steps && (step > 0 || content.cannotSay) ? 1 : 0);

/** The highest step, as an example: none is more right than another. */
export const rightRatingScale = (content: RatingScaleContent): RatingScaleResponse => ({ step: content.steps });

/**
 * The step and how many there are, or that it cannot be said.
 *
 * @example ratingScaleResponseText({ steps: 5 }, { step: 4 }) // "4 of 5"
 */
export const ratingScaleResponseText = (content: RatingScaleContent, { step }: RatingScaleResponse): string =>
  step === 0 ? 'cannot say' : `${step} of ${content.steps}`;
