import { and, asc, eq, inArray, isNull, sql } from 'drizzle-orm';
import { z } from 'zod';
import { parse } from '@/core/base/parse';
import { seededRandom } from '@/core/base/random';
import { notFound, ok, type Result, refused } from '@/core/base/result';
import { stemLine } from '@/core/question/content';
import { typesMarkedByHand } from '@/core/question/types';
import type { Db, Tx } from '@/db/client';
import {
  attempt,
  mark,
  membership,
  paperSlot,
  question,
  questionVersion,
  secondMark,
  secondMarking,
  sitting,
  user,
} from '@/db/schema';
import { record } from '../house/audit';
import type { Context } from '../house/context';
import { admit } from '../people/permission';
import { sittingOf } from '../sitting/audience';
import { type AnswerBody, bodiesOf } from './answerBodies';
import { type MarkingPage, questionPage } from './answersToMark';
import { judgementInput, judgementRefused, slotsToMark } from './giveMark';
import { newestMark } from './newestMarks';

export type SecondMarkingRule = { markerId: string; share: number; threshold: number };

const ruleInput = z
  .object({
    markerId: z.string().min(1, 'Choose who marks a second time.').max(40),
    share: z.number({ message: 'Give a percentage.' }).gt(0, 'More than 0 %.').max(1, 'At most 100 %.'),
    threshold: z.number({ message: 'Give the points as a number.' }).min(0, 'Not below 0.').max(1_000),
  })
  .nullable();

/** Sets who marks a share of a sitting's answers a second time; null ends it. What was marked stays. */
export function setSecondMarking(context: Context, courseId: string, sittingId: string, input: unknown): Result<null> {
  const admitted = admit(context, courseId, 'marking.change');
  if (!admitted.ok) return admitted;
  const parsed = parse(ruleInput, input);
  if (!parsed.ok) return parsed;
  return context.db.transaction(
    (tx): Result<null> => {
      const row = sittingOf(tx, courseId, sittingId);
      if (!row || row.anonymous) return notFound('sitting with names');
      const rule = parsed.value;
      if (rule && !staffOf(tx, courseId).some((one) => one.userId === rule.markerId)) return notFound('marker');
      tx.delete(secondMarking).where(eq(secondMarking.sittingId, sittingId)).run();
      if (rule)
        tx.insert(secondMarking)
          .values({ sittingId, ...rule, at: context.now })
          .run();
      record(tx, context, { action: 'marking.second', courseId, subjectId: sittingId, detail: { rule } });
      return ok(null);
    },
    { behavior: 'immediate' },
  );
}

/** Instructors and markers of a course. */
export const staffOf = (db: Db | Tx, courseId: string): { userId: string; name: string }[] =>
  db
    .select({ userId: user.id, name: user.name })
    .from(membership)
    .innerJoin(user, eq(user.id, membership.userId))
    .where(
      and(
        eq(membership.courseId, courseId),
        inArray(membership.role, ['instructor', 'marker']),
        isNull(membership.removedAt),
      ),
    )
    .orderBy(user.name)
    .all();

/** Whether an answer belongs to the random share: by its own id, so that later answers change nothing for earlier ones. */
export const isInShare = (slotId: string, sittingId: string, share: number): boolean =>
  seededRandom(slotId, `${sittingId}/second marking`).below(1_000_000) < share * 1_000_000;

/** The rule of a sitting of the course, where the person is its second marker. */
function ownRule(context: Context, courseId: string, sittingId: string): Result<SecondMarkingRule> {
  const admitted = admit(context, courseId, 'marking.mark', true);
  if (!admitted.ok) return admitted;
  const rule = context.db
    .select({ markerId: secondMarking.markerId, share: secondMarking.share, threshold: secondMarking.threshold })
    .from(secondMarking)
    .innerJoin(sitting, eq(sitting.id, secondMarking.sittingId))
    .where(and(eq(secondMarking.sittingId, sittingId), eq(sitting.courseId, courseId)))
    .get();
  return rule?.markerId === context.actor.userId ? ok(rule) : notFound('second marking');
}

/** The newest second mark of each slot by one marker. */
export function secondMarksOf(db: Db | Tx, slotIds: readonly string[], markerId?: string) {
  const rows = db
    .select()
    .from(secondMark)
    .where(
      and(
        inArray(secondMark.slotId, [...slotIds]),
        markerId === undefined ? undefined : eq(secondMark.markerId, markerId),
      ),
    )
    .orderBy(asc(secondMark.id))
    .all();
  return new Map(rows.map((row) => [row.slotId, row]));
}

/** What the first marker gave is replaced by what the second did: neither sees the other's. */
function blind(db: Db, bodies: readonly AnswerBody[], markerId: string): AnswerBody[] {
  const own = secondMarksOf(
    db,
    bodies.map((body) => body.slotId),
    markerId,
  );
  return bodies.map((body) => {
    const second = own.get(body.slotId);
    const stands = second?.responseRevision === body.revision ? second : undefined;
    return {
      ...body,
      markId: second?.id ?? null,
      points: stands?.points ?? null,
      comment: stands?.comment ?? '',
      rubric: stands?.rubric ?? {},
      notes: stands?.notes ?? [],
    };
  });
}

/** The answers to one question that this person marks a second time, without anything the first marker gave. */
export function answersToSecond(
  context: Context,
  courseId: string,
  sittingId: string,
  questionId: string,
): Result<MarkingPage> {
  const rule = ownRule(context, courseId, sittingId);
  if (!rule.ok) return rule;
  const page = questionPage(context, courseId, sittingId, questionId, 'mixed', (slotId) =>
    isInShare(slotId, sittingId, rule.value.share),
  );
  if (!page.ok) return page;
  const { heads, bodies } = page.value;
  const own = secondMarksOf(
    context.db,
    heads.map((head) => head.slotId),
    context.actor.userId,
  );
  return ok({
    ...page.value,
    heads: heads.map((head) => ({ ...head, points: own.get(head.slotId)?.points ?? null })),
    bodies: blind(context.db, bodies, context.actor.userId),
  });
}

/** Further answers for the second marker. */
export function moreToSecond(
  context: Context,
  courseId: string,
  sittingId: string,
  slotIds: readonly string[],
): Result<AnswerBody[]> {
  const rule = ownRule(context, courseId, sittingId);
  if (!rule.ok) return rule;
  const rows = slotsToMark(context.db, courseId, slotIds.slice(0, 200));
  const own = slotIds.filter(
    (id) => rows.get(id)?.sittingId === sittingId && isInShare(id, sittingId, rule.value.share),
  );
  return ok(blind(context.db, bodiesOf(context.db, own), context.actor.userId));
}

/** Gives a second mark. It never counts by itself. */
export function giveSecondMark(
  context: Context,
  courseId: string,
  slotId: string,
  input: unknown,
): Result<{ points: number; markId: number }> {
  const admitted = admit(context, courseId, 'marking.mark', true);
  if (!admitted.ok) return admitted;
  const parsed = parse(
    judgementInput.extend({ revision: z.number().int(), before: z.number().int().nullable() }),
    input,
  );
  if (!parsed.ok) return parsed;
  const { revision, before, points, comment, rubric, notes } = parsed.value;
  return context.db.transaction(
    (tx): Result<{ points: number; markId: number }> => {
      const row = slotsToMark(tx, courseId, [slotId]).get(slotId);
      const rule = row && ownRule(context, courseId, row.sittingId);
      if (!row || !rule?.ok || row.state !== 'handed-in' || !typesMarkedByHand.includes(row.type))
        return notFound('answer');
      if (!isInShare(slotId, row.sittingId, rule.value.share)) return notFound('answer');
      const wrong = judgementRefused(tx, row, parsed.value);
      if (wrong) return wrong;
      if (revision !== (row.revision ?? 0))
        return refused('conflict', 'The answer has changed since you opened it. Open the page anew.');
      const last = secondMarksOf(tx, [slotId], context.actor.userId).get(slotId);
      if ((last?.id ?? null) !== before)
        return refused(
          'conflict',
          'You have marked this answer in another window meanwhile. Open the page anew.',
          'points',
        );
      const { id } = tx
        .insert(secondMark)
        .values({
          slotId,
          responseRevision: revision,
          points,
          comment,
          rubric: Object.keys(rubric).length ? rubric : null,
          notes: notes.length ? notes : null,
          markerId: context.actor.userId,
          at: context.now,
        })
        .returning({ id: secondMark.id })
        .get();
      record(tx, context, { action: 'marking.second-mark', courseId, subjectId: slotId, detail: { points } });
      return ok({ points, markId: id });
    },
    { behavior: 'immediate' },
  );
}

/** The answers of a sitting that a person marks, with the mark that counts. */
export function handSlots(db: Db, sittingId: string) {
  const rows = db
    .select({
      slotId: paperSlot.id,
      versionId: paperSlot.versionId,
      questionId: paperSlot.questionId,
      outOf: paperSlot.points,
      shortName: question.shortName,
      content: questionVersion.content,
      revision: sql<number>`coalesce((select r.revision from response r where r.slot_id = ${paperSlot.id}), 0)`,
      markId: mark.id,
      kind: mark.kind,
      points: mark.points,
    })
    .from(paperSlot)
    .innerJoin(attempt, eq(attempt.id, paperSlot.attemptId))
    .innerJoin(question, eq(question.id, paperSlot.questionId))
    .innerJoin(questionVersion, eq(questionVersion.id, paperSlot.versionId))
    .leftJoin(mark, newestMark)
    .where(
      and(
        eq(attempt.sittingId, sittingId),
        eq(attempt.state, 'handed-in'),
        inArray(question.type, typesMarkedByHand),
        sql`(${mark.kind} is null or ${mark.kind} not in ('automatic', 'left-out'))`,
      ),
    )
    .orderBy(asc(paperSlot.position))
    .all();
  return rows.map(({ shortName, content, ...row }) => ({ ...row, name: shortName || stemLine(content) }));
}

export type SecondQueueRow = {
  sittingId: string;
  sittingTitle: string;
  questionId: string;
  questionName: string;
  waiting: number;
  marked: number;
};

/** What waits for this person as the second marker. */
export function secondQueue(context: Context, courseId: string): Result<SecondQueueRow[]> {
  const admitted = admit(context, courseId, 'marking.mark', true);
  if (!admitted.ok) return admitted;
  const { db } = context;
  const rules = db
    .select({ sittingId: secondMarking.sittingId, share: secondMarking.share, title: sitting.title })
    .from(secondMarking)
    .innerJoin(sitting, eq(sitting.id, secondMarking.sittingId))
    .where(and(eq(sitting.courseId, courseId), eq(secondMarking.markerId, context.actor.userId)))
    .all();
  return ok(
    rules.flatMap(({ sittingId, share, title }) => {
      const slots = handSlots(db, sittingId).filter((one) => isInShare(one.slotId, sittingId, share));
      const done = secondMarksOf(
        db,
        slots.map((one) => one.slotId),
        context.actor.userId,
      );
      return [...new Map(slots.map((one) => [one.questionId, one.name]))].map(([questionId, questionName]) => {
        const own = slots.filter((one) => one.questionId === questionId);
        const marked = own.filter((one) => done.get(one.slotId)?.responseRevision === one.revision).length;
        return { sittingId, sittingTitle: title, questionId, questionName, waiting: own.length - marked, marked };
      });
    }),
  );
}
