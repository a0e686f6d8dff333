import type { Rich } from '../../../base/rich';
import type { Presentation } from '../../presentation';
import { asFields, asKeys } from '../../readJson';
import { type Labelled, labelledAs, type ShownChoice, shownChoices } from '../single-choice/student';
import type { MultipleChoiceContent } from './content';

/** A multiple choice as a student sees it. */
export type MultipleChoiceView = Labelled & { type: 'multiple-choice'; stem: Rich; choices: ShownChoice[] };

/** The keys of the picked choices, at least one. */
export type MultipleChoiceResponse = { picked: string[] };

/** Builds the student's view from nothing. */
export const viewMultipleChoice = (content: MultipleChoiceContent, presentation: Presentation): MultipleChoiceView => ({
  type: 'multiple-choice',
  stem: content.stem,
  choices: shownChoices(content.choices, presentation.choices),
  ...labelledAs(presentation),
});

/**
 * Reads any JSON: at most 20 different keys; null where it is anything else, undefined where nothing is picked.
 */
export function readMultipleChoiceResponse(input: unknown): MultipleChoiceResponse | undefined | null {
  if (input === null || input === undefined) return undefined;
  const picked = asKeys(asFields(input)?.picked, 20);
  if (picked === null) return null;
  return picked.length === 0 ? undefined : { picked };
}
