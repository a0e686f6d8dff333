import { and, asc, eq, isNull, or, sql } from 'drizzle-orm';
import type { Instant } from '@/core/base/time';
import type { Db } from '@/db/client';
import { preparedOnce } from '@/db/preparedOnce';
import { correction, paperSlot, sittingNote } from '@/db/schema';
import type { RunningAttempt } from '../records/audience';

/** Something a student is told while they write: to the room, to them, or about a question of their paper. */
export type Notice = {
  id: string;
  at: Instant;
  text: string;
  /** The slot of the question it corrects; null where it is a message. */
  slotId: string | null;
};

const messages = preparedOnce((db) =>
  db
    .select({ id: sittingNote.id, at: sittingNote.at, text: sittingNote.text })
    .from(sittingNote)
    .where(
      and(
        eq(sittingNote.sittingId, sql.placeholder('sittingId')),
        eq(sittingNote.kind, 'message'),
        or(isNull(sittingNote.userId), eq(sittingNote.userId, sql.placeholder('userId'))),
      ),
    )
    .orderBy(asc(sittingNote.id))
    .prepare(),
);

const corrections = preparedOnce((db) =>
  db
    .select({ id: correction.id, at: correction.at, text: correction.text, slotId: paperSlot.id })
    .from(correction)
    .innerJoin(
      paperSlot,
      and(eq(paperSlot.versionId, correction.versionId), eq(paperSlot.attemptId, sql.placeholder('attemptId'))),
    )
    .where(and(eq(correction.sittingId, sql.placeholder('sittingId')), isNull(correction.withdrawnAt)))
    .orderBy(asc(correction.at))
    .prepare(),
);

/** What the student of an attempt has been told so far: messages since it started, and corrections of their questions. */
export function noticesFor(db: Db, { attempt, sitting }: RunningAttempt): Notice[] {
  const told = messages(db)
    .all({ sittingId: sitting.id, userId: attempt.userId })
    .filter((one) => one.at >= attempt.startedAt)
    .map((one): Notice => ({ ...one, id: `m${one.id}`, slotId: null }));
  const corrected = corrections(db).all({ sittingId: sitting.id, attemptId: attempt.id });
  return [...told, ...corrected].sort((a, b) => a.at - b.at);
}
