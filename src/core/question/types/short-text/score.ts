import { byHand, creditOf, type Scored } from '../../scored';
import { matchText } from '../../text/matchText';
import { exampleOf } from '../../text/wildcards';
import type { ShortTextContent } from './content';
import type { ShortTextResponse } from './student';

/** The credit of the best accepted answer that matches; without a key a person judges it. */
export const scoreShortText = (content: ShortTextContent, response: ShortTextResponse): Scored =>
  content.accepted.length === 0
    ? byHand
    : creditOf(matchText(content.accepted, content.matching, response.text)?.credit ?? 0);

/** The first answer of full credit; where it may be matched by wildcards, an example of it. */
export function rightShortText(content: ShortTextContent): ShortTextResponse {
  const text = content.accepted.find((one) => one.credit === 1)?.text ?? '';
  return { text: content.matching.wildcards ? exampleOf(text) : text };
}
