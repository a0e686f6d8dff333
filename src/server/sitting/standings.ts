import { eq } from 'drizzle-orm';
import { grouped } from '@/core/base/grouped';
import { type AttemptsSoFar, soFarOf } from '@/core/sitting/clock';
import type { Db, Tx } from '@/db/client';
import { attempt } from '@/db/schema';
import { type AudienceMember, audienceOf, type SittingRow } from '../records/audience';

/** Everyone a sitting is given to, with what has happened so far. */
export function standingsOf(db: Db | Tx, row: SittingRow): (AudienceMember & { soFar: AttemptsSoFar })[] {
  const rows = db
    .select({
      userId: attempt.userId,
      state: attempt.state,
      startedAt: attempt.startedAt,
      endedAt: attempt.endedAt,
      added: attempt.added,
    })
    .from(attempt)
    .where(eq(attempt.sittingId, row.id))
    .all();
  const byUser = grouped(rows, (one) => one.userId);
  return audienceOf(db, row).map((student) => ({ ...student, soFar: soFarOf(byUser.get(student.userId) ?? []) }));
}
