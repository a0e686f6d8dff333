import ExcelJS from 'exceljs';
import { mostRows } from '@/core/bank/bringIn/readTable';
import { ok, type Result, refused } from '@/core/base/result';
import { unpack, xmlText } from './unpack';

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
    const rows = text.value.match(/<(?:\w+:)?row[\s>/]/g)?.length ?? 0;
    if (rows > most)
      return refused(
        'bad-input',
        `This sheet has ${rows} rows, most of them surely empty; ${of}. Copy the filled part into a new sheet.`,
      );
  }
  try {
    const book = new ExcelJS.Workbook();
    await book.xlsx.load(Buffer.from(bytes) as never);
    const sheet = book.worksheets[0];
    if (!sheet) return refused('bad-input', 'This spreadsheet has no sheet.');
    const table: string[][] = [];
    sheet.eachRow({ includeEmpty: false }, (row) => {
      const width = Math.min(row.cellCount, 200);
      const cells = Array.from({ length: width }, (_, i) => cellText(row.getCell(i + 1)));
      if (cells.some((cell) => cell.trim() !== '')) table.push(cells);
    });
    return ok(table);
  } catch {
    return refused('bad-input', 'This spreadsheet is damaged: it cannot be read.');
  }
}

function cellText(cell: ExcelJS.Cell): string {
  const { value } = cell;
  if (value === null || value === undefined) return '';
  if (typeof value === 'object') {
    if (value instanceof Date) return value.toISOString().slice(0, 10);
    if ('richText' in value) return value.richText.map((run) => run.text).join('');
    if ('result' in value) return value.result === undefined ? '' : String(value.result);
    if ('text' in value) return String(value.text);
    return '';
  }
  return String(value);
}

/** A table as a spreadsheet. Cells are texts and numbers, never formulas, so that nothing in them is run. */
export async function writeXlsx(
  name: string,
  table: readonly (readonly (string | number | null)[])[],
): Promise<Uint8Array> {
  const book = new ExcelJS.Workbook();
  const sheet = book.addWorksheet(name.replace(/[[\]*?/\\:]/g, ' ').slice(0, 31) || 'Sheet');
  for (const row of table) sheet.addRow(row);
  sheet.getRow(1).font = { bold: true };
  sheet.views = [{ state: 'frozen', ySplit: 1 }];
  for (const column of sheet.columns) column.width = 24;
  return new Uint8Array(await book.xlsx.writeBuffer());
}
