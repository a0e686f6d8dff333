import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { exampleDesign, exampleDraw, exampleEntry } from '../testing/exampleExam';
import type { ExamDesign, ExamLine } from './design';
import { drawPaper, type PaperSlot } from './drawPaper';
import { planDraw } from './drawPlan';
import { hardnessOf } from './equalHardness';
import { planCheck } from './planCheck';
import { type PoolSnapshot, snapshotOf } from './snapshot';

const equally = (lines: ExamLine[], within: number): ExamDesign => ({
  ...exampleDesign(lines),
  equalHardness: { within },
});
const score = (slots: readonly PaperSlot[], snapshot: PoolSnapshot): number => {
  const expected = new Map(snapshot.entries.map((entry) => [entry.questionId, entry.expected]));
  const points = slots.reduce((sum, slot) => sum + slot.points, 0);
  return slots.reduce((sum, slot) => sum + slot.points * (expected.get(slot.questionId) as number), 0) / points;
};
/** Two categories of thirty questions each, from easy to hard, and a third that overlaps both. */
const bank = snapshotOf(
  Array.from({ length: 60 }, (_, n) =>
    exampleEntry(n, [n < 30 ? 'tides' : 'lights', ...(n % 4 === 0 ? ['night'] : [])], {
      expected: 0.2 + ((n * 7) % 30) * 0.025,
    }),
  ),
);
const apart = [exampleDraw('line-a', 5, ['tides']), { ...exampleDraw('line-b', 3, ['lights']), points: 2 } as ExamLine];
const overlapping = [...apart, { ...exampleDraw('line-c', 4, ['night']), points: 1.5 } as ExamLine];

describe('equally hard papers', () => {
  it('have as target the mean of plain draws, worked out by hand where lines share nothing', () => {
    const entries = [0.2, 0.4, 0.9, 0.5, 0.7].map((expected, n) => exampleEntry(n, [n < 3 ? 'a' : 'b'], { expected }));
    const lines: ExamLine[] = [exampleDraw('line-a', 2, ['a']), { ...exampleDraw('line-b', 1, ['b']), points: 4 }];
    const design = exampleDesign(lines);
    const snapshot = snapshotOf(entries);
    // (2·1·0.5 + 1·4·0.6) / 6
    expect(hardnessOf(design, snapshot, planDraw(design, snapshot))?.target).toBeCloseTo(3.4 / 6, 12);
    const samples = Array.from({ length: 3_000 }, (_, i) =>
      score(drawPaper(exampleDesign(overlapping), bank, `s${i}`) ?? [], bank),
    );
    const shared = exampleDesign(overlapping);
    const mean = samples.reduce((x, y) => x + y, 0) / samples.length;
    expect(hardnessOf(shared, bank, planDraw(shared, bank))?.target).toBeCloseTo(mean, 1.9);
  });

  it('lie within the distance, keep every line and pool, bring nothing twice, and are the same for the same seed', () => {
    for (const lines of [apart, overlapping])
      fc.assert(
        fc.property(fc.string(), fc.constantFrom(0.5, 2, 5), (seed, within) => {
          const design = equally(lines, within);
          const plan = planDraw(design, bank);
          const slots = drawPaper(design, bank, seed, new Set(), plan) ?? [];
          const target = hardnessOf(design, bank, plan)?.target as number;
          expect(Math.abs(score(slots, bank) - target)).toBeLessThanOrEqual(within / 100 + 1e-9);
          expect(new Set(slots.map((slot) => slot.questionId)).size).toBe(slots.length);
          for (const draw of plan.draws) {
            const own = slots.filter((slot) => slot.lineId === draw.lineId);
            const pool = new Set(Array.from(draw.pool, (i) => bank.entries[i]?.questionId));
            expect([own.length, own.every((slot) => pool.has(slot.questionId))]).toEqual([draw.count, true]);
          }
          expect(drawPaper(design, bank, seed)).toEqual(slots);
        }),
        { seed: 3, numRuns: 40 },
      );
  });

  it('never bring back more of what was seen than a plain paper must', () => {
    const design = equally(overlapping, 1);
    fc.assert(
      fc.property(fc.string(), fc.uniqueArray(fc.nat(59), { maxLength: 55 }), (seed, numbers) => {
        const seen = new Set(numbers.map((n) => bank.entries[n]?.questionId as string));
        const repeats = (slots: PaperSlot[] | null) => slots?.filter((slot) => seen.has(slot.questionId)).length;
        expect(repeats(drawPaper(design, bank, seed, seen))).toBe(
          repeats(drawPaper(exampleDesign(overlapping), bank, seed, seen)),
        );
      }),
      { seed: 5, numRuns: 60 },
    );
  });

  it('are found nearly always where enumeration finds one, on small cases', () => {
    let feasible = 0;
    let met = 0;
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 0, max: 20 }), { minLength: 6, maxLength: 6 }),
        fc.integer({ min: 1, max: 4 }),
        fc.string(),
        (credits, points, seed) => {
          const snapshot = snapshotOf(
            credits.map((credit, n) => exampleEntry(n, [n < 3 ? 'a' : 'b'], { expected: credit / 20 })),
          );
          const lines: ExamLine[] = [exampleDraw('line-a', 1, ['a']), { ...exampleDraw('line-b', 2, ['b']), points }];
          const design = equally(lines, 3);
          const target = hardnessOf(design, snapshot, planDraw(design, snapshot))?.target as number;
          const e = (n: number) => (credits[n] as number) / 20;
          const all = [0, 1, 2].flatMap((a) =>
            [
              [3, 4],
              [3, 5],
              [4, 5],
            ].map(([b, c]) => (e(a) + points * (e(b as number) + e(c as number))) / (1 + 2 * points)),
          );
          const off = Math.abs(score(drawPaper(design, snapshot, seed) ?? [], snapshot) - target);
          if (all.some((one) => Math.abs(one - target) <= 0.03 + 1e-12)) {
            feasible++;
            if (off <= 0.03 + 1e-9) met++;
          } else expect(off).toBeGreaterThan(0.03);
        },
      ),
      { numRuns: 400, seed: 7 },
    );
    expect(feasible).toBeGreaterThan(150);
    expect(met / feasible).toBeGreaterThan(0.98);
  });

  it('use the questions of a pool nearly as evenly as plain draws do', () => {
    const design = equally([exampleDraw('line-a', 8, ['tides'])], 2);
    const plan = planDraw(design, bank);
    const uses = new Map<string, number>();
    const papers = 3_000;
    for (let i = 0; i < papers; i++)
      for (const slot of drawPaper(design, bank, `even/${i}`, new Set(), plan) ?? [])
        uses.set(slot.questionId, (uses.get(slot.questionId) ?? 0) + 1);
    const share = [...uses.values()].map((count) => count / ((papers * 8) / 30));
    expect(uses.size).toBe(30);
    expect(Math.min(...share)).toBeGreaterThan(0.8);
    expect(Math.max(...share)).toBeLessThan(1.2);
  });

  it('say on sample papers what was reached, and which line makes it impossible', () => {
    const loose = planCheck(
      equally(overlapping, 2),
      bank,
      new Map([
        ['tides', ''],
        ['lights', ''],
        ['night', ''],
      ]),
    ).hardness;
    expect(loose?.equal).toMatchObject({ met: 40, of: 40 });
    expect((loose?.equal?.highest ?? 1) - (loose?.equal?.lowest ?? 0)).toBeLessThanOrEqual(0.04 + 1e-9);
    expect((loose?.plain.highest ?? 0) - (loose?.plain.lowest ?? 0)).toBeGreaterThan(0.04);
    expect(loose?.limit).toBeNull();
    // One question of two, all or nothing, for half the points: no other line can make up for it.
    const coin = snapshotOf([
      exampleEntry(0, ['coin'], { expected: 0 }),
      exampleEntry(1, ['coin'], { expected: 1 }),
      ...Array.from({ length: 6 }, (_, n) => exampleEntry(n + 2, ['calm'], { expected: 0.5 + n / 100 })),
    ]);
    const lines: ExamLine[] = [
      exampleDraw('line-calm', 2, ['calm']),
      { ...exampleDraw('line-coin', 1, ['coin']), points: 2 },
    ];
    const names = new Map([
      ['coin', ''],
      ['calm', ''],
    ]);
    const { hardness } = planCheck(equally(lines, 2), coin, names);
    expect(hardness?.equal?.met).toBe(0);
    expect(hardness?.limit).toEqual({ lineId: 'line-coin', reach: 0.5 });
    expect(planCheck(exampleDesign(lines), coin, names).hardness?.equal).toBeNull();
  });
});
