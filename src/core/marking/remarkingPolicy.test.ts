import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { ChooseRule } from '../exam/design';
import { type AttemptCounts, attemptCountings } from '../sitting/rules';
import { attemptScore, type SlotMark } from './attemptScore';
import { notedPieces, rubricPoints } from './marks';
import { remarkCredit } from './remarkingPolicy';
import { sittingResult } from './sittingResult';

const plain = { tries: null, missedAgain: null, learning: 'by-plan' as const };
const once = (old: number, now: number) => [{ old, new: now, again: false }];

describe('the credit after a re-mark', () => {
  it.each([
    ['new-key', 1, 0, 0],
    ['new-key', 0, 1, 1],
    ['either-key', 1, 0, 1],
    ['either-key', 0, 1, 1],
    ['either-key', 0.5, 0.25, 0.5],
    ['everyone', 0, 0, 1],
    ['left-out', 1, 1, null],
  ] as const)('%s: old %d, new %d', (policy, old, now, credit) => {
    expect(remarkCredit(policy, once(old, now), plain)).toBe(credit);
  });

  it('keeps what tries cost, except where everyone earns the points', () => {
    const rules = { ...plain, tries: { most: 3, cost: 0.25 } };
    const tried = [
      { old: 0, new: 0, again: false },
      { old: 1, new: 0, again: false },
      { old: 0, new: 1, again: false },
    ];
    expect(remarkCredit('new-key', tried, rules)).toBe(0.5);
    expect(remarkCredit('either-key', tried, rules)).toBe(0.75);
    expect(remarkCredit('everyone', tried, rules)).toBe(1);
    const again = [
      { old: 0, new: 0, again: false },
      { old: 0, new: 1, again: true },
    ];
    expect(remarkCredit('new-key', again, { ...rules, missedAgain: { most: 1, credit: 0.4 } })).toBe(0.4);
  });
});

describe('a rubric', () => {
  const rubric = {
    criteria: [
      {
        id: 'a',
        weight: 2,
        levels: [
          { id: 'lo', share: 0 },
          { id: 'hi', share: 1 },
        ],
      },
      {
        id: 'b',
        weight: 1,
        levels: [
          { id: 'lo', share: 0.5 },
          { id: 'hi', share: 1 },
        ],
      },
    ],
  };
  it('earns by weights, and nothing while a criterion has no level', () => {
    expect(rubricPoints(rubric, { a: 'hi', b: 'lo' }, 6)).toBe(5);
    expect(rubricPoints(rubric, { a: 'hi' }, 6)).toBeNull();
    expect(rubricPoints(rubric, { a: 'hi', b: 'none' }, 6)).toBeNull();
  });
});

describe('notes on passages', () => {
  it('divide an answer into pieces, also where they overlap', () => {
    const notes = [
      { from: 2, to: 6, text: 'x' },
      { from: 4, to: 99, text: 'y' },
    ];
    expect(notedPieces('abcdefgh', notes)).toEqual([
      { text: 'ab', notes: [] },
      { text: 'cd', notes: [0] },
      { text: 'ef', notes: [0, 1] },
      { text: 'gh', notes: [1] },
    ]);
    expect(notedPieces('', notes)).toEqual([]);
  });
});

/** The rules once more, written plainly: every subset of a choose-part is tried. */
function plainScore(slots: SlotMark[], choose: Map<string, ChooseRule>, adjustment: number) {
  const kept = slots.filter((slot) => !slot.leftOut);
  let possible = 0;
  let sure = 0;
  for (const slot of kept)
    if (!slot.partId || !choose.has(slot.partId)) {
      possible += slot.slotPoints;
      sure += slot.points ?? 0;
    }
  let beyond = false;
  for (const [partId, { count, extra }] of choose) {
    const own = kept.filter((slot) => slot.partId === partId);
    if (own.length === 0) continue;
    const cap = Math.min(count, own.length) * (own[0] as SlotMark).slotPoints;
    possible += cap;
    const all = own.map((slot) => slot.points ?? 0);
    if (extra === 'credit-in-exam') {
      beyond = true;
      sure += all.reduce((a, b) => a + b, 0);
    } else if (extra === 'credit-in-part')
      sure += Math.min(
        cap,
        all.reduce((a, b) => a + b, 0),
      );
    else {
      let best = 0;
      for (let subset = 0; subset < 2 ** all.length; subset++) {
        const picked = all.filter((_, i) => (subset >> i) % 2 === 1);
        if (picked.length <= count)
          best = Math.max(
            best,
            picked.reduce((a, b) => a + b, 0),
          );
      }
      sure += best;
    }
  }
  if (beyond) sure = Math.min(sure, possible);
  if (adjustment) sure = Math.min(Math.max(sure + adjustment, 0), possible);
  return { earned: sure, possible };
}

describe('an attempt’s score', () => {
  it('is what the plain reference says, with questions left out, choose-parts and adjustments', () => {
    const rule = fc.record({
      count: fc.integer({ min: 1, max: 4 }),
      extra: fc.constantFrom('refused', 'best', 'credit-in-part', 'credit-in-exam'),
    });
    const slot = fc.record({
      part: fc.constantFrom('a', 'b', 'c'),
      share: fc.option(fc.integer({ min: 0, max: 4 }).map((n) => n / 4)),
      leftOut: fc.boolean(),
    });
    fc.assert(
      fc.property(
        fc.array(slot, { maxLength: 9 }),
        rule,
        rule,
        fc.integer({ min: -6, max: 6 }),
        (drawn, b, c, adjustment) => {
          const points = { a: 3, b: 2, c: 5 };
          const slots = drawn.map(
            ({ part, share, leftOut }): SlotMark => ({
              partId: part,
              slotPoints: points[part as 'a'],
              points: share === null ? null : share * points[part as 'a'],
              leftOut,
            }),
          );
          const choose = new Map([
            ['b', b],
            ['c', c],
          ]) as Map<string, ChooseRule>;
          const { earned, possible } = attemptScore(slots, choose, adjustment);
          const plainly = plainScore(slots, choose, adjustment);
          expect(earned).toBeCloseTo(plainly.earned, 9);
          expect(possible).toBeCloseTo(plainly.possible, 9);
        },
      ),
      { numRuns: 2_000 },
    );
  });

  it('does not wait for a question that is left out', () => {
    expect(
      attemptScore([
        { slotPoints: 2, points: null, leftOut: true },
        { slotPoints: 3, points: 1 },
      ]),
    ).toEqual({
      earned: 1,
      possible: 3,
      marked: 3,
      waiting: 0,
    });
  });
});

/** Which attempt counts, once more and slowly: every rule from its words. */
function plainResult(attempts: { number: number; earned: number; possible: number }[], rule: AttemptCounts) {
  const list = [...attempts].sort((a, b) => a.number - b.number);
  const share = (one: { earned: number; possible: number }) => (one.possible ? one.earned / one.possible : 0);
  if (rule === 'first') return list[0];
  if (rule === 'last') return list[list.length - 1];
  if (rule === 'best') return list.find((one) => list.every((other) => share(other) <= share(one)));
  const sum = (of: 'earned' | 'possible') => list.reduce((total, one) => total + one[of], 0) / list.length;
  return { earned: sum('earned'), possible: sum('possible') };
}

describe('a sitting’s result', () => {
  it('is what the plain reference says, for every rule and any attempts', () => {
    const one = fc.record({
      number: fc.integer({ min: 1, max: 99 }),
      earned: fc.integer({ min: 0, max: 8 }),
      possible: fc.integer({ min: 8, max: 16 }),
    });
    const attempts = fc.uniqueArray(one, { minLength: 1, maxLength: 6, selector: (attempt) => attempt.number });
    fc.assert(
      fc.property(attempts, fc.constantFrom(...attemptCountings), (taken, rule) => {
        const found = sittingResult(
          taken.map(({ number, earned, possible }) => ({
            attemptId: `a${number}`,
            number,
            score: { earned, possible, marked: possible, waiting: 0 },
          })),
          rule,
        );
        const plainly = plainResult(taken, rule);
        expect(found?.earned).toBeCloseTo(plainly?.earned ?? -1, 9);
        expect(found?.possible).toBeCloseTo(plainly?.possible ?? -1, 9);
      }),
      { numRuns: 1_000 },
    );
  });
});
