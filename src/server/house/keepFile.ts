import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, renameSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { newId } from './context';

/** Where a file lies in a folder: under the hash of its content. */
export const keptFile = (folder: string, hash: string): string => join(folder, hash.slice(0, 2), hash);

/**
 * Keeps a file under the hash of its content; one that is there already is left. It is there whole or not at all.
 *
 * @returns the hash
 */
export function keepFile(folder: string, content: Uint8Array): string {
  const hash = createHash('sha256').update(content).digest('hex');
  const file = keptFile(folder, hash);
  if (!existsSync(file)) {
    mkdirSync(dirname(file), { recursive: true });
    const half = `${file}.${newId()}`;
    writeFileSync(half, content);
    renameSync(half, file);
  }
  return hash;
}

/** A file name that people gave, fit to be shown and to be offered for keeping. */
export const tidyFileName = (name: string): string =>
  // biome-ignore lint/suspicious/noControlCharactersInRegex: they are what has to go
  name.replace(/[\u0000-\u001f\u007f/\\]/g, ' ').slice(0, 200) || 'file';
