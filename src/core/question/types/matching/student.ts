import type { Rich } from '../../../base/rich';
import type { Presentation } from '../../presentation';
import { asFields, asTexts } from '../../readJson';
import { type ShownChoice, shownChoices } from '../single-choice/student';
import type { MatchingContent } from './content';

/** A matching as a student sees it: prompts and options in the orders of the paper. */
export type MatchingView = {
  type: 'matching';
  stem: Rich;
  prompts: ShownChoice[];
  options: { key: string; text: string }[];
};

/** The key of the option put to each prompt, by the prompt's key. */
export type MatchingResponse = { pairs: Record<string, string> };

/** Builds the student's view from nothing. */
export const viewMatching = (content: MatchingContent, presentation: Presentation): MatchingView => ({
  type: 'matching',
  stem: content.stem,
  prompts: shownChoices(
    content.pairs.map(({ id, prompt }) => ({ id, content: prompt })),
    presentation.choices,
  ),
  // A list on a paper names each option by its text, so nothing has to be looked up.
  options: (presentation.lists?.options ?? []).map(({ key, id }) => ({ key, text: id })),
});

/**
 * Reads any JSON: at most 20 prompts; null where it is anything else, undefined where nothing was put anywhere.
 */
export function readMatchingResponse(input: unknown): MatchingResponse | undefined | null {
  if (input === null || input === undefined) return undefined;
  const pairs = asTexts(asFields(input)?.pairs, 20, 40);
  if (!pairs) return null;
  const put = Object.entries(pairs).filter(([, option]) => option !== '');
  return put.length ? { pairs: Object.fromEntries(put) } : undefined;
}
