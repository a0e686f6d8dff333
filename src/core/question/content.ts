import { z } from 'zod';
import { richText } from '../base/rich';
import type { QuestionType } from './types';
import { blankNumeric, numericContent, numericText } from './types/numeric/content';
import { blankSingleChoice, singleChoiceContent, singleChoiceText } from './types/single-choice/content';
import { blankWritten, writtenContent, writtenText } from './types/written/content';

/** What one version of a question holds. Once frozen it never changes. */
export const questionContent = z.discriminatedUnion('type', [singleChoiceContent, numericContent, writtenContent]);

export type QuestionContent = z.output<typeof questionContent>;
export type ContentOf<Type extends QuestionType> = Extract<QuestionContent, { type: Type }>;

const blanks: { [Type in QuestionType]: () => ContentOf<Type> } = {
  'single-choice': blankSingleChoice,
  numeric: blankNumeric,
  written: blankWritten,
};

export const blankContent = (type: QuestionType): QuestionContent => blanks[type]();

/** The question's words, for lists, search and export. */
export function contentText(content: QuestionContent): string {
  switch (content.type) {
    case 'single-choice':
      return singleChoiceText(content);
    case 'numeric':
      return numericText(content);
    case 'written':
      return writtenText(content);
  }
}

/** The first line of the stem: what a list shows when a question has no short name. */
export const stemLine = (content: QuestionContent): string => richText(content.stem).split('\n')[0] ?? '';
