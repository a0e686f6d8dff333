import type { Rich } from '../../../base/rich';
import type { Choice } from '../../choices';
import type { Presentation, ShownItem } from '../../presentation';
import { asFields, asKey } from '../../readJson';
import type { SingleChoiceContent } from './content';

/** A choice as a student sees it: a key of this paper and what it says. */
export type ShownChoice = { key: string; content: Rich };

/** How choices are labelled; absent: from A on. */
export type Labelled = { labels?: string };

/** How the choices of a paper are labelled, for a view. */
export const labelledAs = ({ labels }: Presentation): Labelled => (labels === undefined ? {} : { labels });

/** All that a student's browser learns of the question before release. */
export type SingleChoiceView = Labelled & { type: 'single-choice'; stem: Rich; choices: ShownChoice[] };

/** The key of the picked choice. */
export type SingleChoiceResponse = { picked: string };

/** The choices of a paper in its order, taking only key and content. */
export function shownChoices(
  choices: readonly Pick<Choice, 'id' | 'content'>[],
  shown: readonly ShownItem[] = [],
): ShownChoice[] {
  const byId = new Map(choices.map((choice) => [choice.id, choice.content]));
  return shown.flatMap(({ key, id }) => {
    const content = byId.get(id);
    return content ? [{ key, content }] : [];
  });
}

/** Builds the student's view from nothing, taking only what it names. */
export const viewSingleChoice = (content: SingleChoiceContent, presentation: Presentation): SingleChoiceView => ({
  type: 'single-choice',
  stem: content.stem,
  choices: shownChoices(content.choices, presentation.choices),
  ...labelledAs(presentation),
});

/** Reads what a browser sent; null means that it is no response to such a question, `undefined` that it is empty. */
export function readSingleChoiceResponse(input: unknown): SingleChoiceResponse | undefined | null {
  if (input === null || input === undefined) return undefined;
  const picked = asKey(asFields(input)?.picked);
  return picked === null ? null : { picked };
}
