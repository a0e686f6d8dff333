import { describe, expect, it } from 'vitest';
import { saveOrder } from '../attempt/saveOrder';
import { attemptScore } from './attemptScore';
import { markingOrder } from './markingOrder';
import { sittingResult } from './sittingResult';

const tried = (number: number, earned: number, possible: number, waiting = 0) => ({
  attemptId: `a${number}`,
  number,
  score: { earned, possible, marked: possible, waiting },
});

describe('an attempt’s score', () => {
  it('sums what is marked and says what waits', () => {
    expect(
      attemptScore([
        { slotPoints: 2, points: 1.5 },
        { slotPoints: 3, points: 0 },
        { slotPoints: 5, points: null },
      ]),
    ).toEqual({ earned: 1.5, possible: 10, marked: 5, waiting: 1 });
  });
});

describe('a sitting’s result', () => {
  it.each([
    ['best', 8, ['a2']],
    ['first', 4, ['a1']],
    ['last', 6, ['a3']],
    ['mean', 6, ['a1', 'a2', 'a3']],
  ] as const)('%s', (rule, earned, from) => {
    expect(sittingResult([tried(3, 6, 10), tried(1, 4, 10), tried(2, 8, 10)], rule)).toMatchObject({
      earned,
      from,
      ready: true,
    });
  });

  it('is not ready while any attempt that has a say waits', () => {
    expect(sittingResult([tried(1, 9, 10), tried(2, 1, 10, 1)], 'best')).toMatchObject({
      ready: false,
      waiting: 1,
      earned: 9,
    });
    expect(sittingResult([tried(1, 9, 10), tried(2, 1, 10, 1)], 'first')).toMatchObject({ ready: true });
    expect(sittingResult([tried(1, 9, 10), tried(2, 1, 10, 1)], 'last')).toMatchObject({ ready: false });
    expect(sittingResult([], 'best')).toBeNull();
  });

  it('takes the earlier of two equally good attempts', () => {
    expect(sittingResult([tried(2, 5, 10), tried(1, 5, 10)], 'best')?.from).toEqual(['a1']);
  });
});

describe('the marking order', () => {
  const slots = Array.from({ length: 20 }, (_, i) => `slot-${i}`);

  it('is fixed per marker and question, and differs between them', () => {
    expect(markingOrder([...slots].reverse(), 'm1', 'q1')).toEqual(markingOrder(slots, 'm1', 'q1'));
    expect(markingOrder(slots, 'm2', 'q1')).not.toEqual(markingOrder(slots, 'm1', 'q1'));
    expect(markingOrder(slots, 'm1', 'q2')).not.toEqual(markingOrder(slots, 'm1', 'q1'));
  });

  it('keeps the others in their order when an answer joins', () => {
    const without = markingOrder(slots.slice(1), 'm1', 'q1');
    expect(markingOrder(slots, 'm1', 'q1').filter((slot) => slot !== 'slot-0')).toEqual(without);
  });
});

describe('the order of saves', () => {
  it.each([
    ['newer', { epoch: 2, sequence: 5 }, { epoch: 2, sequence: 4 }],
    ['newer', { epoch: 2, sequence: 1 }, { epoch: 1, sequence: 9 }],
    ['newer', { epoch: 2, sequence: 1 }, null],
    ['repeat', { epoch: 2, sequence: 4 }, { epoch: 2, sequence: 4 }],
    ['older', { epoch: 2, sequence: 3 }, { epoch: 2, sequence: 4 }],
    ['superseded', { epoch: 1, sequence: 9 }, { epoch: 1, sequence: 4 }],
    ['superseded', { epoch: 3, sequence: 1 }, null],
  ] as const)('%s', (order, incoming, stored) => {
    expect(saveOrder(incoming, 2, stored)).toBe(order);
  });
});
