import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { seededRandom } from '../base/random';
import { richFromText } from '../base/rich';
import { type QuestionContent, questionContent } from './content';
import { present, rightResponse, scoreResponse } from './score';
import { forStudent } from './student';
import { readNumber } from './types/numeric/readNumber';
import { accepts } from './types/numeric/score';
import { countWords } from './types/written/student';

const words = fc.string({ minLength: 1, maxLength: 20 }).filter((text) => text.trim() !== '' && !/[\r\n]/.test(text));
const rich = words.map((text) => richFromText(`x${text}`));

const choice: fc.Arbitrary<QuestionContent> = fc
  .record({
    stem: rich,
    texts: fc.array(rich, { minLength: 2, maxLength: 20 }),
    right: fc.nat(),
    shuffle: fc.boolean(),
    pins: fc.array(fc.boolean(), { minLength: 20, maxLength: 20 }),
  })
  .map(({ stem, texts, right, shuffle, pins }) => ({
    type: 'single-choice',
    stem,
    shuffle,
    feedback: {},
    choices: texts.map((content, i) => ({
      id: `c${i}`,
      content,
      right: i === right % texts.length,
      pinned: pins[i] ?? false,
    })),
  }));
const numeric: fc.Arbitrary<QuestionContent> = fc
  .record({
    stem: rich,
    value: fc.double({ noNaN: true, min: -1e6, max: 1e6 }),
    amount: fc.double({ noNaN: true, min: 0, max: 10 }),
  })
  .map(({ stem, value, amount }) => ({
    type: 'numeric',
    stem,
    feedback: {},
    accepted: [{ value: value.toFixed(3), tolerance: { kind: 'absolute', amount }, credit: 1 }],
  }));
const anyQuestion = fc.oneof(choice, numeric);
const written = (): QuestionContent => ({
  type: 'written',
  stem: richFromText('why'),
  modelAnswer: richFromText('because'),
  words: { least: null, most: null },
  feedback: {},
});

describe('scoring any question', () => {
  it('gives the right response credit 1, whatever the paper’s order', () => {
    fc.assert(
      fc.property(anyQuestion, fc.string(), (content, seed) => {
        expect(questionContent.safeParse(content).success).toBe(true);
        const presentation = present(content, seededRandom(seed));
        expect(scoreResponse(content, presentation, rightResponse(content, presentation))).toEqual({
          kind: 'credit',
          credit: 1,
        });
      }),
      { seed: 3, numRuns: 300 },
    );
  });

  it('is total: any JSON gives credit within 0 and 1, or waits for a person', () => {
    fc.assert(
      fc.property(fc.oneof(anyQuestion, fc.constant(written())), fc.jsonValue(), (content, response) => {
        const scored = scoreResponse(content, present(content, seededRandom('s')), response);
        if (scored.kind === 'credit') expect(scored.credit).toBeGreaterThanOrEqual(0);
        if (scored.kind === 'credit') expect(scored.credit).toBeLessThanOrEqual(1);
      }),
      { seed: 5, numRuns: 500 },
    );
  });

  it('gives an empty response 0, also where a full one waits for a person', () => {
    for (const empty of [null, undefined, { text: '' }, { text: '  \n' }])
      expect(scoreResponse(written(), {}, empty)).toEqual({ kind: 'credit', credit: 0 });
    expect(scoreResponse(written(), {}, { text: 'because' })).toEqual({ kind: 'by-hand' });
  });

  it('shows a student no key, tolerance or feedback of any kind', () => {
    fc.assert(
      fc.property(anyQuestion, (content) => {
        const view = forStudent(content, present(content, seededRandom('s')));
        const allowed = {
          'single-choice': ['type', 'stem', 'choices'],
          numeric: ['type', 'stem'],
          written: ['type', 'stem', 'words'],
        }[view.type];
        expect(Object.keys(view).sort()).toEqual([...allowed].sort());
        if (view.type === 'single-choice')
          for (const shown of view.choices) expect(Object.keys(shown).sort()).toEqual(['content', 'key']);
      }),
      { seed: 9, numRuns: 200 },
    );
  });
});

describe('the order of choices', () => {
  const content = (shuffle: boolean): QuestionContent => ({
    type: 'single-choice',
    stem: richFromText('q'),
    shuffle,
    feedback: {},
    choices: ['a', 'b', 'c', 'none of these'].map((text, i) => ({
      id: `c${i}`,
      content: richFromText(text),
      right: i === 0,
      pinned: i === 3,
    })),
  });

  it('keeps pinned choices in their places and puts the others everywhere', () => {
    const places = new Set<number>();
    for (let s = 0; s < 60; s++) {
      const order = present(content(true), seededRandom(`s${s}`)).choices ?? [];
      expect(order[3]?.id).toBe('c3');
      places.add(order.findIndex((one) => one.id === 'c0'));
    }
    expect([...places].sort()).toEqual([0, 1, 2]);
  });

  it('stays as written where shuffling is off, under keys that tell nothing', () => {
    const orders = ['s1', 's2'].map((seed) => present(content(false), seededRandom(seed)).choices ?? []);
    for (const order of orders) expect(order.map((one) => one.id)).toEqual(['c0', 'c1', 'c2', 'c3']);
    expect(orders[0]?.map((one) => one.key)).not.toEqual(orders[1]?.map((one) => one.key));
  });
});

describe('reading a number', () => {
  it.each([
    ['12', 12],
    [' -3 ', -3],
    ['\u22123', -3],
    ['+4', 4],
    ['1.5', 1.5],
    ['1,5', 1.5],
    ['.5', 0.5],
    [',25', 0.25],
    ['3/4', 0.75],
    ['-3 / 4', -0.75],
    ['1 3/4', 1.75],
    ['-1 1/2', -1.5],
    ['1½', 1.5],
    ['¾', 0.75],
    ['１２', 12],
    ['1.2e3', 1200],
    ['1,2E-3', 0.0012],
    ['2×10^3', 2000],
    ['2 x 10^-2', 0.02],
    ['1,234', 1.234],
  ])('%s', (text, value) => {
    const read = readNumber(text);
    expect(read.ok ? read.value : null).toBe(value);
  });

  it.each([
    ['1.234,5', 'ambiguous'],
    ['1,234,567', 'ambiguous'],
    ['12 345', 'ambiguous'],
    ['', 'empty'],
    ['three', 'not-a-number'],
    ['1/0', 'not-a-number'],
    ['1e999', 'not-a-number'],
    ['5 kn', 'not-a-number'],
    ['--5', 'not-a-number'],
    ['10²', 'not-a-number'],
    ['2×10³', 'not-a-number'],
    ['Infinity', 'not-a-number'],
  ])('%s is not guessed', (text, why) => {
    expect(readNumber(text)).toMatchObject({ ok: false, why });
  });

  it('reads back whatever it says it has read', () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 12 }), (text) => {
        const read = readNumber(text);
        if (read.ok) expect(readNumber(read.readAs)).toMatchObject({ ok: true, value: read.value });
      }),
      { seed: 1, numRuns: 1000 },
    );
  });
});

describe('a tolerance', () => {
  const within = (value: string, kind: 'absolute' | 'relative', amount: number) => (x: number) =>
    accepts({ value, tolerance: { kind, amount }, credit: 1 }, x);

  it('is inclusive, absolute or as a share of the value', () => {
    const absolute = within('10', 'absolute', 0.5);
    expect([9.5, 10.5, 9.4999, 10.5001].map(absolute)).toEqual([true, true, false, false]);
    const relative = within('-200', 'relative', 0.02);
    expect([-204, -196, -204.1, -195.9].map(relative)).toEqual([true, true, false, false]);
  });

  it('absorbs binary rounding and nothing more', () => {
    expect(within('0.3', 'absolute', 0)(0.1 + 0.2)).toBe(true);
    expect(within('0.3', 'absolute', 0)(0.3000001)).toBe(false);
    expect(within('1.1', 'absolute', 0.1)(1.2)).toBe(true);
  });
});

it('counts words as a person does', () => {
  expect(['', 'one', "don't stop", 'well-known  facts, 3 of them.', 'Trần Bảo ужин'].map(countWords)).toEqual([
    0, 1, 2, 5, 3,
  ]);
});
