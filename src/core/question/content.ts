import { z } from 'zod';
import { richText } from '../base/rich';
import type { QuestionType } from './types';
import { blankDate, dateContent, dateText } from './types/date/content';
import { blankGapFill, gapFillContent, gapFillText } from './types/gap-fill/content';
import { blankMatching, matchingContent, matchingText } from './types/matching/content';
import { blankMultipleChoice, multipleChoiceContent } from './types/multiple-choice/content';
import { blankNumeric, numericContent, numericText } from './types/numeric/content';
import { blankOrdering, orderingContent, orderingText } from './types/ordering/content';
import { blankRatingScale, ratingScaleContent, ratingScaleText } from './types/rating-scale/content';
import { blankShortText, shortTextContent, shortTextText } from './types/short-text/content';
import { blankSingleChoice, choiceQuestionText, singleChoiceContent } from './types/single-choice/content';
import { blankTrueFalse, trueFalseContent, trueFalseText } from './types/true-false/content';
import { blankWritten, writtenContent, writtenText } from './types/written/content';

/** What one version of a question holds. Once frozen it never changes. */
export const questionContent = z.discriminatedUnion('type', [
  singleChoiceContent,
  multipleChoiceContent,
  trueFalseContent,
  shortTextContent,
  numericContent,
  gapFillContent,
  matchingContent,
  orderingContent,
  writtenContent,
  ratingScaleContent,
  dateContent,
]);

export type QuestionContent = z.output<typeof questionContent>;
export type ContentOf<Type extends QuestionType> = Extract<QuestionContent, { type: Type }>;

const blanks: { [Type in QuestionType]: () => ContentOf<Type> } = {
  'single-choice': blankSingleChoice,
  'multiple-choice': blankMultipleChoice,
  'true-false': blankTrueFalse,
  'short-text': blankShortText,
  numeric: blankNumeric,
  'gap-fill': blankGapFill,
  matching: blankMatching,
  ordering: blankOrdering,
  written: blankWritten,
  'rating-scale': blankRatingScale,
  date: blankDate,
};

export const blankContent = (type: QuestionType): QuestionContent => blanks[type]();

const texts: { [Type in QuestionType]: (content: ContentOf<Type>) => string } = {
  'single-choice': choiceQuestionText,
  'multiple-choice': choiceQuestionText,
  'true-false': trueFalseText,
  'short-text': shortTextText,
  numeric: numericText,
  'gap-fill': gapFillText,
  matching: matchingText,
  ordering: orderingText,
  written: writtenText,
  'rating-scale': ratingScaleText,
  date: dateText,
};

/** The question's words, for lists, search and export. */
export const contentText = <Type extends QuestionType>(content: ContentOf<Type>): string =>
  (texts[content.type] as (content: ContentOf<Type>) => string)(content);

/** The first line of the stem: what a list shows when a question has no short name. */
export const stemLine = (content: QuestionContent): string => richText(content.stem).split('\n')[0] ?? '';
