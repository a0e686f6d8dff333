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
