import type { RatingScaleContent } from '@/core/question/types/rating-scale/content';
import { ratingScaleResponseText } from '@/core/question/types/rating-scale/score';
import type { RatingScaleResponse } from '@/core/question/types/rating-scale/student';
import type { ReviewProps } from '../reviewing';

export const RatingScaleReview = ({ content, response }: ReviewProps<RatingScaleContent, RatingScaleResponse>) => (
  <p className="px-2 text-ink-2">
    {response ? (
      <span className="text-ink">{ratingScaleResponseText(content, response)}</span>
    ) : (
      <>
        1 ({content.low || 'low'}) to {content.steps} ({content.high || 'high'}); there is no right answer.
      </>
    )}
  </p>
);
