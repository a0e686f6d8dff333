import { and, eq, type SQL, sql } from 'drizzle-orm';
import type { Instant } from '@/core/base/time';
import { choosePartsOf } from '@/core/exam/paperRules';
import { type AttemptScore, attemptScore } from '@/core/marking/attemptScore';
import type { Db, Tx } from '@/db/client';
import { attempt, mark, paperSlot, sitting } from '@/db/schema';
import { pinnedDesign } from '../exam/pinnedDesign';

/** Joins a slot to the newest of its marks, the one that counts. */
export const newestMark: SQL = sql`${mark.id} = (select max(m.id) from mark m where m.slot_id = ${paperSlot.id})`;

export type AttemptInSitting = {
  attemptId: string;
  sittingId: string;
  userId: string;
  number: number;
  startedAt: Instant;
  endedAt: Instant;
  score: AttemptScore;
};

/**
 * The handed-in attempts of scored sittings with their scores as the marks stand. Voided ones never count, anonymous ones
 * have no paper left.
 */
export function scoredAttempts(db: Db | Tx, where: { sittingId: string } | { courseId: string }): AttemptInSitting[] {
  const rows = db
    .select({
      attemptId: attempt.id,
      sittingId: attempt.sittingId,
      userId: attempt.userId,
      number: attempt.number,
      revisionId: attempt.revisionId,
      partId: paperSlot.partId,
      startedAt: attempt.startedAt,
      endedAt: attempt.endedAt,
      slotPoints: paperSlot.points,
      points: mark.points,
    })
    .from(attempt)
    .innerJoin(sitting, eq(sitting.id, attempt.sittingId))
    .innerJoin(paperSlot, eq(paperSlot.attemptId, attempt.id))
    .leftJoin(mark, newestMark)
    .where(
      and(
        eq(attempt.state, 'handed-in'),
        eq(sitting.scored, true),
        'sittingId' in where ? eq(attempt.sittingId, where.sittingId) : eq(sitting.courseId, where.courseId),
      ),
    )
    .all();
  const byAttempt = new Map<string, typeof rows>();
  for (const row of rows) {
    const own = byAttempt.get(row.attemptId);
    if (own) own.push(row);
    else byAttempt.set(row.attemptId, [row]);
  }
  return [...byAttempt.values()].map((slots) => {
    const { slotPoints, points, endedAt, partId, revisionId, ...first } = slots[0] as (typeof rows)[number];
    return {
      ...first,
      endedAt: endedAt ?? first.startedAt,
      score: attemptScore(slots, choosePartsOf(pinnedDesign(db, revisionId))),
    };
  });
}
