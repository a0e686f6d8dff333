import type { QuestionContent } from './content';
import type { QuestionType } from './types';
import { type NumericResponse, type NumericView, readNumericResponse, viewNumeric } from './types/numeric/student';
import {
  readSingleChoiceResponse,
  type SingleChoicePresentation,
  type SingleChoiceResponse,
  type SingleChoiceView,
  viewSingleChoice,
} from './types/single-choice/student';
import { readWritten, viewWritten, type WrittenText, type WrittenView } from './types/written/student';

/** What one paper fixed about a question: order of choices, later the values of variables. Stored, never re-derived. */
export type Presentation = Partial<SingleChoicePresentation>;

/** A question as a student may see it before release. */
export type ShownQuestion = SingleChoiceView | NumericView | WrittenView;

export type QuestionResponse = SingleChoiceResponse | NumericResponse | WrittenText;

/** The explicit projection for students: each type builds its view from what it names, nothing is deleted from a full one. */
export function forStudent(content: QuestionContent, presentation: Presentation): ShownQuestion {
  switch (content.type) {
    case 'single-choice':
      return viewSingleChoice(content, { choices: presentation.choices ?? [] });
    case 'numeric':
      return viewNumeric(content);
    case 'written':
      return viewWritten(content);
  }
}

const readers: Record<QuestionType, (input: unknown) => QuestionResponse | undefined | null> = {
  'single-choice': readSingleChoiceResponse,
  numeric: readNumericResponse,
  written: readWritten,
};

/** Reads any JSON as a response to a question of the type: null is a refusal, undefined an empty response. */
export const readResponse = (type: QuestionType, input: unknown): QuestionResponse | undefined | null =>
  readers[type](input);
