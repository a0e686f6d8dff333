import { and, asc, eq, inArray } from 'drizzle-orm';
import { grouped } from '@/core/base/grouped';
import type { Instant } from '@/core/base/time';
import type { Db, Tx } from '@/db/client';
import { mark, paperSlot, response } from '@/db/schema';
import { newestMark } from '../records/newestMarks';

/** A place on a paper with what was answered there and the mark that is told. */
export type MarkedSlot = {
  slot: typeof paperSlot.$inferSelect;
  value: unknown;
  newest: typeof mark.$inferSelect | null;
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
    .select({ slot: paperSlot, value: response.value, newest: mark })
    .from(paperSlot)
    .leftJoin(response, eq(response.slotId, paperSlot.id))
    .leftJoin(mark, newestMark)
    .where(inArray(paperSlot.attemptId, [...attemptIds]))
    .orderBy(asc(paperSlot.attemptId), asc(paperSlot.position))
    .all()
    .map((row): MarkedSlot => {
      const before = then.get(row.slot.id);
      const same = before?.points === row.newest?.points && before?.kind === row.newest?.kind;
      return before && !same ? { ...row, newest: before } : row;
    });
  return grouped(rows, ({ slot }) => slot.attemptId);
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
