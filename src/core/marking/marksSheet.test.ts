import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readMarksSheet, type SheetAnswer } from './marksSheet';

const answer = (code: string, more: Partial<SheetAnswer> = {}): SheetAnswer => ({
  slotId: `slot-${code}`,
  code,
  outOf: 5,
  points: null,
  comment: '',
  state: 'r1m0',
  ...more,
});
const head = ['Answer', 'Points', 'Comment', 'State'];
const read = (
  rows: string[][],
  answers = [answer('a1'), answer('b2', { points: 3, comment: 'Good.', state: 'r1m7' })],
) => {
  const found = readMarksSheet([head, ...rows], answers);
  return found.ok ? found.rows : found.message;
};

describe('a marks sheet', () => {
  it('says row by row what would change, whatever the order of rows and columns', () => {
    expect(
      read([
        ['b2', '4', 'Better.', 'r1m7'],
        ['A1 ', '2,5', '', 'r1m0'],
      ]),
    ).toEqual([
      { line: 2, code: 'b2', kind: 'change', slotId: 'slot-b2', from: 3, points: 4, comment: 'Better.' },
      { line: 3, code: 'a1', kind: 'change', slotId: 'slot-a1', from: null, points: 2.5, comment: '' },
    ]);
    const turned = readMarksSheet([['My marks'], [], ['points', 'Notes', 'ANSWER'], ['3', 'x', 'a1']], [answer('a1')]);
    expect(turned).toMatchObject({ ok: true, rows: [{ line: 4, kind: 'change', points: 3 }] });
  });

  it('takes a comment by itself where the answer has points, and asks for points where it has none', () => {
    expect(
      read([
        ['b2', '', 'Better than I saw.', 'r1m7'],
        ['a1', '', 'Which light?', 'r1m0'],
      ]),
    ).toEqual([
      { line: 2, code: 'b2', kind: 'change', slotId: 'slot-b2', from: 3, points: 3, comment: 'Better than I saw.' },
      {
        line: 3,
        code: 'a1',
        kind: 'wrong',
        why: 'no-points',
        message: 'A comment stands here and no points: give the points, too.',
      },
    ]);
    // Points alone are taken away by nobody: the comment as it was beside them changes nothing.
    expect(read([['b2', '', 'Good.', 'r1m7']])).toEqual([{ line: 2, code: 'b2', kind: 'empty' }]);
  });

  it('leaves alone what is empty or the same', () => {
    expect(
      read([
        ['a1', '', '', 'r1m0'],
        ['b2', '3.0', 'Good.', 'r1m7'],
        ['', '', '', ''],
      ]),
    ).toEqual([
      { line: 2, code: 'a1', kind: 'empty' },
      { line: 3, code: 'b2', kind: 'same' },
    ]);
  });

  it.each([
    [['a1', '6', '', 'r1m0'], 'This question carries 5 points at most.'],
    [['a1', '-1', '', 'r1m0'], 'Points cannot be negative.'],
    [['a1', 'three', '', 'r1m0'], '“three” is no number.'],
    [['a1', '=2+1', '', 'r1m0'], 'A formula stands in the cell of the points; put the number there.'],
    [['a1', '1.234,5', '', 'r1m0'], '“1.234,5” is no number.'],
    [['zz', '1', '', 'r1m0'], 'There is no such answer in this sitting.'],
    [['', '1', '', ''], 'No answer is named in this row.'],
    [['b2', '1', '', 'r1m0'], 'Someone has given this answer 3 points since the sheet was made.'],
    [['a1', '1', '', 'r0m0'], 'The answer has changed since the sheet was made, or its mark was taken back.'],
  ])('says of %j: %s', (row, message) => {
    expect(read([row])).toMatchObject([{ kind: 'wrong', message }]);
  });

  it('takes neither of two rows for one answer', () => {
    expect(
      read([
        ['a1', '1', '', 'r1m0'],
        ['a1', '2', '', 'r1m0'],
      ]),
    ).toMatchObject([{ kind: 'wrong' }, { kind: 'wrong' }]);
  });

  it('is refused whole without its columns, and beyond 60,000 rows', () => {
    expect(
      readMarksSheet(
        [
          ['Name', 'Points'],
          ['x', '1'],
        ],
        [],
      ),
    ).toMatchObject({ ok: false });
    expect(readMarksSheet([['Answer'], ['x']], [])).toMatchObject({ ok: false });
    expect(readMarksSheet([head, ...Array.from({ length: 60_001 }, () => ['a1', '1'])], [answer('a1')])).toMatchObject({
      ok: false,
    });
    const many = readMarksSheet(
      [head, ...Array.from({ length: 50_000 }, () => ['a1', '1', '', 'r1m0'])],
      [answer('a1')],
    );
    expect(many.ok && many.rows.length).toBe(50_000);
  });

  it('never changes anything but a known answer, by points within its range, whatever is in the cells', () => {
    const cell = fc.oneof(
      fc.string({ maxLength: 8 }),
      fc.constantFrom('a1', 'b2', '1', '5', '9', 'r1m0', 'r1m7', '=1'),
    );
    fc.assert(
      fc.property(fc.array(fc.array(cell, { maxLength: 5 }), { maxLength: 12 }), (rows) => {
        const found = read(rows);
        if (typeof found === 'string') return;
        const changed = found.flatMap((row) => (row.kind === 'change' ? [row] : []));
        for (const row of changed) {
          expect(row.points).toBeGreaterThanOrEqual(0);
          expect(row.points).toBeLessThanOrEqual(5);
        }
        expect(new Set(changed.map((row) => row.slotId)).size).toBe(changed.length);
      }),
      { numRuns: 500 },
    );
  });
});
