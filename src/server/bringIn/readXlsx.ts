import { type Row, readSheet } from 'read-excel-file/universal';
import writeExcelFile from 'write-excel-file/node';
import { mostRows } from '@/core/bank/bringIn/readTable';
import { ok, type Result, refused } from '@/core/base/result';
import { unpack, xmlText } from './unpack';

/** Cells to the right of this column are left out. */
const mostColumns = 200;

/**
 * The first sheet of a spreadsheet as texts, rows without any left out.
 *
 * @param limit how many rows it may have, and how that is said
 */
export async function readXlsx(
  bytes: Uint8Array,
  { most, of }: { most: number; of: string } = {
    most: mostRows * 4,
    of: `at most ${mostRows} questions are read at once`,
  },
): Promise<Result<string[][]>> {
  // Looked at before the reader unfolds it: a sheet can hold a million rows in a few bytes.
  const parts = unpack(bytes, () => true);
  if (!parts.ok) return parts;
  if (!parts.value.has('xl/workbook.xml')) return refused('other-kind', 'This is no spreadsheet (.xlsx).');
  for (const [name, part] of parts.value) {
    if (!name.endsWith('.xml') && !name.endsWith('.rels')) continue;
    const text = xmlText(part);
    if (!text.ok) return text;
    if (!name.startsWith('xl/worksheets/sheet')) continue;
    const { rows, columns } = reachOf(text.value);
    if (rows > most || rows * columns > most * mostColumns)
      return refused(
        'bad-input',
        `This sheet reaches to row ${rows}, most of it surely empty; ${of}. Copy the filled part into a new sheet.`,
      );
  }
  try {
    const table: string[][] = [];
    for (const row of await readSheet(new Blob([Uint8Array.from(bytes)]), 1, { trim: false })) {
      const cells = filled(row).slice(0, mostColumns).map(cellText);
      if (cells.some((cell) => cell.trim() !== '')) table.push(cells);
    }
    return ok(table);
  } catch {
    return refused('bad-input', 'This spreadsheet is damaged: it cannot be read.');
  }
}

/** How far down and to the right a sheet's cells lie: the reader lays out every cell up to there. */
function reachOf(sheet: string): { rows: number; columns: number } {
  let rows = 0;
  let columns = 0;
  let written = 0;
  for (const row of sheet.matchAll(/<(?:\w+:)?row(?=[\s>/])(?:[^>]*?\sr="(\d+)")?/g)) {
    written += 1;
    rows = Math.max(rows, written, Number(row[1] ?? 0));
  }
  for (const [, letters = '', row] of sheet.matchAll(/<(?:\w+:)?c\s(?:[^>]*?\s)?r="([A-Z]{1,3})(\d+)"/g)) {
    rows = Math.max(rows, Number(row));
    columns = Math.max(
      columns,
      [...letters].reduce((so, letter) => so * 26 + letter.charCodeAt(0) - 64, 0),
    );
  }
  return { rows, columns };
}

/** A row up to its last filled cell: the reader makes all as long as the longest. */
function filled(row: Row): Row {
  return row.slice(0, row.findLastIndex((cell) => cell !== null) + 1);
}

function cellText(cell: unknown): string {
  if (cell === null || cell === undefined) return '';
  return cell instanceof Date ? cell.toISOString().slice(0, 10) : String(cell);
}

/** A table as a spreadsheet. Cells are texts and numbers, never formulas, so that nothing in them is run. */
export async function writeXlsx(
  name: string,
  table: readonly (readonly (string | number | null)[])[],
): Promise<Uint8Array> {
  const [head = [], ...rows] = table;
  const book = writeExcelFile(
    [head.map((value) => (value === null ? null : { value, fontWeight: 'bold' })), ...rows.map((row) => [...row])],
    {
      sheet: name.replace(/[[\]*?/\\:]/g, ' ').slice(0, 31) || 'Sheet',
      stickyRowsCount: 1,
      columns: head.map(() => ({ width: 24 })),
    },
  );
  return new Uint8Array(await book.toBuffer());
}
