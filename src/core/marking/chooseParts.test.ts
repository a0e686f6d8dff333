import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { ChooseRule } from '../exam/design';
import { designPoints, type ExamDesign, examDesign, extraAnswerRules } from '../exam/design';
import { choosePartsOf, paperRules, questionDeadline } from '../exam/paperRules';
import { exampleDesign, exampleDraw } from '../testing/exampleExam';
import { attemptScore, type SlotMark } from './attemptScore';

const chosen = (...points: (number | null)[]): SlotMark[] =>
  points.map((one) => ({ slotPoints: 4, points: one, partId: 'essays' }));
const other = (points: number): SlotMark => ({ slotPoints: 10, points, partId: 'rest' });
const rule = (extra: ChooseRule['extra'], count = 2) => new Map([['essays', { count, extra }]]);

describe('the score of a choose-part, any 2 of 4 questions with 4 points each', () => {
  it('is out of k times p, whatever was answered', () => {
    for (const extra of extraAnswerRules)
      expect(attemptScore([...chosen(4, 3, 0, 0), other(6)], rule(extra))).toEqual({
        earned: 13,
        possible: 18,
        marked: 18,
        waiting: 0,
      });
  });

  it.each([
    ['best', 4 + 3 + 6],
    ['refused', 4 + 3 + 6],
    ['credit-in-part', 8 + 6],
    ['credit-in-exam', 4 + 3 + 3 + 6],
  ] as const)('three answered, extra answers “%s”', (extra, earned) => {
    expect(attemptScore([...chosen(3, 4, 0, 3), other(6)], rule(extra)).earned).toBe(earned);
  });

  it('held to the exam’s 100 % where extra answers count in the exam', () => {
    expect(attemptScore([...chosen(4, 4, 4, 4), other(9)], rule('credit-in-exam'))).toMatchObject({
      earned: 18,
      possible: 18,
    });
  });

  it('says what waits, and counts as marked no more than is asked', () => {
    expect(attemptScore([...chosen(null, 4, 0, 0), other(6)], rule('best'))).toEqual({
      earned: 10,
      possible: 18,
      marked: 18,
      waiting: 1,
    });
    expect(attemptScore([...chosen(null, null), other(6)], rule('best')).marked).toBe(10);
  });

  it('never exceeds the possible points, never falls by one more answer, and all rules agree up to k answers', () => {
    const marks = fc.array(fc.integer({ min: 0, max: 4 }), { minLength: 1, maxLength: 8 });
    fc.assert(
      fc.property(marks, fc.integer({ min: 1, max: 8 }), fc.nat(10), fc.nat(4), (given, count, rest, more) => {
        const scores = extraAnswerRules.map((extra) => {
          const before = attemptScore([...chosen(...given, 0), other(rest)], rule(extra, count));
          const after = attemptScore([...chosen(...given, more), other(rest)], rule(extra, count));
          expect(before.earned).toBeLessThanOrEqual(before.possible + 1e-9);
          expect(after.earned).toBeGreaterThanOrEqual(before.earned - 1e-9);
          return before.earned;
        });
        if (given.filter((one) => one > 0).length <= count) expect(new Set(scores).size).toBe(1);
      }),
    );
  });
});

const choosing = (choose: NonNullable<ExamDesign['parts'][number]['choose']>, points = [4, 4]): ExamDesign => {
  const design = exampleDesign(points.map((one, i) => ({ ...exampleDraw(`line-${i}`, 2, ['topic']), points: one })));
  return { ...design, parts: design.parts.map((part) => ({ ...part, id: 'essays', choose })) };
};

describe('a design with a choose-part', () => {
  it('carries k times p points', () => {
    expect(designPoints(choosing({ count: 3, extra: 'best' }))).toBe(12);
    expect(designPoints(choosing({ count: 9, extra: 'best' }))).toBe(16);
    expect(choosePartsOf(choosing({ count: 3, extra: 'best' })).get('essays')?.count).toBe(3);
  });

  it('is refused where its questions differ in points, or one is required, at that line', () => {
    const uneven = examDesign.safeParse(choosing({ count: 1, extra: 'best' }, [4, 5]));
    expect(uneven.error?.issues.map((issue) => issue.path.join('.'))).toEqual(['parts.0.lines.1.points']);
    const required = choosing({ count: 1, extra: 'best' });
    const line = required.parts[0]?.lines[0];
    if (line) line.required = true;
    expect(examDesign.safeParse(required).error?.issues[0]?.path.join('.')).toBe('parts.0.lines.0.required');
    expect(examDesign.safeParse(choosing({ count: 0, extra: 'best' })).error?.issues[0]?.message).toBe(
      'At least one question is answered.',
    );
  });

  it('cannot count by score when it is anonymous, nor when it is not scored', () => {
    const purpose = (scored: boolean, counts: 'score' | 'no', anonymous: boolean) =>
      examDesign.safeParse({ ...exampleDesign([]), purpose: { scored, counts, anonymous } }).success;
    expect([purpose(true, 'score', true), purpose(false, 'score', false), purpose(false, 'no', true)]).toEqual([
      false,
      false,
      true,
    ]);
  });
});

describe('the pages of a paper', () => {
  const lines = [exampleDraw('one', 2, ['a']), { ...exampleDraw('two', 2, ['a']), newPage: true }];
  const slots = [
    { partId: 'part', lineId: 'one' },
    { partId: 'part', lineId: 'one' },
    { partId: 'part', lineId: 'two' },
    { partId: 'part', lineId: 'two' },
  ];
  const pages = (more: Partial<ExamDesign>, on = slots) =>
    paperRules({ ...exampleDesign(lines), ...more }, on).map((slot) => slot.page);

  it('are one question each, all on one, or broken where the author breaks them', () => {
    expect(pages({})).toEqual([0, 1, 2, 3]);
    expect(pages({ pages: 'all' })).toEqual([0, 0, 0, 0]);
    expect(pages({ pages: 'breaks' })).toEqual([0, 0, 1, 1]);
  });

  it('end in no passage, and in a shuffled part only before its first question', () => {
    const together = slots.map((slot, i) => ({ ...slot, passageId: i === 1 || i === 2 ? 'passage' : null }));
    expect(pages({ pages: 'breaks' }, together)).toEqual([0, 0, 0, 0]);
    const { parts } = exampleDesign(lines);
    const shuffled = [{ ...parts[0], order: 'shuffled' }] as ExamDesign['parts'];
    expect(pages({ pages: 'breaks', parts: shuffled }, [...slots].reverse())).toEqual([0, 0, 0, 0]);
  });
});

describe('the time of one question', () => {
  it('runs from its opening, is longer by extra time, and ends with the attempt', () => {
    expect(questionDeadline(60_000, 0, null, 500_000)).toBeNull();
    expect(questionDeadline(60_000, 25, 100_000, null)).toBe(175_000);
    expect(questionDeadline(60_000, 25, 100_000, 150_000)).toBe(150_000);
  });
});
