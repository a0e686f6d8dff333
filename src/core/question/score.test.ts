import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { seededRandom } from '../base/random';
import { type Rich, richFromText, richText } from '../base/rich';
import { anyOf } from '../testing/anyQuestion';
import { type ContentOf, contentText, type QuestionContent, questionContent } from './content';
import { present, responseText, rightResponse, scoreResponse } from './score';
import { forStudent } from './student';
import { type QuestionType, questionTypes } from './types';
import { withValues } from './withValues';

const rich = richFromText;
const credit = (content: QuestionContent, response: unknown, presentation = present(content, seededRandom('s'))) => {
  const scored = scoreResponse(content, presentation, response);
  return scored.kind === 'credit' ? scored.credit : scored.kind;
};
const surveys: QuestionType[] = ['rating-scale', 'date'];

describe.each(questionTypes)('%s, whatever an author saves', (type) => {
  const any = anyOf[type] as fc.Arbitrary<QuestionContent>;

  it('can be saved, and its right response earns exactly 1 on every paper', () => {
    fc.assert(
      fc.property(any, fc.string(), (content, seed) => {
        const parsed = questionContent.safeParse(content);
        expect(parsed.success ? null : parsed.error.issues).toBe(null);
        const presentation = present(content, seededRandom(seed));
        const scored = scoreResponse(content, presentation, rightResponse(content, presentation));
        if (type === 'written') expect(scored).toEqual({ kind: 'by-hand' });
        else expect(scored).toEqual({ kind: 'credit', credit: 1 });
      }),
      { seed: 3, numRuns: 200 },
    );
  });

  it('gives any JSON a credit within 0 and 1, or the word that a person judges it, and words for it', () => {
    const anything = fc.oneof(
      fc.jsonValue(),
      fc.record({ picked: fc.jsonValue(), text: fc.string(), gaps: fc.dictionary(fc.string(), fc.jsonValue()) }),
      fc.record({ pairs: fc.dictionary(fc.string(), fc.string()), order: fc.array(fc.string()), step: fc.double() }),
      fc.record({ text: fc.string(), unit: fc.jsonValue(), rich: fc.jsonValue(), files: fc.jsonValue() }),
    );
    fc.assert(
      fc.property(any, anything, (content, response) => {
        const presentation = present(content, seededRandom('s'));
        const scored = scoreResponse(content, presentation, response);
        if (scored.kind === 'credit') {
          expect(scored.credit).toBeGreaterThanOrEqual(0);
          expect(scored.credit).toBeLessThanOrEqual(1);
        }
        expect(typeof responseText(content, presentation, response)).toBe('string');
      }),
      { seed: 5, numRuns: 300 },
    );
  });

  it('gives an empty response 0, also where a full one waits for a person', () => {
    fc.assert(
      fc.property(any, (content) => {
        for (const empty of [null, undefined, '', {}, [], { text: ' \n' }, { picked: [] }, { gaps: {} }, { order: [] }])
          expect(credit(content, empty)).toBe(0);
      }),
      { seed: 7, numRuns: 30 },
    );
  });

  it('shows a student only what the view names', () => {
    const allowed: Record<QuestionType, string[]> = {
      'single-choice': ['choices'],
      'multiple-choice': ['choices'],
      'true-false': [],
      'short-text': [],
      numeric: ['unit'],
      'gap-fill': ['gaps'],
      matching: ['options', 'prompts'],
      ordering: ['items'],
      written: ['files', 'format', 'words'],
      'rating-scale': ['cannotSay', 'high', 'low', 'steps'],
      date: ['earliest', 'latest'],
    };
    fc.assert(
      fc.property(any, (content) => {
        const view = forStudent(content, present(content, seededRandom('s')));
        expect(Object.keys(view).sort()).toEqual(['stem', 'type', ...allowed[type]].sort());
        const inner = Object.values(view).flatMap((part) => (Array.isArray(part) ? part : []));
        for (const item of inner)
          for (const name of Object.keys(item))
            expect(['key', 'content', 'text', 'id', 'kind', 'look', 'options']).toContain(
              typeof item === 'string' ? 'key' : name,
            );
        expect(JSON.stringify(view)).not.toMatch(
          /"(right|accepted|credit|answer|rule|weight|variables|pinned|feedback)":/,
        );
      }),
      { seed: 9, numRuns: 100 },
    );
  });

  it('has words for lists and search', () => {
    fc.assert(
      fc.property(any, (content) => {
        expect(contentText(content)).toContain(richText(content.stem).split('\n')[0]);
      }),
      { seed: 11, numRuns: 30 },
    );
  });

  it('marks by hand nothing but written answers, and asks surveys no right answer', () => {
    fc.assert(
      fc.property(any, (content) => {
        if (surveys.includes(type)) expect(credit(content, rightResponse(content, {}))).toBe(1);
        else if (type !== 'written') expect(credit(content, { text: 'z' })).not.toBe('by-hand');
      }),
      { seed: 13, numRuns: 20 },
    );
  });
});

const choices = (...marks: ('right' | 'wrong')[]) =>
  marks.map((mark, i) => ({ id: `c${i}`, content: rich(`choice ${i}`), right: mark === 'right', pinned: false }));

describe('multiple choice: two right of five', () => {
  const question = (rule: ContentOf<'multiple-choice'>['rule']): ContentOf<'multiple-choice'> => ({
    type: 'multiple-choice',
    stem: rich('Which?'),
    choices: choices('right', 'wrong', 'right', 'wrong', 'wrong'),
    shuffle: true,
    rule,
    feedback: {},
  });
  const picking = (rule: ContentOf<'multiple-choice'>['rule'], ...places: number[]) => {
    const content = question(rule);
    const presentation = present(content, seededRandom('p'));
    const picked = places.map((place) => presentation.choices?.find((one) => one.id === `c${place}`)?.key);
    return credit(content, { picked }, presentation);
  };

  // Worked by hand: all or nothing; (right − wrong) / 2; (rightly picked + rightly left) / 5.
  it.each([
    [[0, 2], 1, 1, 1],
    [[0], 0, 0.5, 4 / 5],
    [[0, 1], 0, 0, 3 / 5],
    [[0, 2, 1], 0, 0.5, 4 / 5],
    [[0, 2, 1, 3, 4], 0, 0, 2 / 5],
    [[1, 3], 0, 0, 1 / 5],
    [[], 0, 0, 0],
  ])('picks %j', (places, all, cancel, each) => {
    expect(picking('all-or-nothing', ...places)).toBe(all);
    expect(picking('wrong-cancels-right', ...places)).toBeCloseTo(cancel, 12);
    expect(picking('each-judged', ...places)).toBeCloseTo(each, 12);
  });

  it('counts a key that is not on the paper for nothing', () => {
    expect(credit(question('each-judged'), { picked: ['nowhere'] })).toBe(0);
  });
});

describe('ordering: four items', () => {
  const question = (rule: ContentOf<'ordering'>['rule']): ContentOf<'ordering'> => ({
    type: 'ordering',
    stem: rich('Order them'),
    items: ['one', 'two', 'three', 'four'].map((text, i) => ({ id: `i${i}`, content: rich(text) })),
    rule,
    feedback: {},
  });
  const ordered = (rule: ContentOf<'ordering'>['rule'], ...places: number[]) => {
    const content = question(rule);
    const presentation = present(content, seededRandom('p'));
    const order = places.map((place) => presentation.choices?.find((one) => one.id === `i${place}`)?.key);
    return credit(content, { order }, presentation);
  };

  // Pairs in the right relative order, of 6, counted by hand.
  it.each([
    [[0, 1, 2, 3], 1, 1, 1],
    [[1, 0, 2, 3], 0, 2 / 4, 5 / 6],
    [[3, 2, 1, 0], 0, 0, 0],
    [[3, 0, 1, 2], 0, 0, 3 / 6],
    [[0, 2, 3, 1], 0, 1 / 4, 4 / 6],
  ])('%j', (places, all, inPlace, pairs) => {
    expect(ordered('all-or-nothing', ...places)).toBe(all);
    expect(ordered('in-place', ...places)).toBeCloseTo(inPlace, 12);
    expect(ordered('pairs', ...places)).toBeCloseTo(pairs, 12);
  });

  it('earns nothing when items are missing, and never begins in the right order', () => {
    expect(ordered('pairs', 0, 1, 2)).toBe(0);
    const content = { ...question('pairs'), items: question('pairs').items.slice(0, 2) };
    for (let s = 0; s < 50; s++)
      expect(present(content, seededRandom(`s${s}`)).choices?.map((one) => one.id)).toEqual(['i1', 'i0']);
  });
});

describe('matching', () => {
  const question = (rule: 'share' | 'all-or-nothing'): ContentOf<'matching'> => ({
    type: 'matching',
    stem: rich('Match'),
    pairs: [
      { id: 'p0', prompt: rich('red'), answer: 'port' },
      { id: 'p1', prompt: rich('green'), answer: 'starboard' },
      { id: 'p2', prompt: rich('red too'), answer: ' port' },
      { id: 'p3', prompt: rich('white'), answer: 'masthead' },
    ],
    extras: ['stern'],
    rule,
    feedback: {},
  });
  const put = (content: ContentOf<'matching'>, texts: (string | null)[]) => {
    const presentation = present(content, seededRandom('m'));
    const pairs = Object.fromEntries(
      texts.flatMap((text, i) => {
        const prompt = presentation.choices?.find((one) => one.id === `p${i}`)?.key ?? '';
        const option = presentation.lists?.options?.find((one) => one.id === text)?.key;
        return option ? [[prompt, option]] : [];
      }),
    );
    return credit(content, { pairs }, presentation);
  };

  it('offers each text once and compares texts, not places', () => {
    const shown = forStudent(question('share'), present(question('share'), seededRandom('m')));
    expect(shown.options.map((option) => option.text).sort()).toEqual(['masthead', 'port', 'starboard', 'stern']);
    expect(put(question('share'), ['port', 'starboard', 'port', 'masthead'])).toBe(1);
    expect(put(question('share'), ['port', 'stern', 'port', null])).toBe(0.5);
    expect(put(question('all-or-nothing'), ['port', 'stern', 'port', 'masthead'])).toBe(0);
  });

  it('refuses an extra that belongs to a prompt', () => {
    expect(questionContent.safeParse({ ...question('share'), extras: ['port '] }).success).toBe(false);
  });
});

describe('gap-fill', () => {
  const gap = (id: string) => ({ type: 'gap' as const, attrs: { id } });
  const say = (text: string) => ({ type: 'text' as const, text });
  const question: ContentOf<'gap-fill'> = {
    type: 'gap-fill',
    stem: {
      type: 'doc',
      content: [
        { type: 'paragraph', content: [say('The '), gap('g1'), say(' lasts '), gap('g2'), say(' to '), gap('g3')] },
      ],
    },
    gaps: [
      {
        id: 'g1',
        kind: 'text',
        weight: 1,
        accepted: [
          { text: 'flood', credit: 1 },
          { text: 'tide', credit: 0.5 },
        ],
        matching: { ignore: { case: true, accents: true, spacing: true }, slips: 1, wildcards: false },
      },
      {
        id: 'g2',
        kind: 'number',
        weight: 2,
        accepted: [{ value: '6', tolerance: { kind: 'absolute', amount: 0.5 }, credit: 1 }],
      },
      {
        id: 'g3',
        kind: 'pick',
        weight: 1,
        look: 'row',
        shuffle: true,
        options: [
          { id: 'a', content: rich('high water'), right: true },
          { id: 'b', content: rich('low water'), right: false },
        ],
      },
    ],
    feedback: {},
  };
  const presentation = present(question, seededRandom('g'));
  const key = (id: string) => presentation.lists?.g3?.find((one) => one.id === id)?.key ?? '';

  // Weights 1, 2, 1: worked by hand.
  it.each([
    [{ g1: 'Flood', g2: '6,2', g3: 'a' }, 1],
    [{ g1: 'flod', g2: '7', g3: 'b' }, 1 / 4],
    [{ g1: 'tide', g2: '6' }, 2.5 / 4],
    [{ g3: 'a' }, 1 / 4],
    [{ g9: 'flood' }, 0],
  ])('%j', (gaps, expected) => {
    const given = Object.fromEntries(Object.entries(gaps).map(([id, text]) => [id, id === 'g3' ? key(text) : text]));
    expect(credit(question, { gaps: given }, presentation)).toBeCloseTo(expected, 12);
  });

  it('keeps a row of options in its order and says in words what was entered', () => {
    for (let s = 0; s < 20; s++)
      expect(present(question, seededRandom(`s${s}`)).lists?.g3?.map((one) => one.id)).toEqual(['a', 'b']);
    expect(responseText(question, presentation, { gaps: { g1: 'ebb', g3: key('b') } })).toBe(
      '1: ebb; 2: ; 3: low water',
    );
  });

  it('refuses gaps that stand nowhere, twice, or without an answer', () => {
    const twice: Rich = {
      type: 'doc',
      content: [{ type: 'paragraph', content: [gap('g1'), gap('g1'), gap('g2'), gap('g3')] }],
    };
    const lacking: Rich = { type: 'doc', content: [{ type: 'paragraph', content: [gap('g1'), gap('g2'), gap('g7')] }] };
    const messages = (stem: Rich) => {
      const parsed = questionContent.safeParse({ ...question, stem });
      return parsed.success ? [] : parsed.error.issues.map((issue) => issue.message);
    };
    expect(messages(twice)).toContain('A gap stands twice in the text.');
    expect(messages(lacking)).toEqual(['A gap in the text has no answer.', 'This gap stands nowhere in the text.']);
  });
});

describe('short text without a key', () => {
  it('waits for a person', () => {
    const content: QuestionContent = {
      type: 'short-text',
      stem: rich('Name one'),
      accepted: [],
      matching: { ignore: { case: true, accents: true, spacing: true }, slips: 0, wildcards: false },
      feedback: {},
    };
    expect(questionContent.safeParse(content).success).toBe(true);
    expect(credit(content, { text: 'anything' })).toBe('by-hand');
    expect(credit(content, { text: '  ' })).toBe(0);
  });
});

describe('values of a paper', () => {
  const varied: ContentOf<'numeric'> = {
    type: 'numeric',
    stem: {
      type: 'doc',
      content: [
        {
          type: 'paragraph',
          content: [
            { type: 'text', text: 'How long for ' },
            { type: 'variable', attrs: { id: 'v0', decimals: 1 } },
            { type: 'text', text: ' miles?' },
          ],
        },
      ],
    },
    variables: [
      { id: 'v0', name: 'd', source: { kind: 'range', from: 10, to: 20, step: 0.5 } },
      { id: 'v1', name: 'v', source: { kind: 'list', values: [4, 5, 8] } },
    ],
    constraints: ['mod(d, 1) == 0'],
    accepted: [
      { value: '60 * d / v', tolerance: { kind: 'absolute', amount: 0.5 }, credit: 1 },
      { value: 'd / v', tolerance: { kind: 'absolute', amount: 0.01 }, credit: 0.25 },
    ],
    feedback: {
      solution: {
        type: 'doc',
        content: [{ type: 'paragraph', content: [{ type: 'variable', attrs: { id: 'v1', decimals: null } }] }],
      },
    },
  };
  const paper = { values: { d: 12, v: 8 } };

  it('stand in text and solution, and the key follows them', () => {
    expect(richText(forStudent(varied, paper).stem)).toBe('How long for 12.0 miles?');
    expect(credit(varied, { text: '90' }, paper)).toBe(1);
    expect(credit(varied, { text: '1.5' }, paper)).toBe(0.25);
    expect(credit(varied, { text: '90' }, { values: { d: 13, v: 8 } })).toBe(0);
    const settled = withValues(varied, paper);
    expect(settled.feedback.solution && richText(settled.feedback.solution)).toBe('8');
    expect(rightResponse(varied, paper)).toEqual({ text: '90' });
  });

  it('give a key that is shown without the dust of binary numbers, and judged as before', () => {
    const sum = {
      ...varied,
      accepted: [{ value: 'd + v', tolerance: { kind: 'absolute' as const, amount: 0 }, credit: 1 }],
    };
    expect(rightResponse(sum, { values: { d: 4, v: 1.3 } })).toEqual({ text: '5.3' });
    expect(rightResponse(sum, { values: { d: 0.1, v: 0.2 } })).toEqual({ text: '0.3' });
    fc.assert(
      fc.property(
        fc.double({ min: -1e6, max: 1e6, noNaN: true }),
        fc.double({ min: -10, max: 10, noNaN: true }),
        (d, v) => {
          const { text } = rightResponse(sum, { values: { d, v } }) as { text: string };
          expect(Math.abs(Number(text) - (d + v))).toBeLessThanOrEqual(1e-13 * Math.max(1, Math.abs(d + v)));
        },
      ),
    );
  });

  it('are drawn for each paper within their ranges and conditions, the same for the same seed', () => {
    const seen = new Set<string>();
    for (let s = 0; s < 80; s++) {
      const { values } = present(varied, seededRandom(`s${s}`));
      expect(values).toEqual(present(varied, seededRandom(`s${s}`)).values);
      expect(Number.isInteger(values?.d) && (values?.d ?? 0) >= 10 && (values?.d ?? 0) <= 20).toBe(true);
      expect([4, 5, 8]).toContain(values?.v);
      seen.add(JSON.stringify(values));
    }
    expect(seen.size).toBeGreaterThan(20);
  });
});

describe('units', () => {
  const question = (entry: 'typed' | 'list', missing: 'refuse' | 'assume'): ContentOf<'numeric'> => ({
    type: 'numeric',
    stem: rich('How far?'),
    accepted: [{ value: '2', tolerance: { kind: 'relative', amount: 0.01 }, credit: 1 }],
    units: {
      entry,
      missing,
      list: [
        { name: 'nm', factor: 1 },
        { name: 'm', factor: 1 / 1852 },
        { name: 'km', factor: 1000 / 1852 },
      ],
    },
    feedback: {},
  });

  it('are converted before the comparison', () => {
    for (const text of ['2 nm', '3704 m', '3,704 km', '2NM'])
      expect(credit(question('typed', 'refuse'), { text })).toBe(1);
    for (const text of ['2 km', '2 cables', '2']) expect(credit(question('typed', 'refuse'), { text })).toBe(0);
    expect(credit(question('typed', 'assume'), { text: '2' })).toBe(1);
    expect(credit(question('list', 'refuse'), { text: '3704', unit: 'm' })).toBe(1);
    expect(credit(question('list', 'refuse'), { text: '2 nm', unit: 'm' })).toBe(0);
  });

  it('are shown to the student only where they are picked from a list', () => {
    expect(forStudent(question('typed', 'refuse'), {})).toMatchObject({ unit: 'typed' });
    expect(forStudent(question('list', 'refuse'), {})).toMatchObject({ unit: ['nm', 'm', 'km'] });
  });
});

describe('significant digits', () => {
  // Half a unit of the third digit of 0.04567 is 0.00005; of 123456 it is 500.
  it.each([
    ['0.04567', '0.0457', 1],
    ['0.04567', '0.04562', 1],
    ['0.04567', '0.04561', 0],
    ['123456', '123000', 1],
    ['123456', '122950', 0],
    ['-98.76', '-98.8', 1],
  ])('%s to three digits: %s', (value, text, expected) => {
    const content: QuestionContent = {
      type: 'numeric',
      stem: rich('?'),
      accepted: [{ value, tolerance: { kind: 'significant', amount: 3 }, credit: 1 }],
      feedback: {},
    };
    expect(credit(content, { text })).toBe(expected);
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
