import { describe, expect, it } from 'vitest';
import { seededRandom } from '../base/random';
import { measurementOf, type Observation } from './measurement';

describe('the standard error of measurement', () => {
  it('is SD·√(1 − α) where all had the same questions (against Cronbach’s own formula)', () => {
    // 20 persons, 4 questions, 0 or 1 by a fixed pattern.
    const credit = (p: number, q: number) => ((p * 7 + q * 3 + ((p * q) % 5)) % 6 < 3 + (p % 3) ? 1 : 0);
    const all: Observation[] = [];
    for (let p = 0; p < 20; p++)
      for (let q = 0; q < 4; q++) all.push({ person: `p${p}`, question: `q${q}`, credit: credit(p, q) });
    const variance = (values: number[]) => {
      const mean = values.reduce((sum, value) => sum + value, 0) / values.length;
      return values.reduce((sum, value) => sum + (value - mean) ** 2, 0) / (values.length - 1);
    };
    const totals = Array.from({ length: 20 }, (_, p) => [0, 1, 2, 3].reduce((sum, q) => sum + credit(p, q), 0));
    const single = [0, 1, 2, 3].map((q) => variance(Array.from({ length: 20 }, (_, p) => credit(p, q))));
    const alpha = (4 / 3) * (1 - single.reduce((sum, value) => sum + value, 0) / variance(totals));
    const expected = (Math.sqrt(variance(totals)) * Math.sqrt(1 - alpha)) / 4;
    expect(measurementOf(all)?.error).toBeCloseTo(expected, 10);
  });

  it('finds the variances again that random papers were made with', () => {
    const stream = seededRandom('measurement');
    const random = () => stream.below(1_000_000) / 1_000_000;
    const normal = () => {
      let sum = 0;
      for (let i = 0; i < 12; i++) sum += random();
      return sum - 6;
    };
    const [person, question, rest] = [0.12, 0.15, 0.3];
    const hard = Array.from({ length: 300 }, () => normal() * question);
    const all: Observation[] = [];
    for (let p = 0; p < 800; p++) {
      const able = normal() * person;
      for (let k = 0; k < 20; k++) {
        const q = Math.floor(random() * 300);
        all.push({ person: `p${p}`, question: `q${q}`, credit: 0.6 + able + (hard[q] as number) + normal() * rest });
      }
    }
    const found = measurementOf(all);
    expect(Math.sqrt(found?.person ?? 0)).toBeCloseTo(person, 1);
    expect(Math.sqrt(found?.question ?? 0)).toBeCloseTo(question, 1);
    expect(Math.sqrt(found?.rest ?? 0)).toBeCloseTo(rest, 1);
    expect(found?.error).toBeCloseTo(Math.sqrt((question ** 2 + rest ** 2) / 20), 2);
  });

  it('is withheld with fewer than 20 persons, with one question, and is 0 where nobody differs', () => {
    const of = (persons: number, questions: number, credit = 1) => {
      const all: Observation[] = [];
      for (let p = 0; p < persons; p++)
        for (let q = 0; q < questions; q++) all.push({ person: `${p}`, question: `${q}`, credit });
      return measurementOf(all);
    };
    expect(of(19, 5)).toBe(null);
    expect(of(20, 1)).toBe(null);
    expect(of(20, 5)).toMatchObject({ error: 0, dependability: null, persons: 20, length: 5 });
  });
});
