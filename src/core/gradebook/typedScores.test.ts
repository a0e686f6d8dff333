import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { aboveWorth, mostPasted, pastedScores, readScore } from './typedScores';

describe('a score as it is typed', () => {
  it.each([
    ['7', 7],
    [' 7,5 ', 7.5],
    ['+7.25', 7.25],
    ['.5', 0.5],
    ['7.', 7],
    ['0', 0],
  ])('%j is %d points', (text, points) => {
    expect(readScore(text)).toEqual({ kind: 'points', points });
  });

  it('is nothing, or is refused with what is wrong', () => {
    expect(readScore('  ')).toEqual({ kind: 'empty' });
    expect(readScore('=7+1')).toMatchObject({ kind: 'wrong', message: expect.stringContaining('formula') });
    for (const below of ['-1', '−1', '– 2'])
      expect(readScore(below)).toEqual({ kind: 'wrong', message: 'Points cannot be negative.' });
    for (const text of ['seven', '7 of 10', '1.5.2', '1e3', '12345678', 'x'.repeat(99)])
      expect(readScore(text)).toMatchObject({
        kind: 'wrong',
        message: expect.stringMatching(/^“.{1,40}” is no number\.$/),
      });
  });

  it('above the worth of its column is asked about', () => {
    expect(aboveWorth(789, 10)).toBe('789 is more than the 10 that this column is worth.');
    expect(aboveWorth(10, 10)).toBeNull();
    expect(aboveWorth(null, 10)).toBeNull();
  });
});

describe('scores pasted into a gradebook', () => {
  it('go down and to the right from the cell, over what is filled by hand', () => {
    const { cells, outside } = pastedScores('7\t8\r\n\t9,5\r\nill\t1\r\n4', { row: 1, column: 1 }, 4, [
      true,
      true,
      false,
    ]);
    expect(
      cells.map(({ row, column, score }) => [row, column, score.kind === 'points' ? score.points : score.message]),
    ).toEqual([
      [1, 1, 7],
      [1, 2, 'Scores of a sitting come from its marks.'],
      [2, 2, 'Scores of a sitting come from its marks.'],
      [3, 1, '“ill” is no number.'],
      [3, 2, 'Scores of a sitting come from its marks.'],
    ]);
    expect(outside).toBe(1);
  });

  it('lose nothing without a word, whatever is pasted', () => {
    const cell = fc.constantFrom('', '1', '2,5', 'x', '-3', '=1');
    fc.assert(
      fc.property(
        fc.array(fc.array(cell, { minLength: 1, maxLength: 4 }), { maxLength: 8 }),
        fc.nat(5),
        fc.nat(3),
        (table, row, column) => {
          const text = table.map((line) => line.join('\t')).join('\n');
          const { cells, outside } = pastedScores(text, { row, column }, 6, [true, true, true, false]);
          expect(cells.length + outside).toBe(table.flat().filter((one) => one !== '').length);
          expect(cells.every((one) => one.row < 6 && one.column < 4)).toBe(true);
        },
      ),
    );
    const many = pastedScores('1\n'.repeat(mostPasted + 7), { row: 0, column: 0 }, 10_000, [true]);
    expect([many.cells.length, many.outside]).toEqual([mostPasted, 7]);
  });
});
