import Papa from 'papaparse';

/**
 * A table as CSV text that a spreadsheet opens safely: a cell that a spreadsheet would take for a formula (beginning
 * with = + - @ or a control character, and not a plain number) is led by an apostrophe. Begins with a byte order mark,
 * so that spreadsheets read it as UTF-8.
 */
export function csvText(header: readonly string[], rows: readonly (string | number | null)[][]): string {
  const cell = (value: string | number | null) => (value === null ? '' : harmless(String(value)));
  return `\ufeff${Papa.unparse({ fields: header.map(harmless), data: rows.map((row) => row.map(cell)) }, { newline: '\r\n' })}\r\n`;
}

/** Neutralises text that a spreadsheet would run. */
export function harmless(text: string): string {
  if (/^-?\d+([.,]\d+)?$/.test(text)) return text;
  return /^[\s]*[=+\-@\t\r]/.test(text) ? `'${text}` : text;
}

/** A cell as it was before {@link harmless} led it by an apostrophe. */
export const unguarded = (text: string): string => (/^'\s*[=+\-@\t\r]/.test(text) ? text.slice(1) : text);

/** The rows of a CSV text, whatever divides its cells (comma, semicolon, tab). */
export function readCsv(text: string): string[][] {
  return Papa.parse<string[]>(text.replace(/^\ufeff/, ''), { skipEmptyLines: 'greedy' }).data;
}
