import { eq } from 'drizzle-orm';
import { grouped } from '@/core/base/grouped';
import type { AttemptsSoFar } from '@/core/sitting/clock';
import { noAttempts } from '@/core/sitting/clock';
import type { Db, Tx } from '@/db/client';
import { attempt } from '@/db/schema';
import { type AudienceMember, audienceOf, type SittingRow } from './audience';

type AttemptFacts = Pick<typeof attempt.$inferSelect, 'state' | 'startedAt' | 'endedAt' | 'added'>;

/** What has happened so far, from the attempts of one student in one sitting; voided ones never count. */
export function soFarOf(attempts: readonly AttemptFacts[]): AttemptsSoFar {
  const own = attempts.filter((one) => one.state !== 'voided');
  if (own.length === 0) return noAttempts;
  const running = own.find((one) => one.state === 'running');
  const ends = own.flatMap((one) => one.endedAt ?? []);
  return {
    running: running ? { startedAt: running.startedAt, added: running.added } : null,
    used: own.length,
    lastEnded: ends.length ? Math.max(...ends) : null,
  };
}

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
