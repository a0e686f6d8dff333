import { type Difficulty, difficulties } from '../question/types';
import { designPoints, type ExamDesign, lineCount, linesOf, shareAsked } from './design';
import type { DrawPlan } from './drawPlan';
import type { PoolEntry, PoolSnapshot } from './snapshot';

/** The columns of the table: difficulties, and last what has none. */
export const spreadColumns = [...difficulties, 'none'] as const;
type SpreadColumn = Difficulty | 'none';

/** Points that papers are expected to carry in one place of the table, and the lines that bring them. */
export type SpreadCell = { points: number; lineIds: string[] };

/** A row of the table: points by difficulty of one category or objective. */
export type SpreadRow = {
  /** A category at the top of its tree, or an objective; null for questions without any. */
  id: string | null;
  cells: Record<SpreadColumn, SpreadCell>;
  points: number;
};

/** Where the points of a paper are expected to lie, by category and by objective. */
export type PointSpread = {
  /** Points of a paper. */
  total: number;
  minutes: number;
  /** The share of its questions whose times have been observed, in [0, 1]. */
  timed: number;
  byCategory: SpreadRow[];
  /** A question counts with each of its objectives, so that the rows may add up to more than the total. */
  byObjective: SpreadRow[];
};

/**
 * How the points of a paper are expected to spread over categories, objectives and difficulty, and how many minutes it is
 * expected to take. A fixed question brings its own; every question of a line's pool brings an equal share of the line,
 * which is exact for lines that share no questions, and near to it where they do. In a choose-part each
 * question counts for the share of them that is answered.
 */
export function pointSpread(design: ExamDesign, snapshot: PoolSnapshot, plan: DrawPlan): PointSpread {
  const byQuestion = new Map(snapshot.entries.map((entry) => [entry.questionId, entry]));
  const pools = new Map<string, PoolEntry[]>();
  const entriesAt = (indexes: Iterable<number>) => Array.from(indexes, (i) => snapshot.entries[i] as PoolEntry);
  for (const draw of plan.draws) pools.set(draw.lineId, entriesAt(draw.pool));
  for (const draw of plan.passages.draws)
    pools.set(draw.lineId, entriesAt([...draw.pool].flatMap((passage) => draw.of.get(passage) ?? [])));

  const categories = new Map<string | null, SpreadRow>();
  const objectives = new Map<string | null, SpreadRow>();
  let minutes = 0;
  let timed = 0;
  let asked = 0;
  for (const { part, line } of linesOf(design)) {
    const fixed = line.kind === 'fixed' ? byQuestion.get(line.questionId) : undefined;
    const pool = line.kind === 'fixed' ? (fixed ? [fixed] : []) : (pools.get(line.id) ?? []);
    const share = (shareAsked(part) * lineCount(line)) / pool.length;
    for (const entry of pool) {
      minutes += share * entry.minutes;
      asked += share;
      if (entry.timed > 0) timed += share;
      const column = entry.difficulty ?? 'none';
      add(categories, entry.categoryPath[0] ?? null, column, share * line.points, line.id);
      for (const objective of entry.objectives.length ? entry.objectives : [null])
        add(objectives, objective, column, share * line.points, line.id);
    }
  }
  return {
    total: designPoints(design),
    minutes,
    timed: asked > 0 ? timed / asked : 0,
    byCategory: [...categories.values()],
    byObjective: [...objectives.values()],
  };
}

function add(
  rows: Map<string | null, SpreadRow>,
  id: string | null,
  column: SpreadColumn,
  points: number,
  lineId: string,
): void {
  const row = rows.get(id) ?? {
    id,
    cells: Object.fromEntries(
      spreadColumns.map((one) => [one, { points: 0, lineIds: [] }]),
    ) as unknown as SpreadRow['cells'],
    points: 0,
  };
  rows.set(id, row);
  const cell = row.cells[column];
  cell.points += points;
  row.points += points;
  if (cell.lineIds.at(-1) !== lineId) cell.lineIds.push(lineId);
}
