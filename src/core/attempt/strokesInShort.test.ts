import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Stroke } from './strokes';
import { strokesAtLength, strokesInShort } from './strokesInShort';

const known = fc.constantFrom<Omit<Stroke, 'number' | 'partTitle'>>(
  { answered: true, awaitsMark: false, outcome: 'right' },
  { answered: true, awaitsMark: false, outcome: 'partly' },
  { answered: true, awaitsMark: false, outcome: 'wrong' },
  { answered: true, awaitsMark: true },
  { answered: true, awaitsMark: false },
  { answered: false, awaitsMark: false },
  { answered: false, awaitsMark: true },
  { answered: true, awaitsMark: false, comeBack: true },
  { answered: false, awaitsMark: false, comeBack: true },
);

describe('strokes in short', () => {
  it('come back as they were, whatever is known of each', () => {
    fc.assert(
      fc.property(fc.array(fc.array(known, { minLength: 1, maxLength: 12 }), { maxLength: 5 }), (parts) => {
        let number = 0;
        const strokes = parts.flatMap((part, p) =>
          part.map((one): Stroke => ({ ...one, number: ++number, partTitle: `Part ${p}` })),
        );
        expect(strokesAtLength(strokesInShort(strokes))).toEqual(strokes);
      }),
      { seed: 5 },
    );
  });

  it('are a sign for each question of each part', () => {
    const stroke = (number: number, partTitle: string, more: Partial<Stroke>): Stroke => ({
      number,
      partTitle,
      answered: true,
      ...more,
    });
    expect(
      strokesInShort([
        stroke(1, 'A', { outcome: 'right' }),
        stroke(2, 'A', { answered: false }),
        stroke(3, 'B', { awaitsMark: true }),
      ]),
    ).toEqual([
      ['A', 'r.'],
      ['B', 'h'],
    ]);
  });
});
