import type { ExamDesign } from './design';
import { inPool, type PoolSnapshot } from './snapshot';

/** A draw line over a snapshot: its pool as indexes of entries, fixed questions already taken out. */
export type PlannedDraw = { lineId: string; count: number; pool: Int32Array };

/** A design worked out over a snapshot. Making it costs a pass over the bank; drawing from it is cheap. */
export type DrawPlan = {
  size: number;
  draws: PlannedDraw[];
  /** Draws that share a question, directly or through others, stand together; different groups cannot collide. */
  groups: number[][];
  /** Ids of fixed questions that the snapshot does not hold. */
  missing: string[];
};

/**
 * Works out which questions each draw can take. Fixed lines leave the pools first.
 */
export function planDraw(design: ExamDesign, snapshot: PoolSnapshot): DrawPlan {
  const lines = design.parts.flatMap((part) => part.lines);
  const fixed = new Set(lines.flatMap((line) => (line.kind === 'fixed' ? [line.questionId] : [])));
  const known = new Set(snapshot.entries.map((entry) => entry.questionId));
  const draws = lines.flatMap((line): PlannedDraw[] => {
    if (line.kind !== 'draw') return [];
    const pool: number[] = [];
    snapshot.entries.forEach((entry, index) => {
      if (!fixed.has(entry.questionId) && inPool(entry, line.pool)) pool.push(index);
    });
    return [{ lineId: line.id, count: line.count, pool: Int32Array.from(pool) }];
  });
  return {
    size: snapshot.entries.length,
    draws,
    groups: groupsSharingQuestions(draws, snapshot.entries.length),
    missing: [...fixed].filter((id) => !known.has(id)),
  };
}

/** Union–find over the draws: two that hold the same question come into one group. */
function groupsSharingQuestions(draws: PlannedDraw[], size: number): number[][] {
  const parent = draws.map((_, i) => i);
  const root = (i: number): number => {
    let at = i;
    while (parent[at] !== at) at = parent[at] as number;
    return at;
  };
  const holder = new Int32Array(size).fill(-1);
  draws.forEach((draw, i) => {
    for (const question of draw.pool) {
      const other = holder[question] as number;
      if (other < 0) holder[question] = i;
      else parent[root(i)] = root(other);
    }
  });
  const groups = new Map<number, number[]>();
  for (const i of draws.keys()) groups.set(root(i), [...(groups.get(root(i)) ?? []), i]);
  return [...groups.values()];
}
