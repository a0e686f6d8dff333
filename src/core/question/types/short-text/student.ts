import type { Rich } from '../../../base/rich';
import { asFields } from '../../readJson';
import type { ShortTextContent } from './content';

/** A short text as a student sees it. */
export type ShortTextView = { type: 'short-text'; stem: Rich };

/** The words as they were typed, at most {@link longestShortText} characters. */
export type ShortTextResponse = { text: string };

/** The most characters a short answer may hold. */
export const longestShortText = 500;

/** Builds the student's view from nothing. */
export const viewShortText = (content: ShortTextContent): ShortTextView => ({ type: 'short-text', stem: content.stem });

/** Reads any JSON: null where it is no such text, undefined where it is blank. */
export function readShortText(input: unknown): ShortTextResponse | undefined | null {
  if (input === null || input === undefined) return undefined;
  const text = asFields(input)?.text;
  if (typeof text !== 'string' || text.length > longestShortText) return null;
  return text.trim() === '' ? undefined : { text };
}
