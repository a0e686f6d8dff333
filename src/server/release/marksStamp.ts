import { and, count, eq, max } from 'drizzle-orm';
import type { Db } from '@/db/client';
import { attempt, audit, mark, sitting } from '@/db/schema';

/**
 * Differs whenever results of a course may: every hand-in adds marks or ends an attempt, everything else that moves a
 * result is in the log.
 */
export function marksStamp(db: Db, courseId: string): string {
  const marks = db
    .select({ last: max(mark.id) })
    .from(mark)
    .get();
  const log = db
    .select({ last: max(audit.id) })
    .from(audit)
    .where(eq(audit.courseId, courseId))
    .get();
  const ended = db
    .select({ n: count() })
    .from(attempt)
    .innerJoin(sitting, eq(sitting.id, attempt.sittingId))
    .where(and(eq(sitting.courseId, courseId), eq(attempt.state, 'handed-in')))
    .get();
  return [marks?.last, log?.last, ended?.n].join();
}
