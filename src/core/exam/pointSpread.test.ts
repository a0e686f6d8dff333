import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { examFromPools, exampleDesign, exampleDraw, exampleEntry } from '../testing/exampleExam';
import type { ExamLine } from './design';
import { drawPaper } from './drawPaper';
import { planDraw } from './drawPlan';
import { expectedMinutes } from './expectedMinutes';
import { pointSpread } from './pointSpread';
import { snapshotOf } from './snapshot';

describe('how points spread', () => {
  const snapshot = snapshotOf([
    exampleEntry(0, ['tides', 'heights'], { difficulty: 'easy', objectives: ['o1'], minutes: 1 }),
    exampleEntry(1, ['tides', 'heights'], { difficulty: 'hard', objectives: ['o1', 'o2'], minutes: 3 }),
    exampleEntry(2, ['tides'], { difficulty: 'easy', minutes: 2 }),
    exampleEntry(3, ['lights'], { minutes: 10 }),
    exampleEntry(4, ['tides'], { difficulty: 'hard', passageId: 'text', minutes: 4 }),
    exampleEntry(5, ['tides'], { difficulty: 'easy', passageId: 'text', minutes: 6 }),
  ]);
  const lines: ExamLine[] = [
    { ...exampleDraw('draw-1', 2, ['tides']), points: 3 },
    { kind: 'fixed', id: 'fixed-1', questionId: snapshot.entries[3]?.questionId as string, points: 4 },
    {
      kind: 'passage',
      id: 'text-1',
      count: 1,
      questions: 1,
      points: 5,
      pool: { categories: [{ id: 'tides', below: true }], difficulties: [] },
    },
  ];
  const design = exampleDesign(lines);
  const spread = pointSpread(design, snapshot, planDraw(design, snapshot));

  it('is worked out by hand: every question of a pool brings an equal share of its line', () => {
    // The draw brings 2·3 points, a third from each of three questions; the passage 5, a half from each of its two.
    const tides = spread.byCategory.find((row) => row.id === 'tides');
    expect(tides?.points).toBeCloseTo(11, 12);
    expect(tides?.cells.easy.points).toBeCloseTo(4 + 2.5, 12);
    expect(tides?.cells.hard.points).toBeCloseTo(2 + 2.5, 12);
    expect(tides?.cells.hard.lineIds).toEqual(['draw-1', 'text-1']);
    expect(spread.byCategory.find((row) => row.id === 'lights')?.cells.none).toEqual({
      points: 4,
      lineIds: ['fixed-1'],
    });
    expect(spread.byObjective.map((row) => [row.id, Math.round(row.points * 1e9) / 1e9])).toEqual([
      ['o1', 4],
      ['o2', 2],
      [null, 2 + 4 + 5],
    ]);
    // 2 of (1, 3, 2) on average 4, the fixed one 10, one of (4, 6) on average 5.
    expect(spread.minutes).toBeCloseTo(19, 12);
    expect(spread.total).toBe(15);
  });

  it('adds up to the points of a paper over categories, whatever the pools', () => {
    fc.assert(
      fc.property(
        fc.array(fc.uniqueArray(fc.nat(20), { minLength: 3, maxLength: 9 }), { minLength: 1, maxLength: 5 }),
        (pools) => {
          const counts = pools.map((_, i) => 1 + (i % 3));
          const exam = examFromPools(counts, pools);
          const { byCategory, total } = pointSpread(exam.design, exam.snapshot, planDraw(exam.design, exam.snapshot));
          expect(byCategory.reduce((sum, row) => sum + row.points, 0)).toBeCloseTo(total, 9);
          for (const row of byCategory)
            expect(Object.values(row.cells).reduce((sum, cell) => sum + cell.points, 0)).toBeCloseTo(row.points, 9);
        },
      ),
    );
  });

  it('is what papers carry on average', () => {
    const papers = 4_000;
    let hard = 0;
    const hardIds = new Set(snapshot.entries.filter((one) => one.difficulty === 'hard').map((one) => one.questionId));
    for (let i = 0; i < papers; i++)
      for (const slot of drawPaper(design, snapshot, `paper ${i}`) ?? [])
        if (hardIds.has(slot.questionId)) hard += slot.points;
    expect(hard / papers).toBeCloseTo(4.5, 0.8);
  });

  it('holds nothing where a pool is empty', () => {
    const none = exampleDesign([exampleDraw('draw-1', 2, ['nowhere'])]);
    expect(pointSpread(none, snapshot, planDraw(none, snapshot))).toMatchObject({
      minutes: 0,
      timed: 0,
      byCategory: [],
      total: 2,
    });
  });
});

describe('the minutes of a question', () => {
  it('are the answering of its type and the reading of its words', () => {
    expect(expectedMinutes('true-false', 0)).toBe(0.5);
    expect(expectedMinutes('numeric', 130)).toBe(3);
    expect(expectedMinutes('written', 26)).toBeCloseTo(10.2, 12);
  });
});
