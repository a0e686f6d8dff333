import type { Random } from '../../../base/random';
import { richText } from '../../../base/rich';
import { idOf, keyOf, layOut, type Presentation } from '../../presentation';
import { creditOf, type Scored } from '../../scored';
import { type MatchingContent, optionsOf, sameText } from './content';
import type { MatchingResponse } from './student';

/** Prompts and options, each shuffled for itself. */
export const presentMatching = (content: MatchingContent, random: Random): Presentation => ({
  choices: layOut(content.pairs, true, random),
  lists: {
    options: layOut(
      optionsOf(content).map(({ text }) => ({ id: text })),
      true,
      random,
    ),
  },
});

/** The text that the response put to each pair, by the pair's id. */
export function textsPut(presentation: Presentation, response: MatchingResponse): Map<string, string> {
  const put = new Map<string, string>();
  for (const [prompt, option] of Object.entries(response.pairs)) {
    const id = idOf(presentation.choices, prompt);
    const text = idOf(presentation.lists?.options, option);
    if (id !== undefined && text !== undefined) put.set(id, text);
  }
  return put;
}

/** The share of pairs whose texts are right, or all or nothing. Texts are compared, not places. */
export function scoreMatching(
  content: MatchingContent,
  presentation: Presentation,
  response: MatchingResponse,
): Scored {
  const put = textsPut(presentation, response);
  const right = content.pairs.filter((pair) => sameText(put.get(pair.id) ?? '') === sameText(pair.answer)).length;
  const share = right / content.pairs.length;
  return creditOf(content.rule === 'share' || share === 1 ? share : 0);
}

/** To each prompt the key of an option with its text. */
export const rightMatching = (content: MatchingContent, presentation: Presentation): MatchingResponse => ({
  pairs: Object.fromEntries(
    content.pairs.map((pair) => {
      const shown = presentation.lists?.options?.find((option) => sameText(option.id) === sameText(pair.answer));
      return [keyOf(presentation.choices, pair.id), shown?.key ?? ''];
    }),
  ),
});

/** `prompt → option` for each pair in the author's order. */
export function matchingResponseText(
  content: MatchingContent,
  presentation: Presentation,
  response: MatchingResponse,
): string {
  const put = textsPut(presentation, response);
  return content.pairs.map((pair) => `${richText(pair.prompt)} → ${put.get(pair.id) ?? ''}`).join('; ');
}
