import fc from 'fast-check';
import katex from 'katex';
import { describe, expect, it } from 'vitest';
import { seededRandom } from '../../base/random';
import { type RichInline, richText } from '../../base/rich';
import { typesetTex } from '../../base/typeset';
import type { QuestionContent } from '../content';
import { noFeedback } from '../feedback';
import { blankAcceptedNumber, blankNumeric } from '../types/numeric/content';
import { admits, drawValues, everyCombination, planValues, sampleLimits } from './drawValues';
import { fillIn } from './fillIn';
import { type Formula, readFormula } from './formula';
import { variationProblems } from './inspectQuestion';
import { inspectVariation } from './inspectVariation';
import { fillTex, namesInTex, nameTex } from './mathValues';
import { renameInFormula, renameUses } from './renameVariable';
import { valueText } from './valueText';
import type { Variable, Variation } from './variation';

const known = new Set(['a', 'b']);
function worth(text: string, values: Record<string, number> = { a: 3, b: 4 }): number {
  const read = readFormula(text, known);
  if (!read.ok) throw new Error(read.message);
  return read.value(values);
}

describe('a formula', () => {
  it.each([
    ['2 + 3 * a', 11],
    ['-a ^ 2', -9],
    ['(a + b) / 2', 3.5],
    ['2 a', 6],
    ['sqrt(a^2 + b^2)', 5],
    ['round(2.675, 2)', 2.68],
    ['round(-a / 2)', -2],
    ['mod(-10, 360)', 350],
    ['-10 % 360', 350],
    ['deg(pi)', 180],
    ['sin(rad(30))', 0.5],
    ['ln(e)', 1],
    ['log10(1000)', 3],
    ['max(a, b, 7)', 7],
    ['a > b ? 1 : 2', 2],
    ['a < b and not (a == 4)', 1],
    ['1 < a <= 3', 1],
    ['0.1 + 0.2 == 0.3', 1],
    ['0.1 + 0.2 > 0.3', 0],
    ['atan2(1, 1) * 4 == pi', 1],
  ])('%s', (text, value) => {
    expect(worth(text)).toBeCloseTo(value, 12);
  });

  it.each([
    ['', 'Write a formula.'],
    ['c + 1', '“c” is no variable declared above.'],
    ['log(a)', 'Write ln or log10.'],
    ['evil(1)', 'There is no function “evil”.'],
    ['sqrt', 'sqrt needs brackets: sqrt(…).'],
    ['sqrt(1, 2)', 'sqrt takes 1 values.'],
    ['a +', 'This formula cannot be read. An example: round(60 * d / v, 1)'],
  ])('%s is refused with a reason', (text, message) => {
    expect(readFormula(text, known)).toEqual({ ok: false, message });
  });

  it.each([
    'a.constructor',
    'a["constructor"]',
    'constructor',
    '__proto__',
    'toString()',
    'f(x) = x',
    'a = 5',
    'a; b',
    '[1, 2, 3]',
    '{ x: 1 }',
    '"text"',
    'import("x")',
    'eval("1")',
    'parse("1")',
    'a!',
    '1:1000000000',
    'createUnit("x")',
    'a to b',
    '(((x => x)(1)))',
    'while(true) a',
    `${'('.repeat(140)}a${')'.repeat(140)}x`,
    `a${'+a'.repeat(149)}`,
  ])('%s reaches nothing', (text) => {
    expect(readFormula(text, known).ok).toBe(false);
  });

  it('is total: any text is a formula or is refused, and ends', () => {
    const text = fc.string({ unit: fc.constantFrom(...'ab123+-*/^%()<>=!?:., "[]{}xe'.split('')), maxLength: 40 });
    fc.assert(
      fc.property(text, (any) => {
        const read = readFormula(any, known);
        if (read.ok) expect(typeof read.value({ a: 1, b: 2 })).toBe('number');
      }),
      { seed: 8, numRuns: 2000 },
    );
  });
});

const range = (id: string, name: string, from: number, to: number, step: number): Variable => ({
  id,
  name,
  source: { kind: 'range', from, to, step },
});
const derived = (id: string, name: string, formula: string): Variable => ({
  id,
  name,
  source: { kind: 'formula', formula },
});
const nothing = { answers: [], choices: () => [] };

describe('drawing values', () => {
  it('counts the steps of a range as a person would', () => {
    const plan = planValues({ variables: [range('v', 'x', 0, 0.3, 0.1)] });
    expect([...everyCombination(plan)].map((values) => values.x)).toEqual([0, 0.1, 0.2, 0.3]);
  });

  it('draws every admissible combination equally often, also a rare one', () => {
    // Of 10,000 combinations only the three with x·y = 9801, 9702 (twice) are admissible.
    const variation: Variation = {
      variables: [range('v', 'x', 1, 100, 1), range('w', 'y', 1, 100, 1)],
      constraints: ['x * y >= 9702', 'x < 100', 'y < 100'],
    };
    const plan = planValues(variation);
    const expected = [...everyCombination(plan)].filter((values) => admits(plan, values)).length;
    expect(expected).toBe(3);
    const counts = new Map<string, number>();
    for (let s = 0; s < 120; s++) {
      const values = drawValues(plan, seededRandom(`${s}`));
      counts.set(JSON.stringify(values), (counts.get(JSON.stringify(values)) ?? 0) + 1);
    }
    expect(counts.size).toBe(3);
    // 40 each are expected, with a standard deviation of 5.2.
    for (const n of counts.values()) expect(n).toBeGreaterThan(24);
  });

  it('goes through the combinations once for all papers of a question', () => {
    const variation: Variation = {
      variables: [range('v', 'x', 1, 100, 1), range('w', 'y', 1, 100, 1)],
      constraints: ['x * y >= 9999'],
    };
    const [condition] = planValues(variation).constraints as [Formula];
    const judge = condition.value;
    let judged = 0;
    condition.value = (values) => {
      judged += 1;
      return judge(values);
    };
    const papers = 20;
    for (let s = 0; s < papers; s++)
      expect(drawValues(planValues(variation), seededRandom(`${s}`))).toEqual({ x: 100, y: 100 });
    expect(judged).toBeGreaterThanOrEqual(10_000);
    expect(judged).toBeLessThanOrEqual(10_000 + papers * sampleLimits.beforeListing);
  });

  it('ends without values where no combination is admissible, however many there are', () => {
    const few = planValues({ variables: [range('v', 'x', 1, 10, 1)], constraints: ['x > 10'] });
    const many = planValues({
      variables: [range('v', 'x', 0, 1e6, 1), range('w', 'y', 0, 1e6, 1)],
      constraints: ['x + y < 0'],
    });
    expect(drawValues(few, seededRandom('s'))).toBe(null);
    expect(drawValues(many, seededRandom('s'))).toBe(null);
  });

  it('ends also for ranges and lists that cannot be saved: they pass through the editor while they are typed', () => {
    const number = fc.oneof(fc.constantFrom(0, -1, 1, 1e-9, 1e300), fc.double({ noNaN: true }));
    const source = fc.oneof(
      fc.record({ kind: fc.constant('range' as const), from: number, to: number, step: number }),
      fc.record({ kind: fc.constant('list' as const), values: fc.array(number, { maxLength: 2 }) }),
    );
    fc.assert(
      fc.property(fc.array(source, { minLength: 1, maxLength: 3 }), fc.string(), (sources, seed) => {
        const variables = sources.map((one, i) => ({ id: `v${i}`, name: `a${i}`, source: one }));
        drawValues(planValues({ variables, constraints: ['a0 > 3'] }), seededRandom(seed));
      }),
      { numRuns: 60 },
    );
  });

  it('gives only values that meet every condition', () => {
    const ends = fc.record({
      from: fc.integer({ min: -20, max: 20 }),
      count: fc.nat({ max: 20 }),
      least: fc.integer({ min: -40, max: 40 }),
    });
    fc.assert(
      fc.property(ends, fc.string(), ({ from, count, least }, seed) => {
        const plan = planValues({
          variables: [range('v', 'x', from, from + count, 1), derived('w', 'y', '12 / x')],
          constraints: [`x + y >= ${least}`],
        });
        const values = drawValues(plan, seededRandom(seed)) as { x: number; y: number } | null;
        const possible = [...everyCombination(plan)].some((one) => admits(plan, one));
        expect(values !== null).toBe(possible);
        if (values) expect(values.x !== 0 && values.y === 12 / values.x && values.x + values.y >= least).toBe(true);
      }),
      { seed: 10, numRuns: 300 },
    );
  });
});

describe('inspecting a variation', () => {
  const variables = [
    range('v', 'd', 1, 10, 1),
    { id: 'w', name: 'v', source: { kind: 'list', values: [2, 4, 4] } } as Variable,
  ];

  it('counts variants exactly where they are few, and says more than how many where they are not', () => {
    expect(inspectVariation({ variables }, nothing).variants).toEqual({ exact: true, count: 20 });
    expect(inspectVariation({ variables, constraints: ['d > v'] }, nothing).variants).toEqual({
      exact: true,
      count: 14,
    });
    const many = inspectVariation({ variables: [range('v', 'd', 0, 1e5, 1), ...variables.slice(1)] }, nothing).variants;
    expect(many.exact).toBe(false);
    expect(many.count).toBeGreaterThan(1_000);
  });

  it('shows sample papers with their answers', () => {
    const report = inspectVariation(
      { variables },
      { answers: [{ label: 'The answer', formula: 'd / v' }], choices: () => [] },
      5,
    );
    expect(report.samples).toHaveLength(5);
    for (const { values, answers } of report.samples)
      expect(answers[0]).toBe((values.d as number) / (values.v as number));
    expect(report.problems).toEqual([]);
  });

  it('reports a condition that is never met with how many were tried, and ends', () => {
    const never = inspectVariation({ variables, constraints: ['d > 10'] }, nothing);
    expect(never.problems[0]?.message).toContain('met by none of 20 combinations, all there are');
    const rare = inspectVariation(
      { variables: [range('v', 'x', 0, 1e6, 1), range('w', 'y', 0, 1e6, 1)], constraints: ['x == y'] },
      nothing,
    );
    expect(rare.tried).toBe(40_000);
    expect(rare.problems[0]).toMatchObject({ severity: 'error' });
    expect(rare.problems[0]?.message).toContain('40000 samples');
    expect(rare.samples).toEqual([]);
  });

  it('reports a division by zero, an answer that is the same for all, and choices that coincide', () => {
    const zero = inspectVariation(
      { variables: [range('v', 'x', 0, 4, 1)] },
      {
        answers: [
          { label: 'The answer', formula: '1 / x' },
          { label: 'Value 2', formula: 'x - x' },
        ],
        choices: () => [],
      },
    );
    expect(zero.problems.map((problem) => problem.message)).toEqual([
      'The answer has no value (a division by zero?) in 1 of 5 cases, such as x = 0.',
      'Value 2 is the same for everyone: 0.',
    ]);
    const twins = inspectVariation(
      { variables: [range('v', 'x', 1, 4, 1)] },
      { answers: [], choices: ({ x }) => [[String(x), '2', '9']] },
    );
    expect(twins.problems).toMatchObject([{ severity: 'error' }]);
    expect(twins.problems[0]?.message).toContain('(“2”) in 1 of 4 cases looked at, such as x = 2');
  });
});

describe('a value in a text', () => {
  it.each([
    [1.005, 2, '1.01'],
    [-3, null, '\u22123'],
    [0.1 + 0.2, null, '0.3'],
    [12, 1, '12.0'],
    [Number.NaN, 1, '?'],
  ])('%s with %s decimals', (value, decimals, text) => {
    expect(valueText(value, decimals)).toBe(text);
  });
});

describe('a value inside mathematics', () => {
  const tex = '\\frac{60 \\cdot \\value{d}}{\\value[1]{v}} - \\value{d}^2';

  it('stands in braces of its own, with the decimals asked for', () => {
    expect(fillTex(tex, { d: -3, v: 4.25 })).toBe('\\frac{60 \\cdot {\u22123}}{{4.3}} - {\u22123}^2');
    expect(fillTex('\\value{gone}', {})).toBe('{?}');
    expect(namesInTex(tex)).toEqual(['d', 'v', 'd']);
  });

  it('is shown to its author by name, in TeX that can be typeset', () => {
    for (const text of [nameTex(tex), fillTex(tex, { d: -3, v: 4.25 }), nameTex('\\value{a_b}')])
      expect([text, typesetTex(text, false, katex).problem]).toEqual([text, undefined]);
  });

  it('is filled in on the paper and nowhere leaves its name', () => {
    const rich = {
      type: 'doc' as const,
      content: [{ type: 'paragraph' as const, content: [{ type: 'math' as const, attrs: { tex, display: true } }] }],
    };
    const filled = fillIn(rich, [], { d: 2, v: 5 });
    expect(richText(filled)).toBe('\\frac{60 \\cdot {2}}{{5.0}} - {2}^2');
  });
});

describe('another name for a value', () => {
  it.each([
    ['a + ab + 2a - a2', 'x + ab + 2x - a2'],
    ['2e3 + e', '2e3 + e'],
    ['min(a, max(a, 1.5e-2))', 'min(x, max(x, 1.5e-2))'],
    ['a>b?a:b', 'x>b?x:b'],
  ])('%s becomes %s', (before, after) => {
    expect(renameInFormula(before, 'a', 'x')).toBe(after);
  });

  it('leaves the value of every formula as it was, and comes back', () => {
    const formula = fc
      .array(fc.constantFrom('a', 'b', '2', '1.5e2', '.5', 'sqrt(4)', '(a)', '-b'), { minLength: 1, maxLength: 8 })
      .map((parts) => parts.join(' + '));
    fc.assert(
      fc.property(formula, (text) => {
        const renamed = renameInFormula(text, 'a', 'speed_1');
        const read = readFormula(renamed, new Set(['speed_1', 'b']));
        expect(read.ok && read.value({ speed_1: 3, b: 4 })).toBe(worth(text));
        expect(renameInFormula(renamed, 'speed_1', 'a')).toBe(text);
      }),
    );
  });

  it('reaches the formulas, conditions, answers and mathematics of a question, and nothing else', () => {
    const math = (tex: string) => ({
      type: 'doc' as const,
      content: [{ type: 'paragraph' as const, content: [{ type: 'math' as const, attrs: { tex, display: false } }] }],
    });
    const content: QuestionContent = {
      ...blankNumeric(),
      stem: math('v = \\value{v} + v'),
      accepted: [{ ...blankAcceptedNumber(), value: '60 * v' }],
      variables: [
        { id: 'v0', name: 'v', source: { kind: 'range', from: 1, to: 5, step: 1 } },
        { id: 'v1', name: 'w', source: { kind: 'formula', formula: 'v + 1' } },
      ],
      constraints: ['v > 2'],
      feedback: { ...noFeedback, solution: math('\\value[2]{ v }') },
    };
    const after = renameUses(content, 'v', 'speed');
    expect(after).toMatchObject({
      stem: math('v = \\value{speed} + v'),
      accepted: [{ value: '60 * speed' }],
      variables: [{ name: 'v' }, { source: { formula: 'speed + 1' } }],
      constraints: ['speed > 2'],
      feedback: { solution: math('\\value[2]{speed}') },
    });
    expect(renameUses(after, 'nowhere', 'x').stem).toBe(after.stem);
  });

  it('a text that holds a value which is not declared is not saved', () => {
    const stem = (inline: RichInline) => ({
      type: 'doc' as const,
      content: [{ type: 'paragraph' as const, content: [inline] }],
    });
    const content = {
      ...blankNumeric(),
      accepted: [{ ...blankAcceptedNumber(), value: 'a' }],
      variables: [{ id: 'v0', name: 'a', source: { kind: 'list' as const, values: [1, 2] } }],
    };
    const fields = (inline: RichInline) =>
      variationProblems({ ...content, stem: stem(inline) }).map((one) => one.field);
    expect(fields({ type: 'variable', attrs: { id: 'v0', decimals: null } })).toEqual([]);
    expect(fields({ type: 'variable', attrs: { id: 'v1', decimals: null } })).toEqual(['content.stem']);
    expect(fields({ type: 'math', attrs: { tex: '\\value{a}', display: false } })).toEqual([]);
    expect(fields({ type: 'math', attrs: { tex: '\\value{b}', display: false } })).toEqual(['content.stem']);
  });
});
