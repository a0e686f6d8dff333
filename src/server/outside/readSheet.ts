import { readCsv, unguarded } from '@/core/base/csv';
import { ok, type Result, refused } from '@/core/base/result';
import { readXlsx, type SheetLimit } from './readXlsx';

/** A CSV file as texts; what led a cell by an apostrophe against formulas is taken off. */
export function csvTable(bytes: Uint8Array): Result<string[][]> {
  try {
    const text = new TextDecoder('utf-8', { fatal: true }).decode(bytes);
    return ok(readCsv(text).map((row) => row.map(unguarded)));
  } catch {
    return refused(
      'bad-input',
      'This table is not written in UTF-8. Save it as “CSV UTF-8”, or as a spreadsheet (.xlsx).',
    );
  }
}

/** The first sheet of a spreadsheet as texts. */
export function xlsxTable(bytes: Uint8Array, limit: SheetLimit): Result<string[][]> {
  const read = readXlsx(bytes, limit);
  return read.ok ? ok(read.value.map((row) => row.map(unguarded))) : read;
}

/** Whether a file is packed, as spreadsheets and archives are. */
export const isPacked = (bytes: Uint8Array): boolean => bytes[0] === 0x50 && bytes[1] === 0x4b;

/** A table out of a file, by what is in it: a spreadsheet or CSV. */
export function readSheet(bytes: Uint8Array, limit: SheetLimit): Result<string[][]> {
  if (bytes.length === 0) return refused('bad-input', 'The file is empty.');
  return isPacked(bytes) ? xlsxTable(bytes, limit) : csvTable(bytes);
}
