import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { mayTakeAgain, type Try, triedCredit, triesAllowed, tryState } from './tries';

const rules = (most: number, cost = 0.25, missedAgain: { most: number; credit: number } | null = null) => ({
  tries: { most, cost },
  missedAgain,
  learning: 'as-they-go' as const,
});
const of = (...credits: number[]): Try[] => credits.map((credit) => ({ credit, again: false }));
const again = (credit: number): Try => ({ credit, again: true });

describe('the credit of tries', () => {
  it('is the best of them, each after the cost of those before', () => {
    // A quarter each: 1; 0.75; 0.5.
    expect(triedCredit(of(1), rules(3))).toBe(1);
    expect(triedCredit(of(0, 1), rules(3))).toBe(0.75);
    expect(triedCredit(of(0, 0, 1), rules(3))).toBe(0.5);
    // Half right at once is worth as much as right at the third try.
    expect(triedCredit(of(0.5, 0, 1), rules(3))).toBe(0.5);
    expect(triedCredit(of(0.9, 0, 1), rules(3))).toBe(0.9);
  });

  it('costs nothing where learning is all, and never falls below 0', () => {
    expect(triedCredit(of(0, 0, 0, 1), rules(9, 0))).toBe(1);
    expect(triedCredit(of(0, 0, 0, 1), rules(9, 0.5))).toBe(0);
    expect(triedCredit([], rules(3))).toBe(0);
  });

  it('of a question that came again is at the share that brings', () => {
    expect(triedCredit([...of(0, 0), again(1)], rules(2, 0.25, { most: 3, credit: 0.4 }))).toBe(0.4);
    expect(triedCredit([...of(0, 0.8), again(1)], rules(2, 0.25, { most: 3, credit: 0.4 }))).toBeCloseTo(0.6);
  });

  it('never falls with a further try, and stays within [0, 1]', () => {
    fc.assert(
      fc.property(
        fc.array(fc.record({ credit: fc.double({ min: 0, max: 1, noNaN: true }), again: fc.boolean() }), {
          maxLength: 8,
        }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (tried, cost) => {
          const set = rules(9, cost, { most: 1, credit: 0.5 });
          const credits = tried.map((_, i) => triedCredit(tried.slice(0, i + 1), set));
          for (const [i, credit] of credits.entries()) {
            expect(credit).toBeGreaterThanOrEqual(credits[i - 1] ?? 0);
            expect(credit).toBeLessThanOrEqual(1);
          }
        },
      ),
    );
  });
});

describe('a question between its tries', () => {
  it('closes once it is right or its tries are used up', () => {
    const closed = (tried: Try[]) => tryState(tried, rules(3), false).closed;
    expect([of(), of(0), of(0.5, 0.5), of(1), of(0, 0, 0)].map(closed)).toEqual([false, false, false, true, true]);
    expect(tryState(of(0, 0.5), rules(3), false)).toEqual({ used: 2, most: 3, closed: false, outcome: 'partly' });
  });

  it('is open once more when it comes again, for one try', () => {
    const set = rules(1, 0, { most: 2, credit: 0.5 });
    expect(tryState(of(0), set, true).closed).toBe(false);
    expect(tryState([...of(0), again(0)], set, true).closed).toBe(true);
    expect(tryState(of(1), set, true).closed).toBe(true);
  });

  it('may come again while fewer than so many others have, and only when it was missed', () => {
    const set = rules(1, 0, { most: 2, credit: 0.5 });
    expect([0, 1, 2].map((others) => mayTakeAgain(of(0.5), set, false, others))).toEqual([true, true, false]);
    expect(mayTakeAgain(of(1), set, false, 0)).toBe(false);
    expect(mayTakeAgain(of(), set, false, 0)).toBe(false);
    expect(mayTakeAgain(of(0), set, true, 0)).toBe(false);
    expect(mayTakeAgain(of(0), rules(1), false, 0)).toBe(false);
  });

  it('is checked once where students learn as they go, and else as often as the rules say', () => {
    const none = { tries: null, missedAgain: null };
    expect(triesAllowed({ ...none, learning: 'by-plan' })).toBe(0);
    expect(triesAllowed({ ...none, learning: 'as-they-go' })).toBe(1);
    expect(triesAllowed(rules(4))).toBe(4);
    expect(tryState(of(), { ...none, learning: 'by-plan' }, false).closed).toBe(false);
  });
});
