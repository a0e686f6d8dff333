import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { questionTypeNames } from '../question/definitions';
import { difficulties, questionTypes } from '../question/types';
import type { PoolRule } from './design';
import { completeDraw, type DrawNames, readDraw } from './readDraw';

const names: DrawNames = {
  categories: [
    { id: 'tides', name: 'Tides' },
    { id: 'heights', name: 'Tides › Heights' },
    { id: 'streams', name: 'Tides › Streams' },
    { id: 'tidal', name: 'Tidal harbours' },
    { id: 'rules', name: 'Rules of the road' },
    { id: 'lights', name: 'Rules of the road › Lights' },
    { id: 'harbour-lights', name: 'Tidal harbours › Lights' },
    { id: 'chapter3', name: 'Chapter 3' },
    { id: 'hard', name: 'Hard' },
    { id: 'cafe', name: 'Café' },
  ],
  exams: [{ id: 'quiz1', title: 'Quiz 1' }],
  objectives: [{ id: 'lo1', code: 'LO1', wording: 'Finds heights' }],
  tags: ['almanac', 'two words'],
};
const usual = { count: 3, points: 1 };
const read = (text: string) => readDraw(text, names, usual);
const line = (text: string) => {
  const { line, problems } = read(text);
  expect(problems).toEqual([]);
  return line;
};
const draw = (count: number, points: number, pool: Partial<PoolRule>) => ({
  kind: 'draw',
  count,
  points,
  pool: { categories: [], difficulties: [], ...pool },
});
const from = (...ids: string[]) => ids.map((id) => ({ id, below: true }));

describe('a draw typed as a sentence', () => {
  it('is read in a few words, in any order', () => {
    const wanted = draw(3, 2, { categories: from('heights'), difficulties: ['medium'] });
    for (const text of [
      '3 heights medium 2p',
      'medium heights 2 points 3',
      'Draw 3 from Tides › Heights, medium, 2 points each',
      '3 questions from heights; medium; 2pts',
      '2P HEIGHTS MEDIUM 3',
      '3 tides heights medium 2 p',
      '3 heig medium 2p',
    ])
      expect(line(text), text).toEqual(wanted);
  });

  it('takes what is not said as usual', () => {
    expect(line('heights')).toEqual(draw(3, 1, { categories: from('heights') }));
    expect(line('cafe')).toEqual(draw(3, 1, { categories: from('cafe') }));
  });

  it('reads several sources and everything that narrows them', () => {
    expect(line('2 heights or streams easy hard 1,5p')).toEqual(
      draw(2, 1.5, { categories: from('heights', 'streams'), difficulties: ['easy', 'hard'] }),
    );
    expect(line('4 quiz 1 and rules alone, single choice, LO1, #almanac, not used in the last 8 weeks')).toEqual(
      draw(4, 1, {
        exams: ['quiz1'],
        categories: [{ id: 'rules', below: false }],
        types: ['single-choice'],
        objectives: ['lo1'],
        tags: ['almanac'],
        restDays: 56,
      }),
    );
    expect(line('2 chapter 3 hard 4p')).toEqual(draw(2, 4, { categories: from('chapter3'), difficulties: ['hard'] }));
  });

  it('reads passages with so many questions each', () => {
    expect(line('2 passages with 3 questions each from tides 1p')).toEqual({
      kind: 'passage',
      count: 2,
      questions: 3,
      points: 1,
      pool: { categories: from('tides'), difficulties: [] },
    });
  });

  it('takes a name that is also a word of the language where a source is led to', () => {
    expect(line('3 tides hard')).toEqual(draw(3, 1, { categories: from('tides'), difficulties: ['hard'] }));
    expect(line('3 from hard')).toEqual(draw(3, 1, { categories: from('hard') }));
  });

  it('asks where words can mean several things, and chooses none', () => {
    const lights = read('3 lights');
    expect(lights.line).toBeNull();
    expect(lights.problems).toEqual([
      '“lights” can mean Rules of the road › Lights or Tidal harbours › Lights: write more of it.',
    ]);
    expect(lights.pieces.at(-1)?.options.map((one) => one.value)).toEqual(['lights', 'harbour-lights']);
    expect(line('3 rules lights')).toEqual(draw(3, 1, { categories: from('lights') }));
    expect(read('3 tid').problems).toEqual(['“tid” can mean Tides or Tidal harbours: write more of it.']);
  });

  it.each([
    ['3 wombats', '“wombats” is no category, exam, objective, tag, difficulty or type known here.'],
    ['3 heights 4', '“4” is a second number: points are written “4p”.'],
    ['3 heights 2p 3p', 'The points are said twice.'],
    ['0 heights', 'How many to draw is a whole number from 1 to 500.'],
    ['2.5 heights', 'How many to draw is a whole number from 1 to 500.'],
    ['900 heights', 'How many to draw is a whole number from 1 to 500.'],
    ['3 heights 0p', 'Points are a number above 0, at most 1000.'],
    ['3 medium', 'Say where to draw from: a category by its name, or an exam.'],
    ['', 'Say where to draw from: a category by its name, or an exam.'],
    ['60 passages tides', 'How many to draw is a whole number from 1 to 50.'],
    ['3 heights not used for 0 days', 'Questions can rest from 1 to 3650 whole days.'],
    ['3 heights -2p', '“-2p” is no category, exam, objective, tag, difficulty or type known here.'],
  ])('says what keeps %j from being added', (text, problem) => {
    expect(read(text)).toMatchObject({ line: null, problems: [problem] });
  });

  it('reads a sentence of everything back as it is, whatever the names', () => {
    const word = fc.stringMatching(/^[a-zà-ü]{2,8}$/);
    const name = fc.array(word, { minLength: 1, maxLength: 3 }).map((words) => words.join(' '));
    const path = fc.array(name, { minLength: 1, maxLength: 3 }).map((all) => all.join(' › '));
    const random = fc.record({
      paths: fc.uniqueArray(path, {
        minLength: 1,
        maxLength: 12,
        selector: (one) =>
          one
            .normalize('NFD')
            .replace(/\p{M}/gu, '')
            .split(/[^a-z]+/)
            .join(' '),
      }),
      picked: fc.array(fc.nat(), { minLength: 1, maxLength: 3 }),
      alone: fc.boolean(),
      count: fc.integer({ min: 1, max: 500 }),
      points: fc.integer({ min: 1, max: 40 }).map((quarters) => quarters / 4),
      difficulties: fc.subarray([...difficulties]),
      types: fc.subarray([...questionTypes]),
      restDays: fc.option(fc.integer({ min: 1, max: 3650 })),
    });
    fc.assert(
      fc.property(random, (given) => {
        const categories = given.paths.map((one, i) => ({ id: `c${i}`, name: one }));
        const chosen = [...new Set(given.picked.map((at) => at % categories.length))].map(
          (at) => categories[at] as { id: string; name: string },
        );
        const sentence = [
          `Draw ${given.count} from ${chosen.map((one) => `${one.name}${given.alone ? ' alone' : ''}`).join(', from ')}`,
          ...given.difficulties,
          ...given.types.map((type) => questionTypeNames[type].toLowerCase()),
          ...(given.restDays ? [`not used for ${given.restDays} days`] : []),
          `${given.points} points each`,
        ].join(', ');
        const { line, problems, pieces } = readDraw(
          sentence,
          { categories, exams: [], objectives: [], tags: [] },
          usual,
        );
        expect(problems).toEqual([]);
        expect(line).toEqual({
          kind: 'draw',
          count: given.count,
          points: given.points,
          pool: {
            categories: chosen.map(({ id }) => ({ id, below: !given.alone })),
            difficulties: given.difficulties,
            ...(given.types.length ? { types: given.types } : {}),
            ...(given.restDays ? { restDays: given.restDays } : {}),
          },
        });
        // Every word stands in a piece.
        const read = new Set(pieces.flatMap(({ from, to }) => Array.from({ length: to - from }, (_, i) => from + i)));
        for (const found of sentence.matchAll(/[\p{L}\p{N}]/gu)) expect(read.has(found.index)).toBe(true);
      }),
      { seed: 23, numRuns: 400 },
    );
  });

  it('never passes over a word, whatever is typed', () => {
    const bits = fc.constantFrom(
      '3',
      '2p',
      'heights',
      'tid',
      'medium',
      'from',
      'xyz',
      '#almanac',
      ',',
      'not used',
      '12 days',
      'alone',
      '›',
      'lights',
      '0',
      '1e9',
      'passages',
      '“',
      '%',
    );
    fc.assert(
      fc.property(fc.array(bits, { maxLength: 12 }), (all) => {
        const text = all.join(' ');
        const { pieces, line, problems } = read(text);
        const odd = pieces.some((piece) => piece.as === 'unread' || piece.as === 'asked');
        if (odd) expect(line).toBeNull();
        expect(line === null).toBe(problems.length > 0);
        for (const found of text.matchAll(/[\p{L}\p{N}]+/gu))
          expect(pieces.some((piece) => piece.from <= found.index && found.index + found[0].length <= piece.to)).toBe(
            true,
          );
      }),
      { seed: 5, numRuns: 1_000 },
    );
  });
});

describe('completing a draw', () => {
  const complete = (text: string) => completeDraw(text, text.length, names)?.options.map((one) => one.says);
  it('offers what the word at the caret can become, the best first', () => {
    expect(complete('3 tid')).toEqual(
      ['Tides', 'Tidal harbours', 'Tides › Heights', 'Tides › Streams', 'Tidal harbours › Lights']
        .filter((one) => ['Tides', 'Tidal harbours'].includes(one))
        .concat(['Tides › Heights', 'Tides › Streams', 'Tidal harbours › Lights']),
    );
    expect(complete('3 heights med')).toEqual(['medium']);
    expect(complete('3 #alm')).toEqual(['#almanac']);
    expect(complete('3 ights')).toEqual(['Tides › Heights', 'Rules of the road › Lights', 'Tidal harbours › Lights']);
  });

  it('offers whatever can be drawn from where a new word begins and none was named', () => {
    expect(complete('3 ')).toHaveLength(8);
    expect(complete('3 heights ')).toBeUndefined();
    expect(complete('3')).toBeUndefined();
    expect(complete('')).toBeUndefined();
  });

  it('takes the place of the whole word it completes, wherever the caret stands in it', () => {
    const found = completeDraw('3 heigh medium 2p', 5, names);
    expect(found).toMatchObject({ from: 2, to: 7 });
    expect(found?.options[0]).toEqual({ kind: 'category', value: 'heights', says: 'Tides › Heights' });
  });
});
