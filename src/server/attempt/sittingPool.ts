import { createHmac } from 'node:crypto';
import { desc, eq } from 'drizzle-orm';
import type { Instant } from '@/core/base/time';
import type { ExamDesign } from '@/core/exam/design';
import { drawPaper } from '@/core/exam/drawPaper';
import { type DrawPlan, planDraw } from '@/core/exam/drawPlan';
import { neededFor, type PoolSnapshot } from '@/core/exam/snapshot';
import type { Db, Tx } from '@/db/client';
import { poolSnapshot } from '@/db/schema';
import { courseSnapshot } from '../bank/courseSnapshot';
import { newId } from '../house/context';
import { installationSecret } from '../house/installation';
import type { SittingRow } from '../records/audience';
import { pinnedDesign } from '../records/pinnedDesign';

/** The seed of one attempt's paper: from a secret of the installation, so that nobody can foretell a paper. */
export const paperSeed = (db: Db, sittingId: string, userId: string, number: number): string =>
  createHmac('sha256', installationSecret(db)).update(`${sittingId}/${userId}/${number}`).digest('hex');

type Pool = { id: string; snapshot: PoolSnapshot; design: ExamDesign; plan: DrawPlan };

const keptPools = new Map<string, Pool>();

/**
 * The questions a sitting draws from: fixed by its first attempt, the same ever after.
 *
 * @param fix whether they are fixed now if they are not; without it nothing is stored
 */
export function poolOf(tx: Db | Tx, db: Db, row: SittingRow, now: Instant, fix = true): Pool {
  const head = tx
    .select({ id: poolSnapshot.id })
    .from(poolSnapshot)
    .where(eq(poolSnapshot.sittingId, row.id))
    .orderBy(desc(poolSnapshot.takenAt))
    .get();
  const key = `${head?.id}/${row.revisionId}`;
  const kept = head && keptPools.get(key);
  if (kept) return kept;
  const design = pinnedDesign(db, row.revisionId);
  if (head) {
    const stored = tx.select().from(poolSnapshot).where(eq(poolSnapshot.id, head.id)).get();
    const snapshot = stored?.snapshot ?? { entries: [] };
    const pool = { id: head.id, snapshot, design, plan: planDraw(design, snapshot) };
    if (keptPools.size > 20) keptPools.clear();
    keptPools.set(key, pool);
    return pool;
  }
  if (!fix) return unfixed(db, row, now);
  const { snapshot, plan } = unfixed(tx, row, now);
  const id = newId();
  tx.insert(poolSnapshot).values({ id, sittingId: row.id, takenAt: now, snapshot }).run();
  return { id, snapshot, design, plan };
}

function unfixed(db: Db | Tx, row: SittingRow, now: Instant): Pool {
  const design = pinnedDesign(db, row.revisionId);
  const snapshot = snapshotFor(db, design, row, now);
  return { id: '', snapshot, design, plan: planDraw(design, snapshot) };
}

/**
 * The questions in use today; with the retired ones only where a question retired after the sitting was scheduled would
 * leave students without a paper.
 */
function snapshotFor(tx: Db | Tx, design: ExamDesign, { courseId, examId }: SittingRow, now: Instant): PoolSnapshot {
  const inUse = neededFor(design, courseSnapshot(tx, courseId, { design, examId, now }).snapshot);
  return drawPaper(design, inUse, 'can a paper be drawn?')
    ? inUse
    : neededFor(design, courseSnapshot(tx, courseId, { design, examId, now, withRetired: true }).snapshot);
}
