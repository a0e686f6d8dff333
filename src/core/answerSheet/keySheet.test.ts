import { describe, expect, it } from 'vitest';
import type { Item } from '../exam/items/item';
import { readKeys } from '../exam/items/readKeys';
import type { RowReading } from './judgeMarks';
import { keyOnSheet, keySheet } from './keySheet';

const item = (label: string, type: Item['type'], more: Partial<Item> = {}): Item => ({
  questionId: `q${label}`,
  label,
  type,
  choices: 4,
  start: 'A',
  key: '',
  points: 1,
  ...more,
});
const items = [
  item('1', 'single-choice'),
  item('2', 'multiple-choice'),
  item('3', 'true-false'),
  item('B1', 'numeric', { key: '12 ± 0.5' }),
  item('B2', 'written'),
  item('B3', 'single-choice', { choices: 14 }),
  item('B4', 'single-choice', { start: '1', choices: 5 }),
];
const read = (row: number, filled: string[], doubt: RowReading['doubt'] = null): RowReading => ({ row, filled, doubt });

describe('the sheet for a key', () => {
  it('has a row for each item whose key boxes can hold', () => {
    const sheet = keySheet(items);
    expect(sheet?.questionIds).toEqual(['q1', 'q2', 'q3', 'qB1', 'qB4']);
    expect(sheet?.plan.rows).toMatchObject([
      { kind: 'choice', label: '1', options: ['A', 'B', 'C', 'D'], several: false },
      { kind: 'choice', several: true },
      { kind: 'choice', options: ['T', 'F'] },
      { kind: 'number', label: 'B1' },
      { kind: 'choice', options: ['1', '2', '3', '4', '5'] },
    ]);
    expect(keySheet([item('1', 'written')])).toBeNull();
  });

  it('is read as a key is typed: a line an item, which gives those very keys', () => {
    const sheet = keySheet(items) ?? expect.fail('no sheet');
    const said = keyOnSheet(items, sheet, [
      read(3, ['−', '1', '4', '', '', '']),
      read(0, ['C']),
      read(1, ['A', 'D']),
      read(2, ['F']),
      read(4, ['2']),
    ]);
    expect(said).toEqual({ text: '1 C\n2 A, D\n3 F\nB1 -14 ± 0.5\nB4 2', doubts: [], empty: [] });
    const { keys, problems } = readKeys(said.text, items, 0);
    expect(problems).toEqual([]);
    expect([...keys]).toEqual([
      [0, 'C'],
      [1, 'A, D'],
      [2, 'F'],
      [3, '-14 ± 0.5'],
      [6, '2'],
    ]);
  });

  it('says nothing for what is in doubt or empty, and passes over what was taken out since', () => {
    const sheet = keySheet(items) ?? expect.fail('no sheet');
    const rows = [read(0, ['C'], 'faint'), read(1, []), read(2, ['T'])];
    expect(keyOnSheet(items, sheet, rows)).toEqual({ text: '3 T', doubts: ['1'], empty: ['2'] });
    expect(keyOnSheet(items.slice(1), sheet, rows)).toEqual({ text: '3 T', doubts: [], empty: ['2'] });
  });
});
