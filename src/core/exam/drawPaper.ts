import { seededRandom, shuffled } from '../base/random';
import type { ExamDesign } from './design';
import { type DrawPlan, planDraw } from './drawPlan';
import { drawSelection } from './drawSelection';
import type { PoolEntry, PoolSnapshot } from './snapshot';

/** One place on a paper. */
export type PaperSlot = {
  partId: string;
  lineId: string;
  questionId: string;
  versionId: string;
  points: number;
};

/**
 * Draws a paper: a pure function of the exam revision, the pool snapshot, the seed and what the student has seen.
 *
 * @param seen ids of questions this student had in earlier attempts of the sitting; avoided as far as the pools allow
 * @param plan the design worked out over the snapshot, where the caller keeps it for many papers
 * @returns the slots in the order of the paper, or null when the lines cannot be satisfied (the plan check says why)
 */
export function drawPaper(
  design: ExamDesign,
  snapshot: PoolSnapshot,
  seed: string,
  seen: ReadonlySet<string> = new Set(),
  plan: DrawPlan = planDraw(design, snapshot),
): PaperSlot[] | null {
  if (plan.missing.length > 0) return null;
  const seenFlags = seen.size
    ? Uint8Array.from(snapshot.entries, (entry) => (seen.has(entry.questionId) ? 1 : 0))
    : null;
  const drawn = drawSelection(plan, seededRandom(seed, 'questions'), seenFlags);
  if (!drawn) return null;
  const byLine = new Map(plan.draws.map((draw, i) => [draw.lineId, drawn[i] as Int32Array]));
  const byQuestion = new Map(snapshot.entries.map((entry) => [entry.questionId, entry]));
  const order = seededRandom(seed, 'order');
  return design.parts.flatMap((part) => {
    const slots = part.lines.flatMap((line): PaperSlot[] => {
      const entries =
        line.kind === 'fixed'
          ? [byQuestion.get(line.questionId) as PoolEntry]
          : Array.from(byLine.get(line.id) as Int32Array, (index) => snapshot.entries[index] as PoolEntry);
      return entries.map(({ questionId, versionId }) => ({
        partId: part.id,
        lineId: line.id,
        questionId,
        versionId,
        points: line.points,
      }));
    });
    return part.order === 'shuffled' ? shuffled(slots, order) : slots;
  });
}
