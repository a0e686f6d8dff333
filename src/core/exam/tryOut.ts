import { richFromText } from '../base/rich';
import type { QuestionContent } from '../question/content';
import { definitions } from '../question/definitions';
import { questionTypes } from '../question/types';
import { blankDesign, type ExamDesign } from './design';

/** One easy question of each type. */
export const tryOutQuestions: readonly QuestionContent[] = questionTypes.map((type) => definitions[type].example);

/** The try-out as an exam: one question a page, a point each, with half an hour. */
export const tryOutDesign: ExamDesign = {
  ...blankDesign('try-out'),
  instructions: richFromText(
    'Nothing here counts, and nothing is kept. Answer, mark a question to come back to, go back and forth, and hand in at the end, as in an exam.',
  ),
};
