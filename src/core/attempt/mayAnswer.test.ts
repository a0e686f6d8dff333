import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { phases } from './attemptMachine';
import {
  type AttemptNow,
  owedAtHandIn,
  owedBefore,
  owedSaid,
  type QuestionNow,
  whyNotAnswer,
  whyNotSave,
} from './mayAnswer';

const running: AttemptNow = { phase: 'running', deadline: 1_000, reached: 0 };
const question = (more: Partial<QuestionNow> = {}): QuestionNow => ({
  number: 1,
  page: 0,
  required: false,
  answered: false,
  timed: false,
  until: null,
  closed: false,
  full: false,
  ...more,
});

describe('whether a question may be answered now', () => {
  it('is said with the one reason that comes first', () => {
    const all = { page: 0, timed: true, until: 500, closed: true, full: true };
    const at = (attempt: AttemptNow, more: Partial<QuestionNow>, now: number) =>
      whyNotAnswer(attempt, question(more), now);
    expect([
      at(running, {}, 10),
      at({ ...running, phase: 'voided' }, all, 2_000),
      at(running, all, 1_001),
      at({ ...running, reached: 1 }, all, 501),
      at({ ...running, reached: 1 }, all, 500),
      at(running, { ...all, until: null }, 500),
      at(running, all, 500),
      at(running, { full: true }, 500),
      at({ ...running, deadline: null }, {}, 1e15),
    ]).toEqual([null, 'ended', 'time-over', 'question-over', 'behind', 'not-opened', 'closed', 'beyond-choose', null]);
  });

  it('what was on its way when a time ended is taken for three seconds, inclusive', () => {
    const until = question({ timed: true, until: 500 });
    expect([500, 3_500, 3_501].map((now) => whyNotSave({ ...running, deadline: null }, until, now))).toEqual([
      null,
      null,
      'question-over',
    ]);
    expect([1_000, 4_000, 4_001].map((now) => whyNotSave(running, question(), now))).toEqual([null, null, 'time-over']);
  });
});

describe('whether an attempt may be handed in', () => {
  it('is held up by what has to be answered, is empty and can still be answered, and by nothing else', () => {
    const owed = question({ required: true });
    const of = (attempt: AttemptNow, one: QuestionNow, now = 10) => owedAtHandIn(attempt, [one], now);
    expect(of(running, owed)).toEqual([1]);
    expect(of(running, question({ required: true, timed: true }))).toEqual([1]);
    for (const [attempt, one, now] of [
      [running, question(), 10],
      [running, question({ required: true, answered: true }), 10],
      [{ ...running, reached: 1 }, owed, 10],
      [running, question({ required: true, timed: true, until: 9 }), 10],
      [running, question({ required: true, timed: true, until: 10 }), 10],
      [running, question({ required: true, closed: true }), 10],
      [running, question({ required: true, full: true }), 10],
      [running, owed, 1_000],
    ] as const)
      expect(of(attempt, one, now)).toEqual([]);
  });

  it('and going on by what would be left behind', () => {
    const paper = [0, 1, 2].map((page) => question({ number: page + 1, page, required: true, answered: page === 1 }));
    expect([0, 1, 2, 3].map((to) => owedBefore(running, paper, to, 10))).toEqual([[], [1], [1], [1, 3]]);
    expect(owedSaid([3], 'you go on')).toBe('Question 3 has to be answered before you go on.');
    expect(owedSaid([1, 3, 4], 'you hand in')).toBe('Questions 1, 3 and 4 have to be answered before you hand in.');
  });

  it('no state of a running attempt can neither be answered nor handed in', () => {
    const anyQuestion = fc.record({
      number: fc.integer({ min: 1, max: 9 }),
      page: fc.nat(3),
      required: fc.boolean(),
      answered: fc.boolean(),
      timed: fc.boolean(),
      until: fc.option(fc.nat(2_000), { nil: null }),
      closed: fc.boolean(),
      full: fc.boolean(),
    });
    const anyAttempt = fc.record({
      phase: fc.constantFrom(...phases),
      deadline: fc.option(fc.nat(2_000), { nil: null }),
      reached: fc.nat(4),
    });
    fc.assert(
      fc.property(anyAttempt, fc.array(anyQuestion, { maxLength: 6 }), fc.nat(2_500), (attempt, questions, now) => {
        for (const number of owedAtHandIn(attempt, questions, now)) {
          // Whatever holds the hand-in up can be answered now, or opened and then answered.
          const open = questions.filter((one) => one.number === number && one.required && !one.answered);
          expect(open.some((one) => [null, 'not-opened'].includes(whyNotAnswer(attempt, one, now)))).toBe(true);
        }
        // Going on never leaves anything behind that would hold up the hand-in.
        const to = attempt.reached + 1;
        if (owedBefore(attempt, questions, to, now).length === 0)
          for (const number of owedAtHandIn({ ...attempt, reached: to }, questions, now))
            expect(questions.some((one) => one.number === number && one.page >= to)).toBe(true);
      }),
      { seed: 22, numRuns: 2_000 },
    );
  });
});
