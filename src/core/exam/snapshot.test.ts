import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { exampleEntry } from '../testing/exampleExam';
import type { PoolRule } from './design';
import { expectedCredit, inPool, priorCredit } from './snapshot';

const rule = (more: Partial<PoolRule> = {}): PoolRule => ({
  categories: [{ id: 'tides', below: true }],
  difficulties: [],
  ...more,
});
const answered = (right: number, n: number) =>
  exampleEntry(1, ['tides', 'heights'], { success: n ? { mean: right / n, n } : null });

describe('a pool by success rate', () => {
  it('takes both ends in and rounds away what binary fractions add', () => {
    const from30to70 = rule({ success: { from: 30, to: 70 } });
    for (const [right, taken] of [
      [2, false],
      [3, true],
      [5, true],
      [7, true],
      [8, false],
    ] as const)
      expect([right, inPool(answered(right, 10), from30to70)]).toEqual([right, taken]);
    // 0.1 + 0.2 is a little more than 0.3.
    const sum = exampleEntry(1, ['tides'], { success: { mean: 0.1 + 0.2, n: 1 } });
    expect(inPool(sum, rule({ success: { from: 0, to: 30 } }))).toBe(true);
  });

  it('leaves out what no one has answered, unless no rate is asked for', () => {
    expect(inPool(answered(0, 0), rule({ success: { from: 0, to: 100 } }))).toBe(false);
    expect(inPool(answered(0, 0), rule())).toBe(true);
  });

  it('divides the answered questions: every rate is in [0, x] or in (x, 100]', () => {
    fc.assert(
      fc.property(fc.nat(50), fc.integer({ min: 1, max: 50 }), fc.integer({ min: 0, max: 99 }), (right, more, cut) => {
        const entry = answered(right, right + more);
        const low = inPool(entry, rule({ success: { from: 0, to: cut } }));
        const high = inPool(entry, rule({ success: { from: cut + 1e-5, to: 100 } }));
        expect(low !== high).toBe(true);
      }),
    );
  });

  it('adds up with the other properties', () => {
    const entry = exampleEntry(1, ['tides', 'heights'], {
      success: { mean: 0.5, n: 4 },
      difficulty: 'hard',
      type: 'numeric',
    });
    const all = { success: { from: 40, to: 60 }, difficulties: ['hard' as const], types: ['numeric' as const] };
    expect(inPool(entry, rule(all))).toBe(true);
    expect(inPool(entry, rule({ ...all, difficulties: ['easy'] }))).toBe(false);
    expect(inPool(entry, rule({ ...all, types: ['date'] }))).toBe(false);
    expect(inPool(entry, rule({ ...all, categories: [{ id: 'tides', below: false }] }))).toBe(false);
    expect(inPool({ ...entry, passageId: 'passage-1' }, rule(all))).toBe(false);
  });
});

describe('the expected credit of a question', () => {
  it('is the prior of its difficulty until something is observed, and leans on it while answers are few', () => {
    expect([priorCredit('easy'), priorCredit('medium'), priorCredit('hard'), priorCredit(null)]).toEqual([
      0.85, 0.65, 0.45, 0.65,
    ]);
    expect(expectedCredit('easy', null)).toBe(0.85);
    // Ten answers weigh as much as the prior: (10·0.25 + 10·0.65) / 20.
    expect(expectedCredit('medium', { mean: 0.25, n: 10 })).toBeCloseTo(0.45, 12);
    expect(expectedCredit(null, { mean: 1, n: 10 })).toBeCloseTo((10 + 6.5) / 20, 12);
    expect(expectedCredit('hard', { mean: 0.2, n: 90 })).toBeCloseTo((18 + 4.5) / 100, 12);
  });
});
