import { formulaWithoutValue, mostRows } from '@/core/bank/bringIn/readTable';
import { ok, type Result, refused } from '@/core/base/result';
import { NotRead, readXml } from './readXml';
import { unpack } from './unpack';

/** How many rows a sheet may have, and how that is said. */
export type SheetLimit = { most: number; of: string };

/** Cells to the right of this column are left out. */
const mostColumns = 200;

/** The longest text of one cell, and of all cells together, in characters. */
const longest = { cell: 200_000, sheet: 30_000_000 };

/**
 * The first sheet of a spreadsheet (Office Open XML) as texts, rows without any left out. Only cells that are written down
 * are looked at: nothing is laid out between them, and what is merged, validated or drawn is passed over.
 *
 * @param limit how many rows it may have, and how that is said
 */
export function readXlsx(
  bytes: Uint8Array,
  limit: SheetLimit = { most: mostRows * 4, of: `at most ${mostRows} questions are read at once` },
): Result<string[][]> {
  const parts = unpack(bytes, (name) => name.startsWith('xl/') && /\.(xml|rels)$/.test(name));
  if (!parts.ok) return parts;
  const workbook = parts.value.get('xl/workbook.xml');
  if (!workbook) return refused('other-kind', 'This is no spreadsheet (.xlsx).');
  const part = (name: string) => parts.value.get(`xl/${name}`);
  try {
    const { first, from1904 } = bookOf(workbook, part('_rels/workbook.xml.rels'));
    const sheet = part(first);
    if (!sheet) return refused('bad-input', 'This spreadsheet is damaged: its first sheet is missing.');
    return ok(cellsOf(sheet, limit, textsOf(part('sharedStrings.xml')), datesOf(part('styles.xml')), from1904));
  } catch (why) {
    if (why instanceof NotRead) return refused('bad-input', why.message);
    throw why;
  }
}

/** Where the first sheet lies, and whether days are counted from 1904. */
function bookOf(workbook: Uint8Array, relations: Uint8Array | undefined): { first: string; from1904: boolean } {
  let id: string | undefined;
  let from1904 = false;
  readXml(workbook, {
    open({ name, attributes }) {
      if (name === 'workbookPr') from1904 = ['1', 'true'].includes(attributes.date1904 ?? '');
      if (name === 'sheet') id ??= attributes.id;
    },
    close() {},
  });
  let first = 'worksheets/sheet1.xml';
  if (relations)
    readXml(relations, {
      open({ name, attributes: { Id, Target = '' } }) {
        if (name === 'Relationship' && Id === id && id !== undefined) first = Target.replace(/^\/?(?:xl\/)?/, '');
      },
      close() {},
    });
  return { first, from1904 };
}

/** The texts that cells name by their number. How they are pronounced, which some hold besides, is left out. */
function textsOf(xml: Uint8Array | undefined): string[] {
  const texts: string[] = [];
  if (!xml) return texts;
  let said: string[] = [];
  let spoken = 0;
  let inText = false;
  readXml(xml, {
    open({ name }) {
      if (name === 'si') said = [];
      if (name === 'rPh') spoken += 1;
      inText = name === 't' && spoken === 0;
    },
    text(text) {
      if (inText) said.push(text);
    },
    close(name) {
      inText = false;
      if (name === 'rPh') spoken -= 1;
      if (name === 'si') texts.push(said.join(''));
    },
  });
  return texts;
}

/** Which styles of cells show a number as a day, by their place. Numbers of formats: ECMA-376 part 1, 18.8.30. */
function datesOf(xml: Uint8Array | undefined): boolean[] {
  const dates: boolean[] = [];
  if (!xml) return dates;
  const own = new Map<string, boolean>();
  let inCells = false;
  readXml(xml, {
    open({ name, attributes: { numFmtId = '', formatCode = '' } }) {
      if (name === 'numFmt')
        own.set(numFmtId, /[dy]/i.test(formatCode.replace(/"[^"]*(?:"|$)|\[[^\]]*(?:\]|$)|\\./g, '')));
      if (name === 'cellXfs') inCells = true;
      const number = Number(numFmtId);
      if (name === 'xf' && inCells) dates.push(own.get(numFmtId) ?? ((number >= 14 && number <= 17) || number === 22));
    },
    close(name) {
      if (name === 'cellXfs') inCells = false;
    },
  });
  return dates;
}

function cellsOf(
  xml: Uint8Array,
  { most, of }: SheetLimit,
  texts: readonly string[],
  dates: readonly boolean[],
  from1904: boolean,
): string[][] {
  const table: string[][] = [];
  let row: string[] = [];
  let at = { row: 0, column: 0 };
  let cell = { type: 'n', isDate: false };
  let said: string[] | null = null;
  let length = 0;
  let hasFormula = false;
  const put = (text: string) => {
    length += text.length;
    if (text.length > longest.cell || length > longest.sheet)
      throw new NotRead('This sheet holds far more text than a table that people write.');
    if (at.column >= mostColumns) return;
    while (row.length <= at.column) row.push('');
    row[at.column] = text;
  };
  readXml(xml, {
    open({ name, attributes: { r = '', t = 'n', s = '' } }) {
      if (name === 'row') {
        at = { row: Number(r) || at.row + 1, column: -1 };
        row = [];
        if (at.row > most)
          throw new NotRead(
            `This sheet goes on below row ${most}, most of it surely empty; ${of}. Copy the filled part into a new sheet.`,
          );
      } else if (name === 'c') {
        at.column = columnOf(r) ?? at.column + 1;
        cell = { type: t, isDate: dates[Number(s)] ?? false };
        hasFormula = false;
      } else if (name === 'f') hasFormula = true;
      else if (name === 'v' || name === 't') said = [];
      else if (name === 'is') cell.type = 'inlineStr';
    },
    text(text) {
      said?.push(text);
    },
    close(name) {
      if ((name === 'v' || name === 't') && said) {
        const text = said.join('');
        said = null;
        put(cell.type === 'inlineStr' ? `${row[at.column] ?? ''}${text}` : cellText(text, cell, texts, from1904));
      } else if (name === 'c') {
        // A program that wrote the sheet without working it out leaves formulas without values: no empty cell is made of one.
        if (hasFormula && (row[at.column] ?? '') === '') put(formulaWithoutValue);
      } else if (name === 'row' && row.some((one) => one.trim() !== '')) table.push(row);
    },
  });
  return table;
}

/** The column of a place such as `AB12`, from 0; null where none is named. */
function columnOf(place: string): number | null {
  const letters = /^[A-Z]{1,3}/.exec(place)?.[0];
  if (!letters) return null;
  return [...letters].reduce((so, letter) => so * 26 + letter.charCodeAt(0) - 64, 0) - 1;
}

function cellText(
  text: string,
  { type, isDate }: { type: string; isDate: boolean },
  texts: readonly string[],
  from1904: boolean,
): string {
  if (type === 's') return texts[Number(text)] ?? '';
  if (type === 'b') return text === '1' ? 'true' : 'false';
  if (type === 'd') return text.slice(0, 10);
  const number = Number(text);
  if (type !== 'n' || text.trim() === '' || !Number.isFinite(number)) return text;
  return isDate ? dayNumbered(number, from1904) : String(number);
}

/** The day of a number, counted from 30 December 1899 (what spreadsheets call 1900 counts a 29 February too many). */
function dayNumbered(days: number, from1904: boolean): string {
  const moment = new Date(Math.round((days + (from1904 ? 1_462 : 0) - 25_569) * 86_400_000));
  return Number.isNaN(moment.getTime()) ? String(days) : moment.toISOString().slice(0, 10);
}
