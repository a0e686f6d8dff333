import { numberRead, pointsRead, type RowReading } from './judgeMarks';
import { boxLabels, gridSigns, type SheetRow } from './sheetRow';

/** What was typed for a row, as the signs that would be filled in; or why it cannot be. */
export type TypedRow = { signs: string[] } | { problem: string };

/** Typed for a row that was left out. */
const leftOut = new Set(['', '-', '–', '−']);

/**
 * Reads what somebody types off a paper for one row: a letter; letters in a row where several may be right; a number;
 * points. Nothing, or a hyphen, stands for a row that was left out.
 *
 * @example typedRow({ kind: 'choice', label: '1', options: ['A', 'B'], several: false }, 'b') // { signs: ['B'] }
 */
export function typedRow(row: SheetRow, text: string): TypedRow {
  const typed = text.trim();
  if (row.kind === 'number') return typedNumber(row, typed);
  if (leftOut.has(typed)) return { signs: [] };
  if (row.kind === 'points') return typedPoints(row, typed);
  const labels = boxLabels(row);
  const signOf = (one: string) => labels.find((label) => label.toLowerCase() === one.toLowerCase());
  const several = row.kind === 'choice' && row.several;
  const parts = several && signOf(typed) === undefined ? severalOf(typed, labels) : [typed];
  const signs = parts.map((part) => signOf(part));
  const unknown = parts[signs.indexOf(undefined)];
  if (unknown !== undefined) return { problem: `Not “${unknown}”: ${labels.join(' ')}.` };
  return { signs: labels.filter((label) => signs.includes(label)) };
}

/** Letters in a row, or signs with spaces or commas between them. */
const severalOf = (typed: string, labels: readonly string[]): string[] =>
  /[\s,;]/.test(typed) || labels.some((label) => label.length > 1)
    ? typed.split(/[\s,;]+/).filter(Boolean)
    : [...typed];

function typedNumber(row: Extract<SheetRow, { kind: 'number' }>, typed: string): TypedRow {
  const signs = [...typed.replace(/[-–]/g, '−').replace(',', '.').toUpperCase()];
  const known = gridSigns(row);
  const unknown = signs.find((sign) => !known.includes(sign));
  if (unknown !== undefined) return { problem: `Not “${unknown}”: ${known.join(' ')}.` };
  if (signs.length > row.columns) return { problem: `At most ${row.columns} signs.` };
  return { signs: signs.length ? Array.from({ length: row.columns }, (_, i) => signs[i] ?? '') : [] };
}

function typedPoints({ most, halves }: Extract<SheetRow, { kind: 'points' }>, typed: string): TypedRow {
  const plain = typed.replace(/^(\d*)½$/, (_, whole: string) => `${whole || 0}.5`).replace(',', '.');
  const points = /^\d{1,3}(\.\d)?$/.test(plain) ? Number(plain) : Number.NaN;
  const whole = Math.floor(points);
  if (Number.isNaN(points) || (points !== whole && !(halves && points - whole === 0.5)))
    return { problem: halves ? `Points from 0 to ${most}, halves too.` : `Whole points from 0 to ${most}.` };
  if (points > most) return { problem: `At most ${most}.` };
  const signs = most <= 10 || whole < 10 ? [String(whole)] : [String(Math.floor(whole / 10) * 10), String(whole % 10)];
  return { signs: points === whole ? signs : [...signs, '½'] };
}

/**
 * The signs of a row as somebody would type them.
 *
 * @example rowAsTyped({ kind: 'choice', label: '1', options: ['A', 'B', 'C'], several: true }, ['A', 'C']) // 'AC'
 */
export function rowAsTyped(row: SheetRow, signs: readonly string[]): string {
  if (row.kind === 'number') return numberRead(signs);
  if (row.kind === 'points') return String(pointsRead(signs) ?? '');
  return signs.join(signs.some((sign) => sign.length > 1) ? ' ' : '');
}

/** Whether nothing could follow what was typed: whoever types is on to the next row. */
export function isTypedOut(row: SheetRow, text: string): boolean {
  const typed = text.trim().toLowerCase();
  if (typed === '-') return row.kind !== 'number';
  if (row.kind === 'number' || row.kind === 'points' || (row.kind === 'choice' && row.several)) return false;
  const labels = boxLabels(row).map((label) => label.toLowerCase());
  return labels.includes(typed) && !labels.some((label) => label !== typed && label.startsWith(typed));
}

/**
 * A row that was typed twice: where both say the same, it says so; else it waits for a person, who sees both.
 *
 * @param first what was typed first; undefined where it was not
 */
export const typedTwice = (row: number, first: readonly string[] | undefined, second: readonly string[]): RowReading =>
  first === undefined || sameSigns(first, second)
    ? { row, filled: [...second], doubt: null }
    : { row, filled: [...first], doubt: 'two-entries', other: [...second] };

/** The signs up to the last that stands for something. */
function withoutEnd(signs: readonly string[]): string {
  let end = signs.length;
  while (end > 0 && signs[end - 1] === '') end -= 1;
  return signs.slice(0, end).join('|');
}

/** Whether two rows say the same: what was left out of a grid is as empty as a grid of nothing. */
export const sameSigns = (a: readonly string[], b: readonly string[]): boolean => withoutEnd(a) === withoutEnd(b);
