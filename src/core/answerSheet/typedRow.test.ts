import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { judgeRow } from './judgeMarks';
import { boxLabels, gridSigns, pointsSigns, type SheetRow, signsDoNotFit } from './sheetRow';
import { isTypedOut, rowAsTyped, typedRow, typedTwice } from './typedRow';

const choice: SheetRow = { kind: 'choice', label: '1', options: ['A', 'B', 'C'], several: false };
const several: SheetRow = { ...choice, several: true };
const places: SheetRow = {
  kind: 'choice',
  label: '2',
  options: Array.from({ length: 10 }, (_, i) => String(i + 1)),
  several: false,
};
const number: SheetRow = {
  kind: 'number',
  label: '3',
  columns: 5,
  sign: true,
  point: true,
  fraction: true,
  exponent: true,
};
const points = (most: number): SheetRow => ({ kind: 'points', label: '4', most, halves: true });
const rubric: SheetRow = { kind: 'rubric', label: '5', values: [0, 1.5, 3], weight: 2 };

describe('a row that is typed', () => {
  it.each([
    [choice, 'b', ['B']],
    [choice, ' C ', ['C']],
    [choice, '-', []],
    [choice, '', []],
    [several, 'ca', ['A', 'C']],
    [several, 'A, b', ['A', 'B']],
    [places, '10', ['10']],
    [number, '-1,5', ['−', '1', '.', '5', '']],
    [number, '3/4', ['3', '/', '4', '', '']],
    [number, '2e−3', ['2', 'E', '−', '3', '']],
    [number, '', []],
    [points(8), '7½', ['7', '½']],
    [points(8), '0,5', ['0', '½']],
    [points(25), '20', ['20', '0']],
    [points(25), '7', ['7']],
    [points(25), '12.5', ['10', '2', '½']],
    [rubric, '1.5', ['1.5']],
  ] as const)('%j: “%s” is %j', (row, text, signs) => {
    expect(typedRow(row as SheetRow, text)).toEqual({ signs });
  });

  it.each([
    [choice, 'd', 'Not “d”: A B C.'],
    [choice, 'ab', 'Not “ab”: A B C.'],
    [several, 'ax', 'Not “x”: A B C.'],
    [number, '123456', 'At most 5 signs.'],
    [number, '1x', 'Not “X”: − . / E 0 1 2 3 4 5 6 7 8 9.'],
    [points(8), '8½', 'At most 8.'],
    [points(8), '2.3', 'Points from 0 to 8, halves too.'],
    [{ ...points(8), halves: false }, '2.5', 'Whole points from 0 to 8.'],
    [rubric, '2', 'Not “2”: 0 1.5 3.'],
  ] as const)('%j: “%s” is refused: %s', (row, text, problem) => {
    expect(typedRow(row as SheetRow, text)).toEqual({ problem });
  });

  it('leads on where nothing could follow', () => {
    expect([isTypedOut(choice, 'b'), isTypedOut(choice, '-'), isTypedOut(choice, 'x')]).toEqual([true, true, false]);
    // 1 may become 10.
    expect([isTypedOut(places, '1'), isTypedOut(places, '2'), isTypedOut(places, '10')]).toEqual([false, true, true]);
    for (const row of [several, number, points(8)]) expect(isTypedOut(row, '1')).toBe(false);
    expect(isTypedOut(number, '-')).toBe(false);
  });

  it('says the same as the boxes would, whatever is filled in beyond doubt', () => {
    const label = fc.constant('1');
    const rows: fc.Arbitrary<SheetRow> = fc.oneof(
      fc.record({
        kind: fc.constant('choice' as const),
        label,
        options: fc.uniqueArray(fc.constantFrom(...'ABCDEFGHIJ'), { minLength: 2, maxLength: 10 }),
        several: fc.boolean(),
      }),
      fc.record({
        kind: fc.constant('number' as const),
        label,
        columns: fc.integer({ min: 1, max: 10 }),
        sign: fc.boolean(),
        point: fc.boolean(),
        fraction: fc.boolean(),
        exponent: fc.boolean(),
      }),
      fc.record({
        kind: fc.constant('points' as const),
        label,
        most: fc.integer({ min: 1, max: 99 }),
        halves: fc.boolean(),
      }),
    );
    fc.assert(
      fc.property(rows, fc.infiniteStream(fc.nat({ max: 20 })), (row, chance) => {
        const pick = (most: number) => (chance.next().value as number) % most;
        const boxes =
          row.kind === 'number'
            ? Array.from({ length: 1 + pick(row.columns) }, (_, column) => ({
                column,
                option: pick(gridSigns(row).length),
                state: 'filled' as const,
              }))
            : (row.kind === 'points' ? pointsSigns(row) : boxLabels(row)).flatMap((_, option) =>
                pick(3) ? [] : [{ column: 0, option, state: 'filled' as const }],
              );
        const all =
          row.kind === 'number' ? [...boxes, { column: row.columns - 1, option: 0, state: 'empty' as const }] : boxes;
        const read = judgeRow(row, all);
        if (read.doubt || read.filled.length === 0) return;
        // Points above the most are no points of this row: typing them is refused at once.
        const typed = typedRow(row, rowAsTyped(row, read.filled));
        if ('problem' in typed) {
          expect(row.kind).toBe('points');
          return;
        }
        expect(signsDoNotFit(row, typed.signs)).toBeNull();
        expect(rowAsTyped(row, typed.signs)).toBe(rowAsTyped(row, read.filled));
      }),
    );
  });
});

describe('a row that is typed twice', () => {
  it('says what both say, and waits with both where they differ', () => {
    expect(typedTwice(2, ['A'], ['A'])).toEqual({ row: 2, filled: ['A'], doubt: null });
    expect(typedTwice(2, [], ['', '', ''])).toEqual({ row: 2, filled: ['', '', ''], doubt: null });
    expect(typedTwice(2, ['A'], ['B'])).toEqual({ row: 2, filled: ['A'], doubt: 'two-entries', other: ['B'] });
    expect(typedTwice(2, undefined, ['B'])).toEqual({ row: 2, filled: ['B'], doubt: null });
  });
});
