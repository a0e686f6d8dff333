import { eq } from 'drizzle-orm';
import { notFound, ok, type Result, refused } from '@/core/base/result';
import { dayOf, localDay, sittingLater } from '@/core/sitting/teachingWeeks';
import { markerAssignment, sitting, sittingAudience } from '@/db/schema';
import { examWithRevision } from '../exam/exams';
import { record } from '../house/audit';
import { type Context, newId } from '../house/context';
import { admit } from '../people/permission';
import { sittingOf } from './audience';

/**
 * Begins a sitting from an earlier one: the same exam in its newest revision, the same people, rules and markers, and every
 * date as many days later as its first is to be. What was arranged for single students stays with the earlier one.
 *
 * @param firstDay the day on which the new one opens (or, without an opening, its first date falls), `2027-02-15`
 */
export function giveAgain(
  context: Context,
  courseId: string,
  sittingId: string,
  firstDay: string,
): Result<{ sittingId: string }> {
  const admitted = admit(context, courseId, 'sitting.change');
  if (!admitted.ok) return admitted;
  const { timeZone } = admitted.value;
  const day = dayOf(firstDay);
  if (day === null) return refused('bad-input', 'Say on which day it opens.', 'firstDay');
  return context.db.transaction(
    (tx): Result<{ sittingId: string }> => {
      const row = sittingOf(tx, courseId, sittingId);
      const found = row && examWithRevision(tx, courseId, row.examId);
      if (!row || !found) return notFound('sitting');
      if (found.exam.archivedAt !== null)
        return refused('conflict', 'This exam is archived: bring it back before it is given.');
      const { opens, lastStart, due, closes } = row;
      const set = [opens, lastStart, due, closes].filter((at) => at !== null);
      const days = set.length ? day - localDay(opens ?? Math.min(...set), timeZone) : 0;
      const id = newId();
      tx.insert(sitting)
        .values({
          ...row,
          ...sittingLater({ opens, lastStart, due, closes }, days, timeZone),
          id,
          revisionId: found.revision.id,
          state: 'draft',
          createdBy: context.actor.userId,
          createdAt: context.now,
        })
        .run();
      for (const one of tx.select().from(sittingAudience).where(eq(sittingAudience.sittingId, sittingId)).all())
        tx.insert(sittingAudience)
          .values({ ...one, sittingId: id })
          .run();
      for (const one of tx.select().from(markerAssignment).where(eq(markerAssignment.sittingId, sittingId)).all())
        tx.insert(markerAssignment)
          .values({ ...one, sittingId: id })
          .run();
      record(tx, context, { action: 'sitting.again', courseId, subjectId: id, detail: { from: sittingId, days } });
      return ok({ sittingId: id });
    },
    { behavior: 'immediate' },
  );
}
