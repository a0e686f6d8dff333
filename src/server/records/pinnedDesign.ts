import { eq } from 'drizzle-orm';
import type { ExamDesign } from '@/core/exam/design';
import type { Db, Tx } from '@/db/client';
import { examRevision } from '@/db/schema';

const kept = new Map<string, ExamDesign>();
const mostKept = 200;

/**
 * The design of a revision that a scheduled sitting pins. Pinned revisions are frozen, so that they may be kept in memory.
 *
 * @throws when the revision does not exist, which the database's foreign keys rule out
 */
export function pinnedDesign(db: Db | Tx, revisionId: string): ExamDesign {
  const known = kept.get(revisionId);
  if (known) return known;
  const row = db.select().from(examRevision).where(eq(examRevision.id, revisionId)).get();
  if (!row) throw new Error(`There is no revision ${revisionId}.`);
  if (row.frozenAt !== null) {
    if (kept.size >= mostKept) kept.clear();
    kept.set(revisionId, row.design);
  }
  return row.design;
}
