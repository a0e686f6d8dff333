import { and, asc, eq, inArray } from 'drizzle-orm';
import { grouped } from '@/core/base/grouped';
import type { Instant } from '@/core/base/time';
import type { RemarkingPolicy } from '@/core/marking/remarkingPolicy';
import type { Db, Tx } from '@/db/client';
import { attempt, mark, paperAdjustment, paperSlot, remarking, response, sitting } from '@/db/schema';
import { newestMark } from '../records/newestMarks';

/** A place on a paper with what was answered there and the mark that is told. */
export type MarkedSlot = {
  slot: typeof paperSlot.$inferSelect;
  value: unknown;
  newest: typeof mark.$inferSelect | null;
  /** The version whose key judges the answer: the paper's own, or that by which the question was marked anew. */
  judgeId: string;
  /** By which rule the mark was given anew, or that marking anew left it as it was; null where the question was not. */
  anew: RemarkingPolicy | 'unchanged' | null;
};

/**
 * The papers of attempts, each in its order, by the attempts' ids, with the newest mark of each place.
 *
 * @param publishedAt for attempts whose published result has changed since: when it was published. Where a mark has other
 * points now than it had then, the one of then is told: what was published is not altered until it is published anew. A
 * comment that was written anew is told at once.
 */
export function markedSlots(
  db: Db | Tx,
  attemptIds: readonly string[],
  publishedAt: ReadonlyMap<string, Instant> = new Map(),
): Map<string, MarkedSlot[]> {
  if (attemptIds.length === 0) return new Map();
  const then = publishedAt.size ? marksThen(db, publishedAt) : new Map<string, MarkedSlot['newest']>();
  const rows = db
    .select({
      slot: paperSlot,
      value: response.value,
      newest: mark,
      sittingId: attempt.sittingId,
      courseId: sitting.courseId,
    })
    .from(paperSlot)
    .innerJoin(attempt, eq(attempt.id, paperSlot.attemptId))
    .innerJoin(sitting, eq(sitting.id, attempt.sittingId))
    .leftJoin(response, eq(response.slotId, paperSlot.id))
    .leftJoin(mark, newestMark)
    .where(inArray(paperSlot.attemptId, [...attemptIds]))
    .orderBy(asc(paperSlot.attemptId), asc(paperSlot.position))
    .all()
    .map((row) => {
      const before = then.get(row.slot.id);
      const same = before?.points === row.newest?.points && before?.kind === row.newest?.kind;
      return before && !same ? { ...row, newest: before } : row;
    });
  const remarkings = remarkingsOf(db, rows);
  const explained = rows.map(({ sittingId, courseId, ...row }): MarkedSlot => {
    const until = publishedAt.get(row.slot.attemptId) ?? Number.POSITIVE_INFINITY;
    const last = remarkings
      .get(row.slot.questionId)
      ?.findLast(
        (one) =>
          one.courseId === courseId &&
          (one.sittingIds?.includes(sittingId) ?? true) &&
          one.at <= until &&
          (one.takenBackAt === null || one.takenBackAt > until),
      );
    const made = last && (row.newest?.batch === last.id ? last.policy : 'unchanged');
    return { ...row, judgeId: last?.versionId ?? row.slot.versionId, anew: made ?? null };
  });
  return grouped(explained, ({ slot }) => slot.attemptId);
}

/** How the questions of some places were marked anew, by question, the earliest first. */
function remarkingsOf(db: Db | Tx, rows: readonly Pick<MarkedSlot, 'slot'>[]) {
  const found = db
    .select()
    .from(remarking)
    .where(inArray(remarking.questionId, [...new Set(rows.map(({ slot }) => slot.questionId))]))
    .orderBy(asc(remarking.at))
    .all();
  return grouped(found, (one) => one.questionId);
}

/**
 * What was added to or taken from papers, by the attempts' ids: the newest adjustment of each.
 *
 * @param publishedAt as for {@link markedSlots}: those attempts have the adjustment that they had at that moment
 */
export function paperAdjustments(
  db: Db | Tx,
  attemptIds: readonly string[],
  publishedAt: ReadonlyMap<string, Instant> = new Map(),
): Map<string, { points: number; reason: string }> {
  if (attemptIds.length === 0) return new Map();
  const rows = db
    .select()
    .from(paperAdjustment)
    .where(inArray(paperAdjustment.attemptId, [...attemptIds]))
    .orderBy(asc(paperAdjustment.id))
    .all()
    .filter((row) => row.at <= (publishedAt.get(row.attemptId) ?? Number.POSITIVE_INFINITY));
  return new Map(rows.map(({ attemptId, points, reason }) => [attemptId, { points, reason }]));
}

/** The mark of each place as it counted at a moment of its attempt. A mark of an answer that has changed since is none. */
function marksThen(db: Db | Tx, moments: ReadonlyMap<string, Instant>): Map<string, MarkedSlot['newest']> {
  const marks = db
    .select({ attemptId: paperSlot.attemptId, one: mark })
    .from(mark)
    .innerJoin(paperSlot, eq(paperSlot.id, mark.slotId))
    .where(and(inArray(paperSlot.attemptId, [...moments.keys()]), eq(mark.outdated, false)))
    .orderBy(asc(mark.id))
    .all();
  const then = new Map<string, MarkedSlot['newest']>();
  for (const { attemptId, one } of marks) {
    const moment = moments.get(attemptId) ?? 0;
    if (one.at <= moment && (one.takenBackAt === null || one.takenBackAt > moment)) then.set(one.slotId, one);
  }
  return then;
}
