import type { SingleChoiceContent } from '@/core/question/types/single-choice/content';
import type { SingleChoiceResponse } from '@/core/question/types/single-choice/student';
import { ChoiceReview } from '../ChoiceReview';
import type { ReviewProps } from '../reviewing';

export const SingleChoiceReview = ({
  content,
  presentation,
  response,
}: ReviewProps<SingleChoiceContent, SingleChoiceResponse>) => (
  <ChoiceReview choices={content.choices} presentation={presentation} picked={response ? [response.picked] : null} />
);
