import { type ExamDesign, linesOf } from './design';
import type { DrawPlan } from './drawPlan';

/**
 * How many questions two papers are expected to share, in closed form: every fixed question, n²/M for a draw of n from a
 * pool of M, and for m of P passages with q questions each (m/P)² · Σ q²/s over the passages, s being how many questions a
 * passage has. Exact for plain draws that share no question: both papers draw independently, so that a question of the
 * pool stands on both with probability (n/M)².
 *
 * @returns null where draws share questions: then there is no closed form
 */
export function expectedOverlap(design: ExamDesign, plan: DrawPlan): number | null {
  const apart = (groups: number[][]) => groups.every((group) => group.length === 1);
  if (!apart(plan.groups) || !apart(plan.passages.groups)) return null;
  const fixed = new Set(linesOf(design).flatMap(({ line }) => (line.kind === 'fixed' ? [line.questionId] : []))).size;
  const draws = plan.draws.reduce((sum, { count, pool }) => sum + (pool.length ? count ** 2 / pool.length : 0), 0);
  const passages = plan.passages.draws.reduce((sum, { count, questions, pool, of }) => {
    if (pool.length === 0) return sum;
    const shared = pool.reduce((all, passage) => all + questions ** 2 / (of.get(passage)?.length ?? 1), 0);
    return sum + (count / pool.length) ** 2 * shared;
  }, 0);
  return fixed + draws + passages;
}
