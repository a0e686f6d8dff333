import { creditOf, type Scored } from '../../scored';
import type { RatingScaleContent } from './content';
import type { RatingScaleResponse } from './student';

/** A survey has no wrong answer: any step of the scale counts in full, so that taking part can be counted. */
export const scoreRatingScale = (content: RatingScaleContent, { step }: RatingScaleResponse): Scored =>
  creditOf(step <= content.steps && (step > 0 || content.cannotSay) ? 1 : 0);

export const rightRatingScale = (content: RatingScaleContent): RatingScaleResponse => ({ step: content.steps });

export const ratingScaleResponseText = (content: RatingScaleContent, { step }: RatingScaleResponse): string =>
  step === 0 ? 'cannot say' : `${step} of ${content.steps}`;
