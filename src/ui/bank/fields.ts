import { pointsText } from '@/core/base/rounding';
import type { OpenQuestion } from './model';

/** What stands on a question's sheet. */
export type Fields = Pick<
  OpenQuestion,
  'categoryId' | 'shortName' | 'difficulty' | 'content' | 'tags' | 'passageId'
> & {
  points: string;
  objectives: string[];
};

/** A question as it stands on its sheet; no points are those of its bank. */
export const fieldsOf = (question: OpenQuestion): Fields => ({
  categoryId: question.categoryId,
  shortName: question.shortName,
  difficulty: question.difficulty,
  points: question.ownPoints === null ? '' : pointsText(question.ownPoints),
  content: question.content,
  tags: question.tags,
  passageId: question.passageId,
  objectives: question.objectives.map((one) => one.id),
});
