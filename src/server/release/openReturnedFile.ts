import { and, eq, isNull } from 'drizzle-orm';
import { id } from '@/core/base/id';
import { notFound, ok, type Result } from '@/core/base/result';
import { attempt, paperSlot, returnedFile, sitting } from '@/db/schema';
import { askedWithin } from '../house/askedWithin';
import { query } from '../house/useCase';
import { toMarking } from '../marking/toMarking';
import { releaseFactsFor, shownTo, whomIn } from './releaseFacts';

/**
 * An annotated file: for those who mark the sitting, and for its student once the marker's comments are released. To
 * everyone else it does not exist.
 */
export const openReturnedFile = query({
  admits: askedWithin('who marks its sitting, and the student whose answer it belongs to'),
  takes: [id('file')],
  does({ context, db, actor, now }, fileId): Result<{ name: string; bytes: number; hash: string }> {
    const row = db
      .select({ file: returnedFile, userId: attempt.userId, sitting })
      .from(returnedFile)
      .innerJoin(paperSlot, eq(paperSlot.id, returnedFile.slotId))
      .innerJoin(attempt, eq(attempt.id, paperSlot.attemptId))
      .innerJoin(sitting, eq(sitting.id, attempt.sittingId))
      .where(and(eq(returnedFile.id, fileId), isNull(returnedFile.takenBackAt)))
      .get();
    if (!row) return notFound('file');
    const { name, bytes, hash } = row.file;
    if (row.userId === actor.userId) {
      const whom = whomIn(db, row.sitting, actor.userId);
      const shown = whom && shownTo(db, row.sitting, releaseFactsFor(db, row.sitting, whom, whom.timeZone, now), now);
      return shown?.visible.has('comments') ? ok({ name, bytes, hash }) : notFound('file');
    }
    const marking = toMarking.open(context, row.sitting.courseId);
    return marking.ok && marking.value.mayMark(row.sitting.id) ? ok({ name, bytes, hash }) : notFound('file');
  },
});
