import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { mostPasted, pastedText } from './pastedText';

describe('what is pasted over a grid', () => {
  it('goes down and to the right from the cell; empty cells change nothing', () => {
    const { cells, outside } = pastedText(
      '7\t8\r\n\t 9,5 \r\nill\t1\r\n4',
      { row: 1, column: 1 },
      { rows: 4, columns: 3 },
    );
    expect(cells.map(({ row, column, text }) => [row, column, text])).toEqual([
      [1, 1, '7'],
      [1, 2, '8'],
      [2, 2, '9,5'],
      [3, 1, 'ill'],
      [3, 2, '1'],
    ]);
    expect(outside).toBe(1);
  });

  it('loses nothing without a word, whatever it is', () => {
    const cell = fc.constantFrom('', '1', '2,5', 'x', '-3', '=1');
    fc.assert(
      fc.property(
        fc.array(fc.array(cell, { minLength: 1, maxLength: 4 }), { maxLength: 8 }),
        fc.nat(5),
        fc.nat(3),
        (table, row, column) => {
          const text = table.map((line) => line.join('\t')).join('\n');
          const { cells, outside } = pastedText(text, { row, column }, { rows: 6, columns: 4 });
          expect(cells.length + outside).toBe(table.flat().filter((one) => one !== '').length);
          expect(cells.every((one) => one.row < 6 && one.column < 4)).toBe(true);
        },
      ),
    );
    const many = pastedText('1\n'.repeat(mostPasted + 7), { row: 0, column: 0 }, { rows: 10_000, columns: 1 });
    expect([many.cells.length, many.outside]).toEqual([mostPasted, 7]);
  });
});
