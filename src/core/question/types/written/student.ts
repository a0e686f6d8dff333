import { type Rich, readRich, richText } from '../../../base/rich';
import { asFields } from '../../readJson';
import type { WrittenContent } from './content';
import type { FileKind } from './fileKinds';

/** A written question as a student sees it. */
export type WrittenView = {
  type: 'written';
  stem: Rich;
  words: { least: number | null; most: number | null };
  format: 'plain' | 'rich';
  files: { most: number; kinds: FileKind[]; megabytes: number } | null;
  /** Nothing is entered: the answer is written on paper. */
  onPaper?: true;
};

/** A file that was handed in: the id under which the server keeps it for this answer. */
type HandedFile = { id: string; name: string; size: number };

/** The text as it was typed; where form was allowed also the rich content; and the files handed in. */
export type WrittenText = { text: string; rich?: Rich; files?: HandedFile[] };

/** The most characters one written answer may hold. */
export const longestWritten = 200_000;

/** Builds the student's view from nothing: no model answer, no rubric. */
export const viewWritten = (content: WrittenContent): WrittenView => ({
  type: 'written',
  stem: content.stem,
  words: { least: content.words.least, most: content.words.most },
  format: content.format ?? 'plain',
  files: content.files
    ? { most: content.files.most, kinds: [...content.files.kinds], megabytes: content.files.megabytes }
    : null,
  ...(content.onPaper ? { onPaper: true } : {}),
});

function readFiles(input: unknown): HandedFile[] | null {
  if (input === undefined) return [];
  if (!Array.isArray(input) || input.length > 10) return null;
  const files: HandedFile[] = [];
  for (const one of input) {
    const file = asFields(one);
    if (!file || typeof file.id !== 'string' || typeof file.name !== 'string' || typeof file.size !== 'number')
      return null;
    if (!/^[\w-]{1,40}$/.test(file.id) || file.name.length > 200 || !(file.size >= 0)) return null;
    files.push({ id: file.id, name: file.name, size: file.size });
  }
  return files;
}

/** What the field of a formed answer can make: words and lists. Everything else was not typed in it. */
const typed = new Set(['doc', 'paragraph', 'text', 'hardBreak', 'bulletList', 'orderedList', 'listItem']);

const isTyped = (node: { type: string; content?: readonly { type: string }[] }): boolean =>
  typed.has(node.type) && (node.content ?? []).every(isTyped);

/**
 * Reads any JSON: at most {@link longestWritten} characters and 10 files; null where it is anything else, undefined where
 * there is neither text nor file. Rich content is read by the one definition of it, and holds words and lists: no
 * mathematics that a server would have to set for whoever marks it, and no picture of a bank.
 */
export function readWritten(input: unknown): WrittenText | undefined | null {
  if (input === null || input === undefined) return undefined;
  const fields = asFields(input);
  if (!fields) return null;
  const files = readFiles(fields.files);
  const rich = fields.rich === undefined ? undefined : readRich(fields.rich);
  if (files === null || rich === null || (rich && !isTyped(rich))) return null;
  const text = rich ? richText(rich) : fields.text;
  if (typeof text !== 'string' || text.length > longestWritten) return null;
  if (text.trim() === '' && files.length === 0) return undefined;
  return { text, ...(rich ? { rich } : {}), ...(files.length ? { files } : {}) };
}

/** Words as a person counts them: runs of letters or digits, apostrophes and hyphens inside a word not dividing it. */
export const countWords = (text: string): number => text.match(/[\p{L}\p{N}]+(?:['’-][\p{L}\p{N}]+)*/gu)?.length ?? 0;
