import type { Item } from '../exam/items/item';
import { itemKinds } from '../exam/items/kinds';
import { numberRead, type RowReading } from './judgeMarks';
import { type NumberGrid, usualGrid } from './questionRows';
import type { SheetPlan, SheetRow } from './sheetRow';

/** A sheet on which whoever asks fills in what is right, and which item each of its rows belongs to. */
export type KeySheet = { plan: SheetPlan; questionIds: string[] };

/** What of a key was read from a filled sheet. */
export type KeyOnSheet = {
  /** A line for each item, as a key is typed: `12 C`. */
  text: string;
  /** Labels of items whose row is in doubt: nothing is said for them. */
  doubts: string[];
  /** Labels of items whose row was left empty. */
  empty: string[];
};

/** A key is a number however it is written: as a fraction or a power too. */
const keyGrid: NumberGrid = { ...usualGrid, columns: 8, fraction: true, exponent: true };
const mostBoxes = 10;
const longestSign = 4;

/** The row in which the key of an item is filled in; null for what boxes cannot hold, and what has no key. */
function rowOf(item: Item): SheetRow | null {
  const label = item.label.slice(0, 12);
  const { onSheet, row, several } = itemKinds[item.type];
  if (onSheet === 'number') return { kind: 'number', label, ...keyGrid };
  const options = (onSheet && row(item)) ?? [];
  return options.length >= 2 && options.length <= mostBoxes && options.every((one) => one.length <= longestSign)
    ? { kind: 'choice', label, options, several }
    : null;
}

/** The sheet for the key of some items; null where none of them has a row. */
export function keySheet(items: readonly Item[]): KeySheet | null {
  const rows = items.flatMap((item) => {
    const row = rowOf(item);
    return row ? [{ row, questionId: item.questionId }] : [];
  });
  if (rows.length === 0) return null;
  return {
    plan: { version: 1, size: 100, perPage: 1, studentColumns: 0, rows: rows.map((one) => one.row) },
    questionIds: rows.map((one) => one.questionId),
  };
}

/** What stands behind ± in a key: a box holds a number, and says nothing of how far it may be missed. */
function toleranceOf(key: string): string {
  const at = ['±', '+/-', '+-'].map((sign) => key.indexOf(sign)).filter((place) => place > 0);
  return at.length ? ` ${key.slice(Math.min(...at))}` : '';
}

/**
 * The key that a filled sheet says, to be looked at before it is given. A number keeps the tolerance that its item has.
 *
 * @param items as they are now; what was taken out since the sheet was printed is passed over
 */
export function keyOnSheet(
  items: readonly Item[],
  { plan, questionIds }: KeySheet,
  read: readonly RowReading[],
): KeyOnSheet {
  const known = new Map(items.map((item) => [item.questionId, item]));
  const said: KeyOnSheet = { text: '', doubts: [], empty: [] };
  const lines: string[] = [];
  for (const { row, filled, doubt } of [...read].sort((a, b) => a.row - b.row)) {
    const item = known.get(questionIds[row] ?? '');
    const asked = plan.rows[row];
    if (!item || !asked) continue;
    const key = asked.kind === 'number' ? numberRead(filled) : filled.join(', ');
    if (doubt) said.doubts.push(item.label);
    else if (key === '') said.empty.push(item.label);
    else lines.push(`${item.label} ${key}${asked.kind === 'number' ? toleranceOf(item.key) : ''}`);
  }
  said.text = lines.join('\n');
  return said;
}
