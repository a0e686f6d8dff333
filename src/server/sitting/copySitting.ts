import { randomBytes } from 'node:crypto';
import { and, eq, gt, or } from 'drizzle-orm';
import { z } from 'zod';
import { notFound, ok, type Result, refused } from '@/core/base/result';
import { planLater, selfLater } from '@/core/release/planShift';
import { dayOf, laterByDays, localDay, sittingLater } from '@/core/sitting/teachingWeeks';
import type { Tx } from '@/db/client';
import { arrangement, attempt, markerAssignment, section, sitting, sittingAudience } from '@/db/schema';
import { examWithRevision } from '../exam/toExam';
import { newId } from '../house/context';
import { command } from '../house/useCase';
import { audienceOf, type SittingRow } from '../records/audience';
import { toSitting } from './toSitting';

/**
 * Begins a sitting from an earlier one: the same exam in its newest revision, the same people, rules and markers, and every
 * date as many days later as its first is to be. More time that was arranged for single students goes along; their own dates,
 * codes, networks and excuses belong to the earlier one.
 *
 * @param whom the same people; one section; or those of them who have handed nothing in, for a make-up
 * @param firstDay the day on which the new one opens (or, without an opening, its first date falls), `2027-02-15`
 */
export const giveAgain = command({
  admits: toSitting('sitting.change'),
  takes: [z.string(), z.string().default('same')],
  logs: 'sitting.again',
  does(
    { tx, courseId, record, context, timeZone, sittingId, sitting: row },
    firstDay,
    whom,
  ): Result<{ sittingId: string }> {
    const day = dayOf(firstDay);
    if (day === null) return refused('bad-input', 'Say on which day it opens.', 'firstDay');
    const found = examWithRevision(tx, courseId, row.examId);
    if (!found) return notFound('sitting');
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
        // Whoever was not there writes what a round asked as an exam with dates.
        isRound: false,
        acknowledged: null,
        releasePlan: planLater(row.releasePlan, (at) => laterByDays(at, days, timeZone)),
        selfPublish: selfLater(row.selfPublish, (at) => laterByDays(at, days, timeZone)),
        ...(whom === 'same'
          ? {}
          : {
              title: `${row.title}, ${whom === 'missing' ? 'make-up' : (sectionName(tx, courseId, whom) ?? 'another section')}`,
            }),
        createdBy: context.actor.userId,
        createdAt: context.now,
      })
      .run();
    const given = audienceFor(tx, row, whom, id);
    if (!given.ok) return given;
    if (given.value.length) tx.insert(sittingAudience).values(given.value).run();
    for (const one of tx.select().from(markerAssignment).where(eq(markerAssignment.sittingId, sittingId)).all())
      tx.insert(markerAssignment)
        .values({ ...one, sittingId: id })
        .run();
    takeTimeAlong(tx, sittingId, id);
    record({ subjectId: id, detail: { from: sittingId, days } });
    return ok({ sittingId: id });
  },
});

/** More time is a need of the student, not of the day: whoever has it in one sitting has it in the next. */
function takeTimeAlong(tx: Tx, from: string, sittingId: string): void {
  const rows = tx
    .select()
    .from(arrangement)
    .where(and(eq(arrangement.sittingId, from), or(gt(arrangement.extraPercent, 0), gt(arrangement.extraMinutes, 0))))
    .all();
  if (rows.length === 0) return;
  tx.insert(arrangement)
    .values(rows.map(({ userId, extraPercent, extraMinutes }) => ({ sittingId, userId, extraPercent, extraMinutes })))
    .run();
}

const sectionName = (tx: Tx, courseId: string, sectionId: string): string | undefined =>
  tx
    .select({ name: section.name })
    .from(section)
    .where(and(eq(section.id, sectionId), eq(section.courseId, courseId)))
    .get()?.name;

/** Whom the new sitting is given to. A link is never the same twice: the old one leads to the old sitting. */
function audienceFor(
  tx: Tx,
  row: SittingRow,
  whom: string,
  sittingId: string,
): Result<(typeof sittingAudience.$inferInsert)[]> {
  if (whom === 'same')
    return ok(
      tx
        .select()
        .from(sittingAudience)
        .where(eq(sittingAudience.sittingId, row.id))
        .all()
        .filter((one) => one.kind !== 'door')
        .map((one) => ({
          ...one,
          sittingId,
          refId: one.kind === 'link' ? randomBytes(18).toString('base64url') : one.refId,
        })),
    );
  if (whom !== 'missing')
    return sectionName(tx, row.courseId, whom) === undefined
      ? notFound('section')
      : ok([{ sittingId, kind: 'section', refId: whom }]);
  const handedIn = new Set(
    tx
      .select({ userId: attempt.userId })
      .from(attempt)
      .where(and(eq(attempt.sittingId, row.id), eq(attempt.state, 'handed-in')))
      .all()
      .map((one) => one.userId),
  );
  const missing = audienceOf(tx, row).filter(
    (student) => !handedIn.has(student.userId) && !student.arrangement.excused,
  );
  if (missing.length === 0) return refused('conflict', 'Everyone has handed in: nobody needs a make-up.', 'whom');
  return ok(missing.map((student) => ({ sittingId, kind: 'student', refId: student.userId })));
}
