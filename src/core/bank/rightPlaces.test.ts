import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { richFromText } from '../base/rich';
import type { QuestionContent } from '../question/content';
import { crowded, rightPlaces, spreadRightAnswers } from './rightPlaces';

const choice = (length: number, right: number, pinned: number[] = []): QuestionContent => ({
  type: 'single-choice',
  stem: richFromText('q'),
  shuffle: true,
  feedback: {},
  choices: Array.from({ length }, (_, i) => ({
    id: `c${i}`,
    content: richFromText(`choice ${i}`),
    right: i === right,
    pinned: pinned.includes(i),
  })),
});
const many = (count: number, length: number, right: (i: number) => number) =>
  Array.from({ length: count }, (_, i) => choice(length, right(i)));

describe('where right answers stand', () => {
  it('counts places as shares, beside what an even spread would give', () => {
    const found = rightPlaces([...many(6, 4, () => 1), ...many(2, 2, () => 0)]);
    expect(found.questions).toBe(8);
    expect(found.places[1]).toEqual({ share: 6 / 8, even: (6 / 4 + 1) / 8 });
    expect(found.places[3]).toEqual({ share: 0, even: 6 / 4 / 8 });
    // (6 − 1.5)²/1.5 + 3·1.5 for four choices, (2 − 1)² + (0 − 1)² for two.
    expect(found.chiSquared).toBeCloseTo(18 + 2, 12);
    expect(found.freedom).toBe(4);
  });

  it('says that they crowd only where chance does not explain it', () => {
    expect(crowded(rightPlaces(many(40, 4, (i) => i % 4)))).toBe(false);
    expect(crowded(rightPlaces(many(40, 4, (i) => (i % 5 < 3 ? 1 : i % 4))))).toBe(true);
    expect(crowded(rightPlaces(many(3, 4, () => 1)))).toBe(false);
    expect(crowded(rightPlaces([]))).toBe(false);
    // The 1 % point of chi-squared with 3 degrees of freedom is 11.34.
    expect(crowded({ chiSquared: 11.2, freedom: 3 })).toBe(false);
    expect(crowded({ chiSquared: 11.5, freedom: 3 })).toBe(true);
  });

  it('are spread evenly, wrong choices keeping their order and pinned ones their places', () => {
    const held = many(41, 4, () => 1).map((content, i) => ({ id: `q${i}`, content }));
    const changed = spreadRightAnswers(held);
    const after = rightPlaces(held.map((one) => changed.get(one.id) ?? one.content));
    for (const { share } of after.places) expect(Math.abs(share * 41 - 41 / 4)).toBeLessThanOrEqual(1);
    for (const content of changed.values())
      expect(
        content.type === 'single-choice' && content.choices.filter((one) => !one.right).map((one) => one.id),
      ).toEqual(['c0', 'c2', 'c3']);
    expect(spreadRightAnswers(held)).toEqual(changed);
  });

  it('leave questions that are not shuffled, and those in which a choice refers to others, as they are written', () => {
    const held = many(12, 4, () => 1).map((content, i) => ({ id: `q${i}`, content }));
    const [unshuffled, referring] = [held[3], held[5]];
    if (unshuffled?.content.type !== 'single-choice' || referring?.content.type !== 'single-choice') throw new Error();
    unshuffled.content.shuffle = false;
    referring.content.choices[3] = { ...referring.content.choices[3], content: richFromText('Both A and C') } as never;
    const changed = spreadRightAnswers(held);
    expect(changed.size).toBeGreaterThan(4);
    expect([changed.has('q3'), changed.has('q5')]).toEqual([false, false]);
  });

  it('keep every choice, and pinned ones stay where they are', () => {
    const held = fc.array(
      fc.record({
        length: fc.integer({ min: 2, max: 6 }),
        right: fc.nat({ max: 5 }),
        pinned: fc.array(fc.nat({ max: 5 }), { maxLength: 3 }),
      }),
      { maxLength: 30 },
    );
    fc.assert(
      fc.property(held, (any) => {
        const questions = any.map(({ length, right, pinned }, i) => ({
          id: `q${i}`,
          content: choice(length, right % length, pinned),
        }));
        for (const [id, content] of spreadRightAnswers(questions)) {
          const before = questions.find((one) => one.id === id)?.content;
          if (before?.type !== 'single-choice' || content.type !== 'single-choice') throw new Error(id);
          expect(new Set(content.choices)).toEqual(new Set(before.choices));
          before.choices.forEach((one, place) => {
            if (one.pinned) expect(content.choices[place]).toBe(one);
          });
        }
      }),
      { seed: 3, numRuns: 300 },
    );
  });
});
