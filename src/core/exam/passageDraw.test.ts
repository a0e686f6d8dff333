import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { exampleDesign, exampleDraw, exampleEntry } from '../testing/exampleExam';
import type { ExamLine, PassageLine } from './design';
import { drawPaper } from './drawPaper';
import { planCheck } from './planCheck';
import { type PoolEntry, snapshotOf } from './snapshot';

/** Six passages of five questions each in `texts`, and twenty questions of none beside them. */
const passageEntry = (n: number): PoolEntry => ({
  ...exampleEntry(n, ['texts']),
  passageId: n < 30 ? `passage-${Math.floor(n / 5)}` : null,
});
const snapshot = snapshotOf(Array.from({ length: 50 }, (_, n) => passageEntry(n)));
const passageOf = new Map(snapshot.entries.map((entry) => [entry.questionId, entry.passageId]));
const names = new Map([['texts', 'Texts']]);

const passages = (id: string, count: number, questions: number): PassageLine => ({
  kind: 'passage',
  id,
  count,
  questions,
  points: 2,
  pool: { categories: [{ id: 'texts', below: true }], difficulties: [] },
});
const draw = (lines: ExamLine[], seed: string, order: 'as-written' | 'shuffled' = 'as-written', seen?: Set<string>) => {
  const design = exampleDesign(lines);
  return drawPaper({ ...design, parts: design.parts.map((part) => ({ ...part, order })) }, snapshot, seed, seen);
};

describe('drawing passages', () => {
  it('takes so many passages with so many questions of each, none twice, and keeps each together', () => {
    fc.assert(
      fc.property(
        fc.string(),
        fc.integer({ min: 1, max: 3 }),
        fc.integer({ min: 1, max: 5 }),
        (seed, count, questions) => {
          const lines = [
            passages('line-a', count, questions),
            exampleDraw('line-b', 4, ['texts']),
            passages('line-c', 2, 2),
          ];
          const slots = draw(lines, seed, 'shuffled') ?? [];
          expect(slots).toHaveLength(count * questions + 4 + 4);
          expect(new Set(slots.map((slot) => slot.questionId)).size).toBe(slots.length);
          const blocks = slots.map((slot) => slot.passageId).filter((id, i, all) => id !== null && id !== all[i - 1]);
          expect(new Set(blocks).size).toBe(count + 2);
          expect(blocks).toHaveLength(count + 2);
          for (const slot of slots) expect(slot.passageId).toBe(passageOf.get(slot.questionId));
          // A question of a passage is in no ordinary pool.
          for (const slot of slots) if (slot.lineId === 'line-b') expect(slot.passageId).toBe(null);
          expect(draw(lines, seed, 'shuffled')).toEqual(slots);
        },
      ),
      { seed: 2, numRuns: 200 },
    );
  });

  it('draws every passage, and every question of it, equally often', () => {
    const counts = new Map<string, number>();
    for (let s = 0; s < 3_000; s++)
      for (const { questionId } of draw([passages('line-a', 2, 3)], `s${s}`) ?? [])
        counts.set(questionId, (counts.get(questionId) ?? 0) + 1);
    // 3,000 × (2/6) × (3/5) = 600 for each of the thirty; four standard deviations are about 88.
    expect(counts.size).toBe(30);
    for (const n of counts.values()) expect(Math.abs(n - 600)).toBeLessThan(95);
  });

  it('avoids passages seen before, then their seen questions', () => {
    const first = draw([passages('line-a', 4, 3)], 'one') ?? [];
    const seen = new Set(first.map((slot) => slot.questionId));
    const second = draw([passages('line-a', 4, 2)], 'two', 'as-written', seen) ?? [];
    const again = new Set(
      second.map((slot) => slot.passageId).filter((id) => first.some((slot) => slot.passageId === id)),
    );
    expect(again.size).toBe(2);
    expect(second.filter((slot) => seen.has(slot.questionId))).toEqual([]);
  });

  it('says what is missing: too few passages with enough questions, and lines that compete for them', () => {
    const problems = (...lines: ExamLine[]) =>
      planCheck(exampleDesign(lines), snapshot, names).problems.map((one) => one.message);
    expect(problems(passages('line-a', 6, 5))).toEqual([]);
    expect(problems(passages('line-a', 7, 1))).toEqual([
      'Line 1.1 draws 7 from a pool of 6 passages with enough questions: 1 missing.',
    ]);
    expect(problems(passages('line-a', 1, 6))).toEqual([
      'Line 1.1 has no passages with enough questions to draw from.',
    ]);
    expect(problems(passages('line-a', 4, 2), passages('line-b', 4, 2))).toEqual([
      'Lines 1.1, 1.2 together draw 8 passages, but their pools hold only 6 different ones: 2 missing.',
    ]);
    expect(draw([passages('line-a', 4, 2), passages('line-b', 4, 2)], 's')).toBe(null);
  });

  it('leaves fixed questions to their own lines and keeps neighbours of one passage together', () => {
    const fixed = (id: string, questionId: string): ExamLine => ({ kind: 'fixed', id, questionId, points: 1 });
    const [a, b] = snapshot.entries.filter((entry) => entry.passageId === 'passage-0') as [PoolEntry, PoolEntry];
    for (let s = 0; s < 40; s++) {
      const slots =
        draw(
          [
            fixed('line-a', a.questionId),
            fixed('line-b', b.questionId),
            exampleDraw('line-c', 5, ['texts']),
            passages('line-d', 5, 2),
          ],
          `s${s}`,
          'shuffled',
        ) ?? [];
      const at = slots.findIndex((slot) => slot.questionId === a.questionId);
      expect([slots[at - 1]?.questionId, slots[at + 1]?.questionId]).toContain(b.questionId);
      expect(new Set(slots.map((slot) => slot.questionId)).size).toBe(17);
    }
  });
});
