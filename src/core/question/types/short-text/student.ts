import type { Rich } from '../../../base/rich';
import { asFields } from '../../readJson';
import type { ShortTextContent } from './content';

export type ShortTextView = { type: 'short-text'; stem: Rich };

export type ShortTextResponse = { text: string };

/** The most characters a short answer may hold. */
export const longestShortText = 500;

export const viewShortText = (content: ShortTextContent): ShortTextView => ({ type: 'short-text', stem: content.stem });

export function readShortText(input: unknown): ShortTextResponse | undefined | null {
  if (input === null || input === undefined) return undefined;
  const text = asFields(input)?.text;
  if (typeof text !== 'string' || text.length > longestShortText) return null;
  return text.trim() === '' ? undefined : { text };
}
