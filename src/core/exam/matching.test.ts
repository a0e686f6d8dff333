import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { seededRandom } from '../base/random';
import { examFromPools, exampleDesign, exampleDraw, exampleEntry } from '../testing/exampleExam';
import { blankDesign, designCount, designPoints, examDesign } from './design';
import { planDraw } from './drawPlan';
import { allot, competitions, questionClasses } from './matching';
import { inPool, neededFor, priorCredit, snapshotOf } from './snapshot';

const smallExam = fc
  .array(
    fc.record({
      count: fc.integer({ min: 1, max: 3 }),
      pool: fc.uniqueArray(fc.integer({ min: 1, max: 8 }), { minLength: 1, maxLength: 6 }),
    }),
    { minLength: 1, maxLength: 5 },
  )
  .map((lines) => ({ counts: lines.map((line) => line.count), pools: lines.map((line) => line.pool) }));

/** How many questions must be missing: the greatest deficiency over all groups of lines (König–Hall). */
function deficiency(counts: number[], pools: number[][]): number {
  let worst = 0;
  for (let group = 1; group < 1 << counts.length; group++) {
    const lines = counts.flatMap((_, i) => (group & (1 << i) ? [i] : []));
    const asked = lines.reduce((sum, i) => sum + (counts[i] as number), 0);
    const available = new Set(lines.flatMap((i) => pools[i] as number[])).size;
    worst = Math.max(worst, asked - available);
  }
  return worst;
}

const drawsOf = (counts: number[], pools: number[][]) => {
  const { design, snapshot } = examFromPools(counts, pools);
  return planDraw(design, snapshot).draws;
};

describe('the allotment', () => {
  it('lacks exactly as many questions as Hall’s condition fails by, in any order of looking', () => {
    fc.assert(
      fc.property(smallExam, fc.string(), ({ counts, pools }, seed) => {
        const draws = drawsOf(counts, pools);
        const classes = questionClasses(draws, null);
        for (const random of [undefined, seededRandom(seed)]) {
          const { lacking, flow } = allot(counts, classes, random);
          expect(lacking.reduce((sum, n) => sum + n, 0)).toBe(deficiency(counts, pools));
          classes.forEach((one, c) => {
            const taken = (flow[c] as Int32Array).reduce((sum, n) => sum + n, 0);
            expect(taken).toBeLessThanOrEqual(one.members.length);
            for (const [d, n] of (flow[c] as Int32Array).entries()) if (n > 0) expect(one.draws).toContain(d);
          });
        }
      }),
      { seed: 31, numRuns: 300 },
    );
  });

  it('puts every question of a pool into exactly one class', () => {
    fc.assert(
      fc.property(smallExam, ({ counts, pools }) => {
        const members = questionClasses(drawsOf(counts, pools), null).flatMap((one) => one.members);
        expect(new Set(members).size).toBe(members.length);
        expect(members.length).toBe(new Set(pools.flat()).size);
      }),
      { seed: 32 },
    );
  });
});

describe('competitions', () => {
  it('are found exactly where lines cannot be satisfied, and each is a true deficient group', () => {
    fc.assert(
      fc.property(smallExam, ({ counts, pools }) => {
        const found = competitions(drawsOf(counts, pools));
        // The snapshot numbers its questions from 0 in their order.
        const all = [...new Set(pools.flat())].sort((a, b) => a - b);
        expect(found.length > 0).toBe(deficiency(counts, pools) > 0);
        // Groups share no draw, and together lack exactly what the whole exam lacks.
        expect(new Set(found.flatMap((one) => one.draws)).size).toBe(found.flatMap((one) => one.draws).length);
        expect(found.reduce((sum, one) => sum + one.missing, 0)).toBe(deficiency(counts, pools));
        for (const { draws, asked, available, missing, questions } of found) {
          const reached = new Set(draws.flatMap((i) => pools[i] as number[]));
          expect(questions).toEqual(all.flatMap((number, i) => (reached.has(number) ? [i] : [])));
          expect(asked).toBe(draws.reduce((sum, i) => sum + (counts[i] as number), 0));
          expect(available).toBe(new Set(draws.flatMap((i) => pools[i] as number[])).size);
          expect(missing).toBe(asked - available);
          expect(missing).toBeGreaterThan(0);
        }
      }),
      { seed: 33, numRuns: 300 },
    );
  });

  it('are one where a further line only makes it worse', () => {
    const pool = [1, 2, 3, 4, 5];
    expect(competitions(drawsOf([4, 3, 1], [pool, pool, pool])).map((one) => [one.draws, one.missing])).toEqual([
      [[0, 1, 2], 3],
    ]);
  });

  it('leave lines out that have nothing to do with it', () => {
    const [only] = competitions(
      drawsOf(
        [2, 2, 3],
        [
          [1, 2, 3],
          [2, 3],
          [4, 5, 6],
        ],
      ),
    );
    expect(only).toEqual({ draws: [0, 1], asked: 4, available: 3, missing: 1, questions: [0, 1, 2] });
  });
});

describe('pools', () => {
  const entries = [
    exampleEntry(1, ['tides', 'heights'], { difficulty: 'easy' }),
    exampleEntry(2, ['tides'], { difficulty: 'hard' }),
    exampleEntry(3, ['charts']),
    exampleEntry(4, ['tides', 'heights'], { passageId: 'table' }),
  ];
  const within = (below: boolean, difficulties: ('easy' | 'medium' | 'hard')[] = []) =>
    entries
      .filter((entry) => inPool(entry, { categories: [{ id: 'tides', below }], difficulties }))
      .map((entry) => entry.questionId.at(-1));

  it('hold a category alone or with everything below it, and the difficulties named', () => {
    expect(within(true)).toEqual(['1', '2']);
    expect(within(false)).toEqual(['2']);
    expect(within(true, ['easy', 'medium'])).toEqual(['1']);
  });

  it('a snapshot keeps only what the design can draw, in a fixed order', () => {
    const design = exampleDesign([
      exampleDraw('draw', 1, ['charts']),
      { kind: 'fixed', id: 'fixed', questionId: entries[3]?.questionId ?? '', points: 1 },
    ]);
    const needed = neededFor(design, snapshotOf([...entries].reverse()));
    expect(needed.entries.map((entry) => entry.questionId.at(-1))).toEqual(['3', '4']);
    expect([null, 'easy', 'medium', 'hard'].map((one) => priorCredit(one as 'easy' | null))).toEqual([
      0.65, 0.85, 0.65, 0.45,
    ]);
  });

  it('draws that share a question stand in one group, also through others', () => {
    const { design, snapshot } = examFromPools(
      [1, 1, 1, 1],
      [
        [1, 2],
        [2, 3],
        [3, 4],
        [8, 9],
      ],
    );
    expect(planDraw(design, snapshot).groups.map((group) => [...group].sort())).toEqual([[0, 1, 2], [3]]);
  });
});

describe('a design', () => {
  const line = exampleDraw('line1', 3, ['tides']);
  const withLine = (change: object) => ({
    ...exampleDesign([line]),
    parts: [{ id: 'part', title: 'A', order: 'as-written', lines: [{ ...line, ...change }] }],
  });
  const fieldsOf = (input: unknown) => {
    const parsed = examDesign.safeParse(input);
    return parsed.success ? [] : parsed.error.issues.map((issue) => issue.path.join('.'));
  };

  it('counts the questions and points that every paper carries', () => {
    const design = exampleDesign([line, { kind: 'fixed', id: 'fixed', questionId: 'question-1', points: 2.5 }]);
    expect([designCount(design), designPoints(design)]).toEqual([4, 5.5]);
    expect([designCount(blankDesign('part')), designPoints(blankDesign('part'))]).toEqual([0, 0]);
  });

  it.each([
    [{ count: 0 }, 'parts.0.lines.0.count'],
    [{ count: 1.5 }, 'parts.0.lines.0.count'],
    [{ count: 501 }, 'parts.0.lines.0.count'],
    [{ points: 0 }, 'parts.0.lines.0.points'],
    [{ points: -1 }, 'parts.0.lines.0.points'],
    [{ points: 1e9 }, 'parts.0.lines.0.points'],
    [{ points: Number.NaN }, 'parts.0.lines.0.points'],
    [{ pool: { categories: [], difficulties: [] } }, 'parts.0.lines.0.pool.categories'],
    [
      { pool: { categories: [{ id: 'tides', below: true }], difficulties: ['deadly'] } },
      'parts.0.lines.0.pool.difficulties.0',
    ],
    [
      { pool: { categories: [{ id: 'tides', below: true }], difficulties: [], success: { from: 60, to: 30 } } },
      'parts.0.lines.0.pool.success.from',
    ],
    [
      { pool: { categories: [{ id: 'tides', below: true }], difficulties: [], success: { from: 0, to: 101 } } },
      'parts.0.lines.0.pool.success.to',
    ],
    [{ kind: 'spell' }, 'parts.0.lines.0.kind'],
  ])('refuses %j at its field', (change, field) => {
    expect(fieldsOf(withLine(change))).toContain(field);
  });

  it('refuses a worth of 0 and a part without a name', () => {
    expect(fieldsOf({ ...exampleDesign([line]), worth: 0 })).toEqual(['worth']);
    expect(
      fieldsOf({ ...exampleDesign([]), parts: [{ id: 'part', title: ' ', order: 'as-written', lines: [] }] }),
    ).toEqual(['parts.0.title']);
    expect(fieldsOf(exampleDesign([line]))).toEqual([]);
  });
});
