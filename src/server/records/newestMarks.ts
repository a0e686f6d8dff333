import { and, asc, eq, type SQL, sql } from 'drizzle-orm';
import type { Instant } from '@/core/base/time';
import { choosePartsOf } from '@/core/exam/paperRules';
import { type AttemptScore, attemptScore, type SlotMark } from '@/core/marking/attemptScore';
import type { MarkKind } from '@/core/marking/marks';
import type { Db, Tx } from '@/db/client';
import { attempt, mark, paperAdjustment, paperSlot, sitting } from '@/db/schema';
import { pinnedDesign } from './pinnedDesign';

/**
 * The id of the mark of a slot that counts: the newest that has not been taken back, and whose response has not changed
 * since.
 *
 * @param slotId the slot, as it is called in the statement around it
 */
export const newestMarkId = (slotId: SQL): SQL =>
  sql`(select max(m.id) from mark m where m.slot_id = ${slotId} and m.outdated = 0 and m.taken_back_at is null)`;

/** Joins a slot to the mark that counts. */
export const newestMark: SQL = sql`${mark.id} = ${newestMarkId(sql`${paperSlot.id}`)}`;

/** Attempts of a sitting, of one student there, or of a whole course. */
type Where = { sittingId: string; userId?: string } | { courseId: string };

/** The points added to or taken from papers, by attempt: the newest adjustment of each. */
function adjustmentsOf(db: Db | Tx, where: Where): Map<string, number> {
  const rows = db
    .select({ attemptId: paperAdjustment.attemptId, points: paperAdjustment.points })
    .from(paperAdjustment)
    .innerJoin(attempt, eq(attempt.id, paperAdjustment.attemptId))
    .innerJoin(sitting, eq(sitting.id, attempt.sittingId))
    .where('sittingId' in where ? eq(attempt.sittingId, where.sittingId) : eq(sitting.courseId, where.courseId))
    .orderBy(asc(paperAdjustment.id))
    .all();
  return new Map(rows.map((row) => [row.attemptId, row.points]));
}

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
 *
 * @param instead what the slots named here would earn instead of their marks, null where they would be left out
 */
export function scoredAttempts(
  db: Db | Tx,
  where: Where,
  instead: ReadonlyMap<string, number | null> = new Map(),
): AttemptInSitting[] {
  const which = and(
    eq(attempt.state, 'handed-in'),
    eq(sitting.scored, true),
    'sittingId' in where ? eq(attempt.sittingId, where.sittingId) : eq(sitting.courseId, where.courseId),
    'userId' in where && where.userId !== undefined ? eq(attempt.userId, where.userId) : undefined,
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
      kind: mark.kind,
      slotId: paperSlot.id,
    })
    .from(attempt)
    .innerJoin(sitting, eq(sitting.id, attempt.sittingId))
    .innerJoin(paperSlot, eq(paperSlot.attemptId, attempt.id))
    .leftJoin(mark, newestMark)
    .where(which)
    .values() as [
    attemptId: string,
    partId: string,
    slotPoints: number,
    points: number | null,
    kind: MarkKind | null,
    slotId: string,
  ][];
  const byAttempt = new Map<string, SlotMark[]>();
  for (const [attemptId, partId, slotPoints, marked, kind, slotId] of slots) {
    const other = instead.get(slotId);
    const slot: SlotMark = {
      partId,
      slotPoints,
      points: other === undefined ? marked : other,
      leftOut: other === undefined ? kind === 'left-out' : other === null,
    };
    const own = byAttempt.get(attemptId);
    if (own) own.push(slot);
    else byAttempt.set(attemptId, [slot]);
  }
  const adjustments = adjustmentsOf(db, where);
  return attempts.flatMap(({ revisionId, endedAt, ...one }) => {
    const own = byAttempt.get(one.attemptId);
    if (!own) return [];
    const score = attemptScore(own, choosePartsOf(pinnedDesign(db, revisionId)), adjustments.get(one.attemptId));
    return [{ ...one, endedAt: endedAt ?? one.startedAt, score }];
  });
}
