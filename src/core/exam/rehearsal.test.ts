import { describe, expect, it } from 'vitest';
import { quickRandom } from '../base/random';
import { exampleDesign, exampleDraw, exampleEntry } from '../testing/exampleExam';
import type { ExamDesign } from './design';
import { drawPaper } from './drawPaper';
import { planDraw } from './drawPlan';
import { expectedOverlap } from './expectedOverlap';
import { type Rehearsal, rehearse } from './rehearsal';
import { snapshotOf } from './snapshot';

const bank = snapshotOf([
  ...Array.from({ length: 40 }, (_, n) => exampleEntry(n, ['tides'], { expected: 0.3 + (n % 10) * 0.06 })),
  ...Array.from({ length: 20 }, (_, n) => exampleEntry(100 + n, ['lights'], { expected: 0.4 + (n % 5) * 0.1 })),
  exampleEntry(200, ['rules']),
]);
const fixed = { kind: 'fixed' as const, id: 'line-f', questionId: 'question-00200', points: 1 };
const design = exampleDesign([exampleDraw('line-a', 6, ['tides']), exampleDraw('line-b', 4, ['lights']), fixed]);
const setting = { design, snapshot: bank, students: 60, attempts: 1, seed: 's' };
const run = (more: Partial<typeof setting> = {}): Rehearsal => rehearse({ ...setting, ...more }) as Rehearsal;

describe('the expected overlap of two papers', () => {
  it('is Σ n²/M with the fixed questions on top, by hand', () => {
    // 1 fixed + 36/40 + 16/20
    expect(expectedOverlap(design, planDraw(design, bank))).toBeCloseTo(1 + 0.9 + 0.8, 12);
  });

  it('counts passages with their questions, by hand', () => {
    const withPassages = snapshotOf(
      Array.from({ length: 12 }, (_, n) => exampleEntry(n, ['texts'], { passageId: `passage-${n % 4}` })),
    );
    const passages: ExamDesign = exampleDesign([
      {
        kind: 'passage',
        id: 'line-p',
        count: 2,
        questions: 2,
        points: 1,
        pool: { categories: [{ id: 'texts', below: true }], difficulties: [] },
      },
    ]);
    // (2/4)² for each of 4 passages to be on both, each then sharing 2·2/3 of its questions
    expect(expectedOverlap(passages, planDraw(passages, withPassages))).toBeCloseTo((1 / 4) * 4 * (4 / 3), 12);
  });

  it('is not given where draws share questions', () => {
    const sharing = exampleDesign([exampleDraw('line-a', 3, ['tides']), exampleDraw('line-b', 3, ['tides', 'lights'])]);
    expect(expectedOverlap(sharing, planDraw(sharing, bank))).toBeNull();
  });

  it('is what plain papers come near to', () => {
    const { plain, expectedOverlap: expected } = run({ students: 400 });
    expect(plain.overlap.mean).toBeCloseTo(expected as number, 1);
    expect(plain.overlap.neighbours).toBeCloseTo(expected as number, 0);
  });
});

describe('a rehearsal', () => {
  it('counts what a plain, slow reading of the same papers counts', () => {
    const { plain } = run();
    const papers = Array.from({ length: 60 }, (_, student) =>
      (drawPaper(design, bank, `s/${student}/0`, new Set(), planDraw(design, bank), quickRandom) ?? []).map(
        (slot) => slot.questionId,
      ),
    );
    expect(plain.use).toEqual(
      bank.entries.map((entry) => papers.filter((paper) => paper.includes(entry.questionId)).length),
    );
    const shared = papers.flatMap((a, i) => papers.slice(i + 1).map((b) => a.filter((id) => b.includes(id)).length));
    expect(plain.overlap.mean).toBeCloseTo(shared.reduce((x, y) => x + y, 0) / shared.length, 12);
    expect(plain.overlap.worst?.shared).toBe(Math.max(...shared));
    expect(plain.overlap.pairs).toEqual(
      Array.from({ length: Math.max(...shared) + 1 }, (_, k) => shared.filter((one) => one === k).length),
    );
    const next = papers.slice(1).map((b, i) => (papers[i] as string[]).filter((id) => b.includes(id)).length);
    expect(plain.overlap.neighbours).toBeCloseTo(next.reduce((x, y) => x + y, 0) / 59, 12);
    const expected = new Map(bank.entries.map((entry) => [entry.questionId, entry.expected]));
    const scores = papers.map((paper) => paper.reduce((sum, id) => sum + (expected.get(id) as number), 0) / 11);
    expect(plain.scores.lowest).toBeCloseTo(Math.min(...scores), 12);
    expect(plain.scores.mean).toBeCloseTo(scores.reduce((x, y) => x + y, 0) / 60, 12);
  });

  it('draws equally hard papers beside plain ones, nearer together and as evenly used in sum', () => {
    const { plain, equal, met } = run({ students: 200 });
    expect(equal.scores.deviation).toBeLessThan(plain.scores.deviation);
    expect(equal.scores.highest - equal.scores.lowest).toBeLessThanOrEqual(0.04 + 1e-9);
    expect([met.equal, met.of]).toEqual([200, 200]);
    expect(met.plain).toBeLessThan(200);
    const sum = (use: number[]) => use.reduce((x, y) => x + y, 0);
    expect([sum(plain.use), sum(equal.use)]).toEqual([2_200, 2_200]);
  });

  it('says from which attempt on which line repeats questions, and never blames fixed ones', () => {
    const { plain } = run({ students: 10, attempts: 6 });
    // 6 of 40 lasts for six attempts; 4 of 20 for five, and then repeats all four.
    expect(plain.short).toEqual([{ lineId: 'line-b', perStudent: 4, fromAttempt: 6 }]);
    expect(plain.again.map((one) => [one.attempt, one.mean, one.most, one.students])).toEqual([
      [2, 0, 0, 0],
      [3, 0, 0, 0],
      [4, 0, 0, 0],
      [5, 0, 0, 0],
      [6, 4, 4, 10],
    ]);
  });

  it('tells its progress up to the end, and is the same every time', () => {
    const told: number[] = [];
    rehearse({ ...setting, students: 5, attempts: 2 }, (done, all) => told.push(done / all));
    expect(told).toHaveLength(10);
    expect(told.at(-1)).toBe(1);
    expect(run({ students: 8 })).toEqual(run({ students: 8 }));
  });

  it('is nothing where no paper can be drawn, and holds for one student', () => {
    expect(rehearse({ ...setting, design: exampleDesign([exampleDraw('line-a', 41, ['tides'])]) })).toBeNull();
    expect(run({ students: 1 }).plain.overlap).toEqual({ mean: 0, worst: null, neighbours: 0, pairs: [] });
  });
});
