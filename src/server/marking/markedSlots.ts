import { asc, eq, inArray } from 'drizzle-orm';
import { grouped } from '@/core/base/grouped';
import type { Db, Tx } from '@/db/client';
import { mark, paperSlot, response } from '@/db/schema';
import { newestMark } from './newestMarks';

/** A place on a paper with what was answered there and its newest mark. */
export type MarkedSlot = {
  slot: typeof paperSlot.$inferSelect;
  value: unknown;
  newest: typeof mark.$inferSelect | null;
};

/** The papers of attempts, each in its order, by the attempts' ids: one statement for all. */
export function markedSlots(db: Db | Tx, attemptIds: readonly string[]): Map<string, MarkedSlot[]> {
  if (attemptIds.length === 0) return new Map();
  const rows = db
    .select({ slot: paperSlot, value: response.value, newest: mark })
    .from(paperSlot)
    .leftJoin(response, eq(response.slotId, paperSlot.id))
    .leftJoin(mark, newestMark)
    .where(inArray(paperSlot.attemptId, [...attemptIds]))
    .orderBy(asc(paperSlot.attemptId), asc(paperSlot.position))
    .all();
  return grouped(rows, ({ slot }) => slot.attemptId);
}
