import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { QuestionSign } from './paperRuler';
import { rulerAtLength, rulerInShort } from './rulerInShort';

const known = fc.constantFrom<Omit<QuestionSign, 'number' | 'partTitle'>>(
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

describe('signs in short', () => {
  it('come back as they were, whatever is known of each', () => {
    fc.assert(
      fc.property(fc.array(fc.array(known, { minLength: 1, maxLength: 12 }), { maxLength: 5 }), (parts) => {
        let number = 0;
        const signs = parts.flatMap((part, p) =>
          part.map((one): QuestionSign => ({ ...one, number: ++number, partTitle: `Part ${p}` })),
        );
        expect(rulerAtLength(rulerInShort(signs))).toEqual(signs);
      }),
      { seed: 5 },
    );
  });

  it('are a sign for each question of each part', () => {
    const sign = (number: number, partTitle: string, more: Partial<QuestionSign>): QuestionSign => ({
      number,
      partTitle,
      answered: true,
      ...more,
    });
    expect(
      rulerInShort([
        sign(1, 'A', { outcome: 'right' }),
        sign(2, 'A', { answered: false }),
        sign(3, 'B', { awaitsMark: true }),
      ]),
    ).toEqual([
      ['A', 'r.'],
      ['B', 'h'],
    ]);
  });
});
