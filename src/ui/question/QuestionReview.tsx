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

/** How a type shows its key; where it is answered within its text, it shows that text itself. */
type Reviewing<Content extends QuestionContent, Response> = {
  Review: ComponentType<ReviewProps<Content, Response>>;
  showsStem?: true;
};

const reviews: { [Type in QuestionType]: Reviewing<ContentOf<Type>, ResponseOf<Type>> } = {
  'single-choice': { Review: SingleChoiceReview },
  'multiple-choice': { Review: MultipleChoiceReview },
  'true-false': { Review: TrueFalseReview },
  'short-text': { Review: ShortTextReview },
  numeric: { Review: NumericReview },
  'gap-fill': { Review: GapFillReview, showsStem: true },
  matching: { Review: MatchingReview },
  ordering: { Review: OrderingReview },
  written: { Review: WrittenReview },
  'rating-scale': { Review: RatingScaleReview },
  date: { Review: DateReview },
};

type Props = {
  /** With the values of the paper in it: see `withValues`. */
  content: QuestionContent;
  presentation?: Presentation;
  response?: QuestionResponse;
};

/** A question of any type with its key, and beside it what was answered. For those who may see the key. */
export function QuestionReview({ content, presentation = {}, response }: Props) {
  const { Review, showsStem } = reviews[content.type] as unknown as Reviewing<QuestionContent, QuestionResponse>;
  return (
    <>
      {!showsStem && <RichText rich={content.stem} className="mb-2 text-lg" />}
      <Review content={content} presentation={presentation} response={response} />
    </>
  );
}
