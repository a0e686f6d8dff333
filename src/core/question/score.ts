import type { Random } from '../base/random';
import type { QuestionContent } from './content';
import type { Scored } from './scored';
import { type Presentation, type QuestionResponse, readResponse } from './student';
import { rightNumeric, scoreNumeric } from './types/numeric/score';
import type { NumericResponse } from './types/numeric/student';
import { presentSingleChoice, rightSingleChoice, scoreSingleChoice } from './types/single-choice/score';
import type { SingleChoiceResponse } from './types/single-choice/student';
import { rightWritten, scoreWritten } from './types/written/score';

/** Fixes for one paper what may differ between papers. */
export const present = (content: QuestionContent, random: Random): Presentation =>
  content.type === 'single-choice' ? presentSingleChoice(content, random) : {};

/**
 * Scores a stored response. Total: any JSON gives credit in [0, 1] or the word that a person judges it. An empty
 * response earns 0 under every rule, also where a full one is marked by hand.
 */
export function scoreResponse(content: QuestionContent, presentation: Presentation, stored: unknown): Scored {
  const response = readResponse(content.type, stored);
  if (response === undefined || response === null) return { kind: 'credit', credit: 0 };
  switch (content.type) {
    case 'single-choice':
      return scoreSingleChoice(content, { choices: presentation.choices ?? [] }, response as SingleChoiceResponse);
    case 'numeric':
      return scoreNumeric(content, response as NumericResponse);
    case 'written':
      return scoreWritten();
  }
}

/** A response that earns full credit; for written answers, the model answer. */
export function rightResponse(content: QuestionContent, presentation: Presentation): QuestionResponse {
  switch (content.type) {
    case 'single-choice':
      return rightSingleChoice(content, { choices: presentation.choices ?? [] });
    case 'numeric':
      return rightNumeric(content);
    case 'written':
      return rightWritten(content);
  }
}
