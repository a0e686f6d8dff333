import { and, eq, inArray, isNull, sql } from 'drizzle-orm';
import { ok, type Result } from '@/core/base/result';
import type { Instant } from '@/core/base/time';
import { stemLine } from '@/core/question/content';
import { typesMarkedByHand } from '@/core/question/definitions';
import type { Db } from '@/db/client';
import { attempt, mark, markerAssignment, paperSlot, question, questionVersion, sitting, user } from '@/db/schema';
import type { Context } from '../house/context';
import { keptWhile } from '../house/keptWhile';
import { query } from '../house/useCase';
import { newestMark } from '../records/newestMarks';
import { stateStamp } from '../records/stateStamp';
import { toMarking } from './toMarking';

export type QueueRow = {
  sittingId: string;
  sittingTitle: string;
  questionId: string;
  questionName: string;
  waiting: number;
  marked: number;
  /** When the answer that has waited longest was handed in; null where none waits. */
  oldest: Instant | null;
  /** Who is asked to mark in this sitting besides the instructors. */
  markers: string[];
};

/** Every question of the course that has answers to be marked by hand, with how many wait. */
export const markingQueue = query({
  admits: toMarking,
  does({ courseId, mayMark, context }): Result<QueueRow[]> {
    const rows = context.db
      .select({
        sittingId: sitting.id,
        sittingTitle: sitting.title,
        questionId: paperSlot.questionId,
        shortName: question.shortName,
        content: questionVersion.content,
        waiting: sql<number>`sum(case when ${mark.id} is null then 1 else 0 end)`,
        marked: sql<number>`sum(case when ${mark.kind} in ('hand', 'adjusted', 'settled') then 1 else 0 end)`,
        oldest: sql<number | null>`min(case when ${mark.id} is null then ${attempt.endedAt} end)`,
      })
      .from(paperSlot)
      .innerJoin(attempt, eq(attempt.id, paperSlot.attemptId))
      .innerJoin(sitting, eq(sitting.id, attempt.sittingId))
      .innerJoin(question, eq(question.id, paperSlot.questionId))
      .innerJoin(questionVersion, eq(questionVersion.id, question.currentVersionId))
      .leftJoin(mark, newestMark)
      .where(
        and(
          eq(sitting.courseId, courseId),
          eq(sitting.scored, true),
          eq(attempt.state, 'handed-in'),
          inArray(question.type, typesMarkedByHand),
        ),
      )
      .groupBy(sitting.id, paperSlot.questionId)
      .orderBy(sitting.closes, sitting.title, question.createdAt)
      .all();
    const markers = markersOf(context.db, courseId);
    return ok(
      rows
        .filter((row) => row.waiting + row.marked > 0 && mayMark(row.sittingId))
        .map(({ shortName, content, ...row }) => ({
          ...row,
          questionName: shortName || stemLine(content),
          markers: markers.get(row.sittingId) ?? [],
        })),
    );
  },
});

/** The names of the markers of each sitting of a course. */
function markersOf(db: Db, courseId: string): Map<string, string[]> {
  const rows = db
    .select({ sittingId: markerAssignment.sittingId, name: user.name })
    .from(markerAssignment)
    .innerJoin(user, eq(user.id, markerAssignment.userId))
    .innerJoin(sitting, eq(sitting.id, markerAssignment.sittingId))
    .where(eq(sitting.courseId, courseId))
    .orderBy(user.name)
    .all();
  const bySitting = new Map<string, string[]>();
  for (const { sittingId, name } of rows) bySitting.set(sittingId, [...(bySitting.get(sittingId) ?? []), name]);
  return bySitting;
}

/** How many answers wait for a mark by hand from this person in a course; 0 for those who do not mark. */
export function waitingForMarks(context: Context, courseId: string): number {
  const marking = toMarking.open(context, courseId);
  if (!marking.ok) return 0;
  const waiting = keptWaiting(context.db, courseId, stateStamp, () => waitingBySitting(context.db, courseId));
  return waiting.reduce((sum, row) => sum + (marking.value.mayMark(row.sittingId) ? row.n : 0), 0);
}

/** Every page of a course says how many wait. */
const keptWaiting = keptWhile<{ sittingId: string; n: number }[]>();

const waitingBySitting = (db: Db, courseId: string): { sittingId: string; n: number }[] =>
  db
    .select({ sittingId: sitting.id, n: sql<number>`count(*)` })
    .from(paperSlot)
    .innerJoin(attempt, eq(attempt.id, paperSlot.attemptId))
    .innerJoin(sitting, eq(sitting.id, attempt.sittingId))
    .leftJoin(mark, newestMark)
    .where(
      and(eq(sitting.courseId, courseId), eq(sitting.scored, true), eq(attempt.state, 'handed-in'), isNull(mark.id)),
    )
    .groupBy(sitting.id)
    .all();
