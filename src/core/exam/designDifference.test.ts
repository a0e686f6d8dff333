import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { richFromText } from '../base/rich';
import { noUsualRules } from '../sitting/lastingRules';
import { exampleDesign, exampleDraw } from '../testing/exampleExam';
import { moveLine, movePart } from './arrangeDesign';
import type { ExamDesign, ExamPart } from './design';
import { designDifference } from './designDifference';
import type { Names } from './designSaid';

const names: Names = {
  categories: new Map([
    ['tides', 'Tides › Heights'],
    ['lights', 'Lights'],
  ]),
  exams: new Map(),
  questions: new Map([['question-1', 'Head on']]),
  objectives: new Map(),
};
const [first] = exampleDesign([exampleDraw('line-a', 3, ['tides']), exampleDraw('line-b', 2, ['lights'])]).parts as [
  ExamPart,
];
const base: ExamDesign = {
  ...exampleDesign([]),
  parts: [
    { ...first, id: 'part-a', title: 'Part A' },
    { ...first, id: 'part-b', title: 'Part B', lines: [exampleDraw('line-c', 1, ['tides'])] },
  ],
};
const says = (after: ExamDesign) =>
  designDifference(base, after, names).map(({ part, says }) => `${part ?? ''}: ${says}`);
const partA = (change: Partial<ExamPart>): ExamDesign => ({
  ...base,
  parts: base.parts.map((part) => (part.id === 'part-a' ? { ...part, ...change } : part)),
});
const lineA = (change: object) =>
  partA({ lines: first.lines.map((line) => (line.id === 'line-a' ? { ...line, ...change } : line)) });

describe('the difference of two revisions', () => {
  it('is nothing between equal ones', () => {
    expect(says(base)).toEqual([]);
    expect(says(structuredClone(base))).toEqual([]);
  });

  it.each([
    [
      lineA({ count: 5 }),
      ['Part A: draw 5 from Tides › Heights, 1 point each; before: draw 3 from Tides › Heights, 1 point each.'],
    ],
    [
      lineA({ required: true, minutes: 1.5 }),
      [
        'Part A: draw 3 from Tides › Heights, 1 point each, has to be answered, 1.5 min each; before: draw 3 from Tides › Heights, 1 point each.',
      ],
    ],
    [partA({ lines: [first.lines[1] as never] }), ['Part A: Gone: draw 3 from Tides › Heights, 1 point each.']],
    [
      partA({ lines: [...first.lines, { kind: 'fixed', id: 'line-n', questionId: 'question-1', points: 2 }] }),
      ['Part A: New: Head on, 2 points.'],
    ],
    [
      { ...base, offScreen: { document: { hash: 'a'.repeat(64), name: 'The paper.pdf', shown: true } } },
      [': The paper is the document The paper.pdf.', ': Students see the paper while they answer.'],
    ],
    [partA({ order: 'shuffled' }), ['Part A: Its questions are shuffled now.']],
    [partA({ title: 'Tides' }), ['Tides: Its heading was Part A.']],
    [
      partA({ choose: { count: 1, extra: 'best' } }),
      ['Part A: Of its questions any 1 are answered, of more the best count; before: all are answered.'],
    ],
    [
      moveLine(base, 'line-a', { partId: 'part-b', at: 0 }),
      ['Part B: From Part A: draw 3 from Tides › Heights, 1 point each.'],
    ],
    [moveLine(base, 'line-a', { partId: 'part-a', at: 1 }), ['Part A: Its lines stand in another order.']],
    [movePart(base, 'part-b', 0), [': The parts stand in another order.']],
    [
      { ...base, parts: base.parts.slice(0, 1) },
      ['Part B: This part is gone.', 'Part B: Gone: draw 1 from Tides › Heights, 1 point each.'],
    ],
    [
      { ...base, purpose: { scored: true, counts: 'no', anonymous: false } },
      [': What it is for: scored, counts not at all, named; before: scored, counts by score, named.'],
    ],
    [{ ...base, pages: 'all' }, [': Pages: all on one page; before: one question at a time.']],
    [
      { ...base, usual: { timeLimitMinutes: 45, attemptsAllowed: 2, attemptCounts: 'last' } },
      [': Usually given with 45 min, 2 attempts, last counts; before: no time limit, one attempt, best counts.'],
    ],
    [
      {
        ...base,
        usual: {
          timeLimitMinutes: 45,
          attemptsAllowed: 1,
          attemptCounts: 'best',
          fullTimeOnceStarted: true,
          further: { onwardOnly: true, expiry: { kind: 'grace', minutes: 5 } },
        },
      },
      [
        ': Usually given with 45 min also past the closing, one attempt, best counts; When the time is over, nothing more can be entered; it counts only if it is handed in within 5 min; Students cannot go back to a question they have left; before: no time limit, one attempt, best counts.',
      ],
    ],
    [
      {
        ...base,
        usual: { ...noUsualRules, releasePlan: { score: [{ begins: { kind: 'on-hand-in' } }] } },
      },
      [
        ': Usually given with no time limit, one attempt, best counts; Students see: Score: on hand-in; before: no time limit, one attempt, best counts.',
      ],
    ],
    [{ ...base, worth: 20 }, [': Worth: 20; before: its points.']],
    [{ ...base, instructions: richFromText('Bring a pencil.') }, [': The instructions are changed.']],
    [{ ...base, equalHardness: { within: 2 } }, [': Equally hard papers: within 2 of 100; before: not asked for.']],
  ] as [ExamDesign, string[]][])('says what changed (%#)', (after, wanted) => {
    expect(says(after)).toEqual(wanted);
  });

  it('is never silent about a change, and has as much to say backwards', () => {
    const line = fc.record({
      count: fc.integer({ min: 1, max: 4 }),
      points: fc.integer({ min: 1, max: 3 }),
      newPage: fc.boolean(),
    });
    fc.assert(
      fc.property(line, line, (one, two) => {
        const [a, b] = [lineA(one), lineA(two)];
        const [there, back] = [designDifference(a, b, names), designDifference(b, a, names)];
        expect(there.length === 0).toBe(JSON.stringify(a) === JSON.stringify(b));
        expect(back.length).toBe(there.length);
      }),
    );
  });
});
