import { and, eq, type SQL, sql } from 'drizzle-orm';
import type { Instant } from '@/core/base/time';
import { choosePartsOf } from '@/core/exam/paperRules';
import { type AttemptScore, attemptScore } from '@/core/marking/attemptScore';
import type { Db, Tx } from '@/db/client';
import { attempt, mark, paperSlot, sitting } from '@/db/schema';
import { pinnedDesign } from '../exam/pinnedDesign';

/** Joins a slot to the newest of its marks, the one that counts: none where the response it judged has changed since. */
export const newestMark: SQL = sql`${mark.id} = (select max(m.id) from mark m where m.slot_id = ${paperSlot.id} and m.outdated = 0)`;

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
  const which = and(
    eq(attempt.state, 'handed-in'),
    eq(sitting.scored, true),
    'sittingId' in where ? eq(attempt.sittingId, where.sittingId) : eq(sitting.courseId, where.courseId),
  );
  const attempts = db
    .select({
      attemptId: attempt.id,
      sittingId: attempt.sittingId,
      userId: attempt.userId,
      number: attempt.number,
      revisionId: attempt.revisionId,
      startedAt: attempt.startedAt,
      endedAt: attempt.endedAt,
    })
    .from(attempt)
    .innerJoin(sitting, eq(sitting.id, attempt.sittingId))
    .where(which)
    .all();
  // A course has tens of thousands of slots: they come as bare values, without what each attempt says once.
  const slots = db
    .select({
      attemptId: paperSlot.attemptId,
      partId: paperSlot.partId,
      slotPoints: paperSlot.points,
      points: mark.points,
    })
    .from(attempt)
    .innerJoin(sitting, eq(sitting.id, attempt.sittingId))
    .innerJoin(paperSlot, eq(paperSlot.attemptId, attempt.id))
    .leftJoin(mark, newestMark)
    .where(which)
    .values() as [attemptId: string, partId: string, slotPoints: number, points: number | null][];
  const byAttempt = new Map<string, { partId: string; slotPoints: number; points: number | null }[]>();
  for (const [attemptId, partId, slotPoints, points] of slots) {
    const own = byAttempt.get(attemptId);
    if (own) own.push({ partId, slotPoints, points });
    else byAttempt.set(attemptId, [{ partId, slotPoints, points }]);
  }
  return attempts.flatMap(({ revisionId, endedAt, ...one }) => {
    const own = byAttempt.get(one.attemptId);
    if (!own) return [];
    const score = attemptScore(own, choosePartsOf(pinnedDesign(db, revisionId)));
    return [{ ...one, endedAt: endedAt ?? one.startedAt, score }];
  });
}
