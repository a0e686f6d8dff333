import type { Rich } from '../../../base/rich';
import type { SingleChoiceContent } from './content';

/** The order in which one paper shows the choices. The keys are random per paper, so that they tell nothing. */
export type SingleChoicePresentation = { choices: { key: string; id: string }[] };

/** All that a student's browser learns of the question before release. */
export type SingleChoiceView = { type: 'single-choice'; stem: Rich; choices: { key: string; content: Rich }[] };

/** The key of the picked choice. */
export type SingleChoiceResponse = { picked: string };

/** Builds the student's view from nothing, taking only what it names. */
export function viewSingleChoice(
  content: SingleChoiceContent,
  presentation: SingleChoicePresentation,
): SingleChoiceView {
  const byId = new Map(content.choices.map((choice) => [choice.id, choice.content]));
  return {
    type: 'single-choice',
    stem: content.stem,
    choices: presentation.choices.flatMap(({ key, id }) => {
      const shown = byId.get(id);
      return shown ? [{ key, content: shown }] : [];
    }),
  };
}

/** Reads what a browser sent; null means that it is no response to such a question, `undefined` that it is empty. */
export function readSingleChoiceResponse(input: unknown): SingleChoiceResponse | undefined | null {
  if (input === null || input === undefined) return undefined;
  if (typeof input !== 'object') return null;
  const picked = (input as { picked?: unknown }).picked;
  return typeof picked === 'string' && picked.length > 0 && picked.length <= 40 ? { picked } : null;
}
