import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { seededRandom } from '../base/random';
import { richFromText } from '../base/rich';
import { refersToOthers } from '../question/choiceReferences';
import type { QuestionContent } from '../question/content';
import { anyQuestion } from '../testing/anyQuestion';
import { duplicateThreshold, jaccard, nearDuplicates, shingles } from './nearDuplicates';
import { findings } from './questionHealth';

const likeness = (a: string, b: string) => jaccard(shingles(a), shingles(b));

describe('near-duplicates', () => {
  it('are measured by shared runs of three words', () => {
    expect(likeness('one two three four', 'One, two — three four!')).toBe(1);
    // {123, 234} and {123, 235}: one of three runs is shared.
    expect(likeness('one two three four', 'one two three five')).toBeCloseTo(1 / 3, 12);
    expect(likeness('at 6 knots for 2 hours', 'at 7 knots for 2 hours')).toBeLessThan(duplicateThreshold);
    expect(likeness('', 'x')).toBe(0);
    expect(likeness('same', 'SAME')).toBe(1);
  });

  it('are found again in a planted set: at least 95 % of the pairs that are alike', () => {
    const random = seededRandom('planted');
    const word = () => `w${random.below(4_000)}`;
    const questions = Array.from({ length: 1_500 }, (_, i) => ({
      id: `q${i}`,
      text: Array.from({ length: 30 }, word).join(' '),
    }));
    const planted = questions.slice(0, 300).map((one, i) => {
      const words = one.text.split(' ');
      words[random.below(3) === 0 ? words.length - 1 : 0] = 'changed';
      return { id: `copy${i}`, text: words.join(' ') };
    });
    const alike = planted.filter(
      (copy, i) => likeness(copy.text, (questions[i] as { text: string }).text) >= duplicateThreshold,
    );
    expect(alike.length).toBeGreaterThan(250);
    const found = nearDuplicates([...questions, ...planted]);
    const recalled = alike.filter((copy) =>
      found.some((pair) => pair.b === copy.id && pair.a === `q${copy.id.slice(4)}`),
    );
    expect(recalled.length / alike.length).toBeGreaterThanOrEqual(0.95);
    for (const pair of found) expect(pair.likeness).toBeGreaterThanOrEqual(duplicateThreshold);
    expect(nearDuplicates([...questions, ...planted])).toEqual(found);
  });

  it('are symmetric, and every question is like itself', () => {
    fc.assert(
      fc.property(fc.lorem({ maxCount: 12 }), fc.lorem({ maxCount: 12 }), (a, b) => {
        expect(likeness(a, b)).toBe(likeness(b, a));
        expect(likeness(a, a)).toBe(1);
      }),
      { seed: 2 },
    );
  });
});

describe('choices that refer to other choices', () => {
  it.each([
    'All of the above',
    'none of these',
    'Both A and C',
    'A and B',
    'neither A nor B',
    'All are correct',
    'B, C',
    'answers above',
    '(a) and (b)'.toUpperCase(),
  ])('%s', (text) => expect(refersToOthers(text)).toBe(true));

  it.each([
    'A flag',
    'all round light',
    'Vitamin C',
    'the buoy above the wreck',
    'none',
    'bearing and distance',
    'Both lights',
  ])('not %s', (text) => expect(refersToOthers(text)).toBe(false));

  it('are found only while they can be shuffled away', () => {
    const content = (shuffle: boolean, pinned: boolean): QuestionContent => ({
      type: 'single-choice',
      stem: richFromText('q'),
      shuffle,
      feedback: {},
      choices: ['x', 'y', 'All of the above'].map((text, i) => ({
        id: `c${i}`,
        content: richFromText(text),
        right: i === 2,
        pinned: pinned && i === 2,
      })),
    });
    expect(findings(content(true, false))).toEqual([
      { kind: 'refers', choices: [{ id: 'c2', text: 'All of the above' }], pin: ['c2'] },
    ]);
    expect(findings(content(false, false))).toEqual([]);
    expect(findings(content(true, true))).toEqual([]);
  });
});

describe('pinning what a choice names', () => {
  const of = (texts: string[], pinned: number[]): QuestionContent => ({
    type: 'single-choice',
    stem: richFromText('q'),
    shuffle: true,
    feedback: {},
    choices: texts.map((text, i) => ({
      id: `c${i}`,
      content: richFromText(text),
      right: i === 0,
      pinned: pinned.includes(i),
    })),
  });
  const toPin = (content: QuestionContent) =>
    findings(content).flatMap((one) => (one.kind === 'refers' ? one.pin : []));

  it.each([
    ['Both A and C', ['c3', 'c0', 'c2']],
    ['A, B and C', ['c3', 'c0', 'c1', 'c2']],
    ['None of the above', ['c3']],
    ['Answer B', ['c3', 'c1']],
    ['A flag', []],
  ])('%s', (text, pin) => expect(toPin(of(['x', 'y', 'z', text], []))).toEqual(pin));

  it('mends it: nothing moves any more that is named', () => {
    const texts = ['x', 'y', 'z', 'Both A and C'];
    // Pinned alone, what it names goes on moving.
    expect(toPin(of(texts, [3]))).toEqual(['c0', 'c2']);
    expect(toPin(of(texts, [0, 2, 3]))).toEqual([]);
  });
});

describe('other findings', () => {
  const number = (...accepted: [value: string, amount: number, credit: number][]): QuestionContent => ({
    type: 'numeric',
    stem: richFromText('q'),
    feedback: {},
    accepted: accepted.map(([value, amount, credit]) => ({ value, tolerance: { kind: 'absolute', amount }, credit })),
  });

  it('name points that nobody can earn, and questions that cannot be scored', () => {
    expect(findings(number(['10', 2, 1], ['11', 0.5, 0.5]))).toMatchObject([{ kind: 'unreachable' }]);
    expect(findings(number(['10', 2, 1], ['12', 0.5, 0.5]))).toEqual([]);
    expect(findings(number(['10', 0, 0.5]))).toMatchObject([{ kind: 'no-right-answer' }]);
  });

  it('count pictures without an alternative text anywhere in the question', () => {
    const picture = (alt: string) => ({
      type: 'doc' as const,
      content: [
        { type: 'media' as const, attrs: { hash: 'a'.repeat(64), kind: 'picture' as const, alt, width: 1, height: 1 } },
      ],
    });
    const content: QuestionContent = {
      type: 'true-false',
      stem: picture('a buoy'),
      answer: true,
      onTrue: picture(' '),
      feedback: { solution: picture('') },
    };
    expect(findings(content)).toEqual([{ kind: 'no-alternative-text', count: 2 }]);
  });

  it('are none but references and covered values in questions that an author could save', () => {
    fc.assert(
      fc.property(anyQuestion, (content) => {
        for (const finding of findings(content)) expect(['refers', 'unreachable']).toContain(finding.kind);
      }),
      { seed: 5, numRuns: 300 },
    );
  });
});
