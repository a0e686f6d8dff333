import { type DrawLine, type ExamDesign, type ExamPart, linesOf, type PassageLine } from './design';
import { inPassagePool, inPool, type PoolSnapshot } from './snapshot';

/** A draw line over a snapshot: its pool as indexes of entries, fixed questions already taken out. */
export type PlannedDraw = { lineId: string; count: number; pool: Int32Array };

/**
 * A passage line over a snapshot: the passages it can take, as numbers of a list that all passage lines share, and for
 * each of them the questions it may choose from, as indexes of entries.
 */
type PlannedPassages = PlannedDraw & { questions: number; of: Map<number, number[]> };

/** A design worked out over a snapshot. Making it costs a pass over the bank; drawing from it is cheap. */
export type DrawPlan = {
  size: number;
  draws: PlannedDraw[];
  /** Draws that share a question, directly or through others, stand together; different groups cannot collide. */
  groups: number[][];
  /** Passage lines, and which of them can take the same passage. */
  passages: { size: number; ids: string[]; draws: PlannedPassages[]; groups: number[][] };
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
    passages: planPassages(design, snapshot, fixed),
    missing: [...fixed].filter((id) => !known.has(id)),
  };
}

/** For each draw line, how many questions (or passages) its pool holds after the fixed questions have left it. */
export const poolSizesOf = ({ draws, passages }: DrawPlan): Record<string, number> =>
  Object.fromEntries([...draws, ...passages.draws].map((draw) => [draw.lineId, draw.pool.length]));

/** How many questions (or passages) a further draw would find in its pool beside what the design holds already. */
export function poolSizeBeside(design: ExamDesign, line: DrawLine | PassageLine, snapshot: PoolSnapshot): number {
  const fixed = linesOf(design).flatMap(({ line }) => (line.kind === 'fixed' ? [line] : []));
  const part: ExamPart = { id: 'beside', title: 'Beside', order: 'as-written', lines: [...fixed, line] };
  return poolSizesOf(planDraw({ ...design, parts: [part] }, snapshot))[line.id] ?? 0;
}

/** A passage can be taken by a line for which enough of its questions are left. */
function planPassages(design: ExamDesign, snapshot: PoolSnapshot, fixed: ReadonlySet<string>): DrawPlan['passages'] {
  const ids = [...new Set(snapshot.entries.flatMap((entry) => entry.passageId ?? []))].sort();
  const number = new Map(ids.map((id, i) => [id, i]));
  const draws = design.parts
    .flatMap((part) => part.lines)
    .flatMap((line): PlannedPassages[] => {
      if (line.kind !== 'passage') return [];
      const of = new Map<number, number[]>();
      snapshot.entries.forEach((entry, index) => {
        if (fixed.has(entry.questionId) || !inPassagePool(entry, line.pool)) return;
        const passage = number.get(entry.passageId as string) as number;
        const own = of.get(passage);
        if (own) own.push(index);
        else of.set(passage, [index]);
      });
      const pool = [...of].filter(([, own]) => own.length >= line.questions).map(([passage]) => passage);
      return [{ lineId: line.id, count: line.count, questions: line.questions, pool: Int32Array.from(pool), of }];
    });
  return { size: ids.length, ids, draws, groups: groupsSharingQuestions(draws, ids.length) };
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
