import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { seededRandom } from '../base/random';
import { examFromPools, exampleDesign, exampleDraw, exampleEntry } from '../testing/exampleExam';
import { drawPaper } from './drawPaper';
import { planDraw } from './drawPlan';
import { drawSelection } from './drawSelection';
import { planCheck } from './planCheck';
import { snapshotOf } from './snapshot';

/** All admissible papers by plain enumeration: a list of sets, one for each line, that do not meet. */
function allPapers(counts: number[], pools: number[][]): number[][][] {
  const choose = (from: number[], k: number): number[][] => {
    if (k === 0) return [[]];
    const [head, ...tail] = from;
    if (head === undefined) return [];
    return [...choose(tail, k - 1).map((set) => [head, ...set]), ...choose(tail, k)];
  };
  const extend = (i: number, used: Set<number>): number[][][] => {
    if (i === counts.length) return [[]];
    const free = (pools[i] as number[]).filter((n) => !used.has(n));
    return choose(free, counts[i] as number).flatMap((set) =>
      extend(i + 1, new Set([...used, ...set])).map((rest) => [set, ...rest]),
    );
  };
  return extend(0, new Set());
}

const paperKey = (sets: number[][]) => sets.map((set) => [...set].sort((a, b) => a - b).join(',')).join('|');

function drawnKey(counts: number[], pools: number[][], seed: string, seen = new Set<string>()): string | null {
  const { design, snapshot } = examFromPools(counts, pools);
  const paper = drawPaper(design, snapshot, seed, seen);
  if (!paper) return null;
  return paperKey(
    counts.map((_, i) =>
      paper.filter((slot) => slot.lineId === `line-${i}`).map((slot) => Number(slot.questionId.slice(9))),
    ),
  );
}

/** Pearson's chi-square of observed counts against equal expectation. */
function chiSquare(counts: Map<string, number>, classes: number, total: number): number {
  const expected = total / classes;
  const seen = [...counts.values()].reduce((sum, n) => sum + (n - expected) ** 2 / expected, 0);
  return seen + (classes - counts.size) * expected;
}

/** The 99.9 % point of chi-square (Wilson–Hilferty). */
const chiSquareLimit = (freedom: number) =>
  freedom * (1 - 2 / (9 * freedom) + 3.09 * Math.sqrt(2 / (9 * freedom))) ** 3;

function spread(counts: number[], pools: number[][], papers: number): Map<string, number> {
  const { design, snapshot } = examFromPools(counts, pools);
  const plan = planDraw(design, snapshot);
  const numbers = snapshot.entries.map((entry) => Number(entry.questionId.slice(9)));
  const found = new Map<string, number>();
  for (let s = 0; s < papers; s++) {
    const drawn = drawSelection(plan, seededRandom(`seed-${s}`));
    const key = paperKey((drawn ?? []).map((set) => Array.from(set, (index) => numbers[index] as number)));
    found.set(key, (found.get(key) ?? 0) + 1);
  }
  return found;
}

describe('drawing from one pool', () => {
  it('makes every set of the pool equally likely', () => {
    const papers = allPapers([2], [[1, 2, 3, 4, 5, 6]]);
    expect(papers).toHaveLength(15);
    const found = spread([2], [[1, 2, 3, 4, 5, 6]], 15_000);
    expect(found.size).toBe(15);
    expect(chiSquare(found, 15, 15_000)).toBeLessThan(chiSquareLimit(14));
  });

  it('makes every order of the drawn questions equally likely', () => {
    const { design, snapshot } = examFromPools([3], [[1, 2, 3]]);
    const found = new Map<string, number>();
    for (let s = 0; s < 6_000; s++) {
      const key = (drawPaper(design, snapshot, `s${s}`) ?? []).map((slot) => slot.questionId).join();
      found.set(key, (found.get(key) ?? 0) + 1);
    }
    expect(found.size).toBe(6);
    expect(chiSquare(found, 6, 6_000)).toBeLessThan(chiSquareLimit(5));
  });
});

describe('drawing from pools that overlap', () => {
  it.each([
    [
      'two lines over overlapping pools',
      [2, 2],
      [
        [1, 2, 3, 4],
        [3, 4, 5, 6],
      ],
    ],
    [
      'a chain of three lines',
      [1, 1, 2],
      [
        [1, 2, 3],
        [3, 4, 5],
        [5, 6, 7, 1],
      ],
    ],
    [
      'a line inside another',
      [1, 2],
      [
        [1, 2],
        [1, 2, 3, 4, 5],
      ],
    ],
  ])('is exactly uniform over the admissible papers: %s', (_, counts, pools) => {
    const papers = allPapers(counts, pools);
    const total = papers.length * 400;
    const found = spread(counts, pools, total);
    for (const key of found.keys()) expect(papers.map(paperKey)).toContain(key);
    expect(found.size).toBe(papers.length);
    expect(chiSquare(found, papers.length, total)).toBeLessThan(chiSquareLimit(papers.length - 1));
  });

  it('stays near to uniform where pools are so tight that matching takes over', () => {
    // 5 lines over 6 questions: a random try is admissible about once in two hundred.
    const counts = [1, 1, 1, 1, 2];
    const pools = [
      [1, 2],
      [2, 3],
      [3, 4, 1],
      [4, 5, 2],
      [1, 2, 3, 4, 5, 6],
    ];
    const papers = allPapers(counts, pools);
    const total = papers.length * 600;
    const found = spread(counts, pools, total);
    expect(found.size).toBe(papers.length);
    const distance =
      papers.reduce((sum, paper) => sum + Math.abs((found.get(paperKey(paper)) ?? 0) / total - 1 / papers.length), 0) /
      2;
    expect(distance).toBeLessThan(0.05);
  });

  it('finds the one paper there is', () => {
    expect(drawnKey([1, 1, 1], [[1], [1, 2], [1, 2, 3]], 'any')).toBe('1|2|3');
  });
});

const smallExam = fc
  .array(
    fc.record({
      count: fc.integer({ min: 1, max: 3 }),
      pool: fc.uniqueArray(fc.integer({ min: 1, max: 7 }), { minLength: 1, maxLength: 6 }),
    }),
    { minLength: 1, maxLength: 4 },
  )
  .map((lines) => ({ counts: lines.map((line) => line.count), pools: lines.map((line) => line.pool) }));

describe('properties of every paper', () => {
  it('is drawn exactly when enumeration finds one, and the plan check agrees', () => {
    fc.assert(
      fc.property(smallExam, fc.string(), ({ counts, pools }, seed) => {
        const papers = allPapers(counts, pools).map(paperKey);
        const drawn = drawnKey(counts, pools, seed);
        if (papers.length === 0) expect(drawn).toBeNull();
        else expect(papers).toContain(drawn);
        const { design, snapshot } = examFromPools(counts, pools);
        const names = new Map(pools.map((_, i) => [`category-${i}`, `Category ${i}`]));
        expect(planCheck(design, snapshot, names).problems.length === 0).toBe(papers.length > 0);
      }),
      { seed: 7, numRuns: 400 },
    );
  });

  it('is the same for the same seed, and draws as few seen questions as enumeration allows', () => {
    fc.assert(
      fc.property(
        smallExam,
        fc.string(),
        fc.uniqueArray(fc.integer({ min: 1, max: 7 }), { maxLength: 6 }),
        ({ counts, pools }, seed, seenNumbers) => {
          const seen = new Set(seenNumbers.map((n) => exampleEntry(n, []).questionId));
          const papers = allPapers(counts, pools);
          const drawn = drawnKey(counts, pools, seed, seen);
          expect(drawnKey(counts, pools, seed, seen)).toBe(drawn);
          if (!drawn) return;
          const repeats = (key: string) =>
            (key.match(/\d+/g) ?? []).filter((n) => seenNumbers.includes(Number(n))).length;
          expect(repeats(drawn)).toBe(Math.min(...papers.map((paper) => repeats(paperKey(paper)))));
        },
      ),
      { seed: 11, numRuns: 400 },
    );
  });
});

describe('fixed lines and passages', () => {
  const entries = [1, 2, 3, 4].map((n) => exampleEntry(n, ['tides']));

  it('takes fixed questions out of the pools first', () => {
    const fixed = { kind: 'fixed' as const, id: 'fixed', questionId: entries[0]?.questionId ?? '', points: 2 };
    const design = exampleDesign([exampleDraw('draw', 3, ['tides']), fixed]);
    for (let s = 0; s < 50; s++) {
      const paper = drawPaper(design, snapshotOf(entries), `s${s}`) ?? [];
      expect(new Set(paper.map((slot) => slot.questionId)).size).toBe(4);
      expect(paper.at(-1)).toMatchObject({ questionId: entries[0]?.questionId, points: 2 });
    }
  });

  it('keeps questions of a passage out of ordinary pools', () => {
    const design = exampleDesign([exampleDraw('draw', 3, ['tides'])]);
    const snapshot = snapshotOf([...entries.slice(0, 3), exampleEntry(9, ['tides'], { passageId: 'table' })]);
    for (let s = 0; s < 30; s++)
      expect((drawPaper(design, snapshot, `s${s}`) ?? []).map((slot) => slot.questionId)).not.toContain(
        'question-00009',
      );
  });

  it('draws nothing when a fixed question is gone', () => {
    const design = exampleDesign([{ kind: 'fixed', id: 'fixed', questionId: 'question-gone', points: 1 }]);
    expect(drawPaper(design, snapshotOf(entries), 's')).toBeNull();
  });
});

describe('what the plan check says', () => {
  it('names competing lines and how many questions are missing', () => {
    const { design, snapshot } = examFromPools(
      [2, 2, 1],
      [
        [1, 2, 3],
        [1, 2, 3],
        [8, 9],
      ],
    );
    const names = new Map([0, 1, 2].map((i) => [`category-${i}`, `Category ${i}`]));
    expect(planCheck(design, snapshot, names).problems).toEqual([
      {
        code: 'lines-compete',
        message: 'Lines 1.1, 1.2 together draw 4 questions, but their pools hold only 3 different ones: 1 missing.',
        lineIds: ['line-0', 'line-1'],
        questionIds: ['question-00001', 'question-00002', 'question-00003'],
      },
    ]);
  });

  it('counts points, and finds small pools, doubled questions and lost categories', () => {
    const entries = [1, 2].map((n) => exampleEntry(n, ['tides']));
    const fixed = (id: string) => ({ kind: 'fixed' as const, id, questionId: 'question-00001', points: 3 });
    const design = exampleDesign([
      fixed('one'),
      fixed('two'),
      exampleDraw('draw', 2, ['tides']),
      exampleDraw('lost', 1, ['gone']),
    ]);
    const check = planCheck(design, snapshotOf(entries), new Map([['tides', 'Tides']]));
    expect(check.points).toBe(9);
    expect(check.questions).toBe(5);
    expect(check.poolSizes).toEqual({ draw: 1, lost: 0 });
    expect(check.problems.map((problem) => problem.code)).toEqual([
      'question-twice',
      'category-missing',
      'pool-too-small',
      'empty-pool',
    ]);
  });
});
