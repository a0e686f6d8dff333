import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { exampleDesign, exampleDraw } from '../testing/exampleExam';
import { choosing, moveLine, movePart, neighbourPlace, withLine } from './arrangeDesign';
import type { ExamDesign, ExamPart } from './design';
import { choiceOrderSaid, questionOrderSaid } from './orderSaid';

const part = (id: string, lines: string[]): ExamPart => ({
  ...(exampleDesign(lines.map((line) => exampleDraw(line, 1, ['x']))).parts[0] as ExamPart),
  id,
});
const plan: ExamDesign = {
  ...exampleDesign([]),
  parts: [part('A', ['a1', 'a2', 'a3']), part('B', ['b1']), part('C', [])],
};
const laid = (design: ExamDesign) => design.parts.map((one) => one.lines.map((line) => line.id).join(' ')).join(' | ');

describe('a line', () => {
  it.each([
    ['a1', 'A', 2, 'a2 a3 a1 | b1 | '],
    ['a3', 'A', 0, 'a3 a1 a2 | b1 | '],
    ['a2', 'B', 0, 'a1 a3 | a2 b1 | '],
    ['a2', 'C', 0, 'a1 a3 | b1 | a2'],
    ['b1', 'A', 1, 'a1 b1 a2 a3 |  | '],
    ['b1', 'none', 0, 'a1 a2 a3 | b1 | '],
    ['none', 'A', 0, 'a1 a2 a3 | b1 | '],
  ])('%s moved into %s at %i', (line, partId, at, wanted) => {
    expect(laid(moveLine(plan, line, { partId, at }))).toBe(wanted);
  });

  it('steps over the ends of its part into the next, and no further than the plan', () => {
    const step = (design: ExamDesign, line: string, by: 1 | -1) => {
      const to = neighbourPlace(design, line, by);
      return to ? laid(moveLine(design, line, to)) : 'stays';
    };
    expect(step(plan, 'a3', 1)).toBe('a1 a2 | a3 b1 | ');
    expect(step(plan, 'b1', 1)).toBe('a1 a2 a3 |  | b1');
    expect(step(plan, 'b1', -1)).toBe('a1 a2 a3 b1 |  | ');
    expect(step(plan, 'a1', -1)).toBe('stays');
    expect(step(plan, 'a1', 1)).toBe('a2 a1 a3 | b1 | ');
  });

  it('is neither lost nor doubled by any number of moves', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.tuple(fc.constantFrom('a1', 'a2', 'a3', 'b1'), fc.constantFrom('A', 'B', 'C'), fc.nat(5), fc.nat(3)),
        ),
        (moves) => {
          let design = plan;
          for (const [line, partId, at, partAt] of moves)
            design = movePart(moveLine(design, line, { partId, at }), partId, partAt);
          expect(design.parts.flatMap((one) => one.lines.map((line) => line.id)).sort()).toEqual([
            'a1',
            'a2',
            'a3',
            'b1',
          ]);
          expect(design.parts.map((one) => one.id).sort()).toEqual(['A', 'B', 'C']);
        },
      ),
    );
  });
});

describe('a choose-part', () => {
  const uneven: ExamPart = {
    ...part('A', ['a1', 'a2']),
    lines: [
      { ...exampleDraw('a1', 1, ['x']), points: 4 },
      { ...exampleDraw('a2', 1, ['x']), points: 1, required: true },
    ],
  };
  const chosen = choosing(uneven, { count: 1, extra: 'best' });

  it('gives all its lines the points of the first and requires none', () => {
    expect(chosen.lines.map((line) => [line.points, line.required])).toEqual([
      [4, undefined],
      [4, undefined],
    ]);
    expect(choosing(chosen, undefined).choose).toBeUndefined();
  });

  it('keeps its points equal when one changes or a line comes in', () => {
    const changed = withLine(chosen, { ...exampleDraw('a2', 1, ['x']), points: 7 });
    expect(changed.lines.map((line) => line.points)).toEqual([7, 7]);
    const design = { ...plan, parts: [chosen, part('B', ['b1'])] };
    expect(moveLine(design, 'b1', { partId: 'A', at: 2 }).parts[0]?.lines.map((line) => line.points)).toEqual([
      4, 4, 4,
    ]);
  });
});

describe('the order in words', () => {
  it('says which level decides', () => {
    const [first] = plan.parts as [ExamPart];
    expect(questionOrderSaid({ ...first, order: 'shuffled' })).toBe('In another order on each paper.');
    expect(questionOrderSaid({ ...first, lines: [exampleDraw('a', 2, ['x'])] })).toContain('in the order drawn');
    expect(choiceOrderSaid({ ...plan, choices: 'as-written' }, { withChoices: 4, allowing: 4 })).toContain(
      'exam decides',
    );
    expect(choiceOrderSaid(plan, { withChoices: 4, allowing: 3 })).toContain('3 of 4');
  });
});
