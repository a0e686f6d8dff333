import { type StreamOf, seededRandom, shuffled } from '../base/random';
import type { ExamDesign } from './design';
import { type DrawPlan, planDraw } from './drawPlan';
import { selectEquallyHard } from './equalHardness';
import { selectPaper } from './selectPaper';
import type { PoolEntry, PoolSnapshot } from './snapshot';

/** One place on a paper. */
export type PaperSlot = {
  partId: string;
  lineId: string;
  questionId: string;
  versionId: string;
  points: number;
  /** The passage it is shown with. */
  passageId: string | null;
};

/**
 * Draws a paper: a pure function of the exam revision, the pool snapshot, the seed and what the student has seen.
 *
 * @param seen ids of questions this student had in earlier attempts of the sitting; avoided as far as the pools allow
 * @param plan the design worked out over the snapshot, where the caller keeps it for many papers
 * @param streamOf for papers that nobody is given, a quick one
 * @returns the slots in the order of the paper, or null when the lines cannot be satisfied (the plan check says why)
 */
export function drawPaper(
  design: ExamDesign,
  snapshot: PoolSnapshot,
  seed: string,
  seen: ReadonlySet<string> = new Set(),
  plan: DrawPlan = planDraw(design, snapshot),
  streamOf: StreamOf = seededRandom,
): PaperSlot[] | null {
  const { equalHardness } = design;
  const selection = equalHardness
    ? selectEquallyHard(design, snapshot, plan, seed, seen, equalHardness.within / 100, undefined, streamOf)
    : selectPaper(plan, snapshot, seed, seen, streamOf);
  if (!selection) return null;
  const byLine = new Map(plan.draws.map((draw, i) => [draw.lineId, selection.drawn[i] as Int32Array]));
  const passages = new Map(plan.passages.draws.map((draw, i) => [draw.lineId, selection.passages[i] as number[][]]));
  const byQuestion = new Map(snapshot.entries.map((entry) => [entry.questionId, entry]));
  const order = streamOf(seed, 'order');
  const entriesAt = (indexes: Iterable<number>) => Array.from(indexes, (index) => snapshot.entries[index] as PoolEntry);
  return design.parts.flatMap((part) => {
    // What stays together on the paper: one question, or the questions of one passage.
    const blocks = part.lines.flatMap((line): PaperSlot[][] => {
      const units: PoolEntry[][] =
        line.kind === 'fixed'
          ? [[byQuestion.get(line.questionId) as PoolEntry]]
          : line.kind === 'passage'
            ? (passages.get(line.id) ?? []).map(entriesAt)
            : entriesAt(byLine.get(line.id) as Int32Array).map((entry) => [entry]);
      return units.map((entries) =>
        entries.map(({ questionId, versionId, passageId }) => ({
          partId: part.id,
          lineId: line.id,
          questionId,
          versionId,
          points: line.points,
          passageId: passageId ?? null,
        })),
      );
    });
    const kept = together(blocks);
    return (part.order === 'shuffled' ? shuffled(kept, order) : kept).flat();
  });
}

/** Fixed questions of one passage that stand next to each other are one block too. */
function together(blocks: PaperSlot[][]): PaperSlot[][] {
  const kept: PaperSlot[][] = [];
  for (const block of blocks) {
    const last = kept[kept.length - 1];
    const passageId = block[0]?.passageId ?? null;
    if (last && passageId !== null && last[0]?.passageId === passageId) last.push(...block);
    else kept.push([...block]);
  }
  return kept;
}
