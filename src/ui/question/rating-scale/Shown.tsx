import type { RatingScaleResponse, RatingScaleView } from '@/core/question/types/rating-scale/student';
import type { ShownProps } from '../playing';

export const RatingScaleShown = ({ view, response }: ShownProps<RatingScaleView, RatingScaleResponse>) => (
  <p className="px-2">
    <span className="text-ink-2">
      From 1, {view.low || 'low'}, to {view.steps}, {view.high || 'high'}
    </span>
    {response && (
      <span className="ml-3 bg-prussian-wash px-2 py-0.5">
        {response.step === 0 ? 'you could not say' : `you said ${response.step}`}
      </span>
    )}
  </p>
);
