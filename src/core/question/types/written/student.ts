import type { Rich } from '../../../base/rich';
import type { WrittenContent } from './content';

export type WrittenView = { type: 'written'; stem: Rich; words: { least: number | null; most: number | null } };

/** Plain text as it was typed. */
export type WrittenText = { text: string };

/** The most characters one written answer may hold. */
export const longestWritten = 200_000;

export const viewWritten = (content: WrittenContent): WrittenView => ({
  type: 'written',
  stem: content.stem,
  words: { least: content.words.least, most: content.words.most },
});

export function readWritten(input: unknown): WrittenText | undefined | null {
  if (input === null || input === undefined) return undefined;
  if (typeof input !== 'object') return null;
  const text = (input as { text?: unknown }).text;
  if (typeof text !== 'string' || text.length > longestWritten) return null;
  return text.trim() === '' ? undefined : { text };
}

/** Words as a person counts them: runs of letters or digits, apostrophes and hyphens inside a word not dividing it. */
export const countWords = (text: string): number => text.match(/[\p{L}\p{N}]+(?:['’-][\p{L}\p{N}]+)*/gu)?.length ?? 0;
