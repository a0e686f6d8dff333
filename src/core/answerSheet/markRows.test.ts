import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { rubricPoints } from '../marking/marks';
import type { Rubric } from '../question/types/written/content';
import { markOnSheet, rubricRows } from './markRows';
import { boxLabels, type SheetRow, sheetRowSchema } from './sheetRow';

const rubric = (...criteria: [weight: number, ...levels: [name: string, share: number][]][]): Rubric => ({
  criteria: criteria.map(([weight, ...levels], i) => ({
    id: `criterion-${i}`,
    name: `Criterion ${i}`,
    weight,
    levels: levels.map(([name, share], at) => ({ id: `level-${at}`, name, share })),
  })),
});
/** As they are printed: with a label each. */
const printed = (of: Rubric, points: number): SheetRow[] =>
  rubricRows(of, points).map((row, i) => sheetRowSchema.parse({ ...row, label: `1${'abcdefghijklmnopqrst'[i]}` }));
const signs = (of: Rubric, points: number): (readonly string[])[] =>
  printed(of, points).map((row) => (row.kind === 'number' ? [] : boxLabels(row)));

const clear = rubric([2, ['poor', 0], ['good', 1]], [1, ['none', 0], ['half', 0.5], ['all', 1]]);

describe('the rows of a rubric', () => {
  it('are one for each criterion, with what its levels earn beside the boxes', () => {
    // Of six points the first criterion carries four, the second two.
    expect(signs(clear, 6)).toEqual([
      ['0', '4'],
      ['0', '1', '2'],
    ]);
  });

  it('have the levels’ own names where these are numbers, and places where nothing else tells them apart', () => {
    expect(signs(rubric([1, ['1', 0], ['2,5', 0.5], ['10', 1]]), 7)).toEqual([['1', '2.5', '10']]);
    expect(signs(rubric([1, ['late', 0.5], ['early', 0.5], ['right', 1]]), 7)).toEqual([['1', '2', '3']]);
    expect(signs(rubric([1, ['poor', 0], ['fair', 1 / 3], ['good', 1]]), 100)).toEqual([['1', '2', '3']]);
  });

  it('say points and levels, as on the screen: 4 of the first and half of the second of 6 points are 5', () => {
    const rows = printed(clear, 6);
    expect(markOnSheet(rows, [['4'], ['1']], clear, 6)).toEqual({
      points: 5,
      rubric: { 'criterion-0': 'level-1', 'criterion-1': 'level-1' },
    });
    expect(markOnSheet(rows, [[], []], clear, 6)).toEqual({ waits: null });
    expect(markOnSheet(rows, [['4'], []], clear, 6)).toEqual({ waits: 'not every criterion has a level.' });
  });

  it('wait where the rubric is another one than was printed', () => {
    const rows = printed(clear, 6);
    const shorter = rubric([2, ['poor', 0], ['good', 1]], [1, ['none', 0], ['all', 1]]);
    const said = { waits: 'its rubric is another one than was printed.' };
    expect(markOnSheet(rows, [['4'], ['1']], shorter, 6)).toEqual(said);
    expect(markOnSheet(rows, [['4'], ['1']], null, 6)).toEqual(said);
    expect(markOnSheet(rows.slice(0, 1), [['4']], clear, 6)).toEqual({ waits: 'not every criterion has a level.' });
  });

  it('of any rubric can be printed, tell all levels apart, and earn what these levels earn', () => {
    const shares = fc.uniqueArray(fc.integer({ min: 0, max: 99 }), { minLength: 1, maxLength: 9 });
    const anyRubric = fc
      .array(fc.tuple(fc.double({ min: 0.1, max: 1_000, noNaN: true }), shares), { minLength: 1, maxLength: 20 })
      .map((criteria) =>
        rubric(
          ...criteria.map(([weight, list]): [number, ...[string, number][]] => [
            weight,
            ...[...list, 100].map((share): [string, number] => [`share ${share}`, share / 100]),
          ]),
        ),
      );
    fc.assert(
      fc.property(anyRubric, fc.double({ min: 0.5, max: 100, noNaN: true }), fc.nat(9), (of, points, pick) => {
        const rows = printed(of, points);
        for (const row of rows) {
          const labels = row.kind === 'number' ? [] : boxLabels(row);
          expect(new Set(labels).size).toBe(labels.length);
        }
        const chosen = of.criteria.map(({ levels }) => pick % levels.length);
        const filled = rows.map((row, i) => [row.kind === 'number' ? '' : (boxLabels(row)[chosen[i] ?? 0] ?? '')]);
        const levels = Object.fromEntries(of.criteria.map((one, i) => [one.id, one.levels[chosen[i] ?? 0]?.id ?? '']));
        expect(markOnSheet(rows, filled, of, points)).toEqual({
          points: rubricPoints(of, levels, points),
          rubric: levels,
        });
      }),
    );
  });

  it('of points say them as they stand', () => {
    const row: SheetRow = { kind: 'points', label: '1', most: 4, halves: true };
    expect(markOnSheet([row], [['3', '½']], clear, 4)).toEqual({ points: 3.5, rubric: null });
    expect(markOnSheet([row], [[]], null, 4)).toEqual({ waits: null });
  });
});
