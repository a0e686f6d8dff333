import type { DrawLine, ExamDesign } from '../exam/design';
import { type PoolEntry, type PoolSnapshot, snapshotOf } from '../exam/snapshot';

/** A made-up question for tests, in the categories of its path. */
export const exampleEntry = (n: number, path: string[], more: Partial<PoolEntry> = {}): PoolEntry => ({
  questionId: `question-${String(n).padStart(5, '0')}`,
  versionId: `version-${n}`,
  type: 'single-choice',
  categoryPath: path,
  difficulty: null,
  objectives: [],
  tags: [],
  exams: [],
  daysSinceUse: null,
  passageId: null,
  success: null,
  expected: 0.65,
  minutes: 1,
  timed: 0,
  ...more,
});

export const exampleDraw = (id: string, count: number, categories: string[]): DrawLine => ({
  kind: 'draw',
  id,
  count,
  points: 1,
  pool: { categories: categories.map((one) => ({ id: one, below: true })), difficulties: [] },
});

export const exampleDesign = (lines: ExamDesign['parts'][number]['lines']): ExamDesign => ({
  instructions: { type: 'doc', content: [] },
  worth: null,
  parts: [{ id: 'part', title: 'Part A', order: 'as-written', lines }],
});

/**
 * A design and snapshot made from pools written as lists of question numbers: question k is in category `line-i`
 * whenever pools[i] holds k (its path then names several categories, which is all that a pool looks at).
 */
export function examFromPools(counts: number[], pools: number[][]): { design: ExamDesign; snapshot: PoolSnapshot } {
  const questions = [...new Set(pools.flat())];
  return {
    design: exampleDesign(counts.map((count, i) => exampleDraw(`line-${i}`, count, [`category-${i}`]))),
    snapshot: snapshotOf(
      questions.map((n) =>
        exampleEntry(
          n,
          pools.flatMap((pool, i) => (pool.includes(n) ? [`category-${i}`] : [])),
        ),
      ),
    ),
  };
}
