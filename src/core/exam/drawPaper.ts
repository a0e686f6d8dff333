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
  /** The passage it is shown with. */
  passageId: string | null;
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
  const passages = drawPassages(plan, snapshot, seed, seen);
  if (!passages) return null;
  const byLine = new Map(plan.draws.map((draw, i) => [draw.lineId, drawn[i] as Int32Array]));
  const byQuestion = new Map(snapshot.entries.map((entry) => [entry.questionId, entry]));
  const order = seededRandom(seed, 'order');
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

/**
 * The passages of each passage line with the questions drawn of each: passages like questions of draws, none twice; then
 * of each a uniformly random set of its questions, those not seen before first.
 */
function drawPassages(
  plan: DrawPlan,
  snapshot: PoolSnapshot,
  seed: string,
  seen: ReadonlySet<string>,
): Map<string, number[][]> | null {
  const { passages } = plan;
  if (passages.draws.length === 0) return new Map();
  const random = seededRandom(seed, 'passages');
  const isSeen = (index: number) => seen.has((snapshot.entries[index] as PoolEntry).questionId);
  const flags = seen.size ? new Uint8Array(passages.size) : null;
  if (flags)
    for (const draw of passages.draws) for (const [passage, own] of draw.of) if (own.some(isSeen)) flags[passage] = 1;
  const drawn = drawSelection(passages, random, flags);
  if (!drawn) return null;
  return new Map(
    passages.draws.map((draw, i) => [
      draw.lineId,
      Array.from(drawn[i] as Int32Array, (passage) => {
        const own = draw.of.get(passage) as number[];
        const fresh = shuffled(
          own.filter((index) => !isSeen(index)),
          random,
        );
        const again = shuffled(own.filter(isSeen), random);
        return [...fresh, ...again].slice(0, draw.questions);
      }),
    ]),
  );
}
