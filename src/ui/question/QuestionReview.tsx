import type { QuestionContent } from '@/core/question/content';
import { NumericReview } from './numeric/Review';
import { SingleChoiceReview } from './single-choice/Review';
import { WrittenReview } from './written/Review';

/** The key of a question of any type, for those who may see it. */
export function QuestionReview({ content, order }: { content: QuestionContent; order?: string[] }) {
  switch (content.type) {
    case 'single-choice':
      return <SingleChoiceReview content={content} order={order} />;
    case 'numeric':
      return <NumericReview content={content} />;
    case 'written':
      return <WrittenReview content={content} />;
  }
}
