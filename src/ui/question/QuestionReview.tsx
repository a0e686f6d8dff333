import type { ComponentType } from 'react';
import type { ContentOf, QuestionContent } from '@/core/question/content';
import type { Presentation } from '@/core/question/presentation';
import type { QuestionResponse, ResponseOf } from '@/core/question/student';
import type { QuestionType } from '@/core/question/types';
import { RichText } from '../kit/RichText';
import { DateReview } from './date/Review';
import { GapFillReview } from './gap-fill/Review';
import { MatchingReview } from './matching/Review';
import { MultipleChoiceReview } from './multiple-choice/Review';
import { NumericReview } from './numeric/Review';
import { OrderingReview } from './ordering/Review';
import { RatingScaleReview } from './rating-scale/Review';
import type { ReviewProps } from './reviewing';
import { ShortTextReview } from './short-text/Review';
import { SingleChoiceReview } from './single-choice/Review';
import { TrueFalseReview } from './true-false/Review';
import { WrittenReview } from './written/Review';

const reviews: { [Type in QuestionType]: ComponentType<ReviewProps<ContentOf<Type>, ResponseOf<Type>>> } = {
  'single-choice': SingleChoiceReview,
  'multiple-choice': MultipleChoiceReview,
  'true-false': TrueFalseReview,
  'short-text': ShortTextReview,
  numeric: NumericReview,
  'gap-fill': GapFillReview,
  matching: MatchingReview,
  ordering: OrderingReview,
  written: WrittenReview,
  'rating-scale': RatingScaleReview,
  date: DateReview,
};

type Props = {
  /** With the values of the paper in it: see `settle`. */
  content: QuestionContent;
  presentation?: Presentation;
  response?: QuestionResponse;
};

/** A question of any type with its key, and beside it what was answered. For those who may see the key. */
export function QuestionReview({ content, presentation = {}, response }: Props) {
  const Review = reviews[content.type] as ComponentType<ReviewProps<QuestionContent, QuestionResponse>>;
  return (
    <>
      {content.type !== 'gap-fill' && <RichText rich={content.stem} className="mb-2 text-lg" />}
      <Review content={content} presentation={presentation} response={response} />
    </>
  );
}
