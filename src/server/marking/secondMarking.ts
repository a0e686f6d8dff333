import { and, asc, eq, inArray, isNull, sql } from 'drizzle-orm';
import { z } from 'zod';
import { id } from '@/core/base/id';
import { quickRandom } from '@/core/base/random';
import { notFound, ok, type Result, refused } from '@/core/base/result';
import { stemLine } from '@/core/question/content';
import { typesMarkedByHand } from '@/core/question/definitions';
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
import type { Context } from '../house/context';
import { command, type Door, query } from '../house/useCase';
import { newestMark } from '../records/newestMarks';
import { toNamedSitting } from '../sitting/toSitting';
import { type AnswerBody, bodiesOf } from './answerBodies';
import { type MarkingPage, questionPage } from './answersToMark';
import { judgementInput, judgementRefused, slotsToMark } from './giveMark';
import { type Marking, toMarking } from './toMarking';

export type SecondMarkingRule = { markerId: string; share: number; threshold: number };

const ruleInput = z
  .object({
    markerId: id('user', 'Choose who marks a second time.'),
    share: z.number({ message: 'Give a percentage.' }).gt(0, 'More than 0 %.').max(1, 'At most 100 %.'),
    threshold: z.number({ message: 'Give the points as a number.' }).min(0, 'Not below 0.').max(1_000),
  })
  .nullable();

/** Sets who marks a share of a sitting's answers a second time; null ends it. What was marked stays. */
export const setSecondMarking = command({
  admits: toNamedSitting('marking.change'),
  takes: [ruleInput],
  logs: 'marking.second',
  does({ tx, courseId, record, context, sittingId }, rule): Result<null> {
    if (rule && !staffOf(tx, courseId).some((one) => one.userId === rule.markerId)) return notFound('marker');
    tx.delete(secondMarking).where(eq(secondMarking.sittingId, sittingId)).run();
    if (rule)
      tx.insert(secondMarking)
        .values({ sittingId, ...rule, at: context.now })
        .run();
    record({ subjectId: sittingId, detail: { rule } });
    return ok(null);
  },
});

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
  quickRandom(slotId, `${sittingId}/second marking`).below(1_000_000) < share * 1_000_000;

/** The rule of a sitting of the course, where the person is its second marker. */
function ownRule(context: Context, courseId: string, sittingId: string): SecondMarkingRule | null {
  const rule = context.db
    .select({ markerId: secondMarking.markerId, share: secondMarking.share, threshold: secondMarking.threshold })
    .from(secondMarking)
    .innerJoin(sitting, eq(sitting.id, secondMarking.sittingId))
    .where(and(eq(secondMarking.sittingId, sittingId), eq(sitting.courseId, courseId)))
    .get();
  return rule?.markerId === context.actor.userId ? rule : null;
}

/** To the second marking of a sitting, for the one person who was asked to do it. */
const toSecondMarking: Door<readonly ['courseId', 'sittingId'], Marking & { rule: SecondMarkingRule }> = {
  ids: ['courseId', 'sittingId'],
  action: 'marking.mark',
  open(context, courseId, sittingId) {
    const admitted = toMarking.open(context, courseId);
    if (!admitted.ok) return admitted;
    const rule = ownRule(context, courseId, sittingId);
    return rule ? ok({ ...admitted.value, rule }) : notFound('second marking');
  },
};

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
export const answersToSecond = query({
  admits: toSecondMarking,
  takes: [id('question')],
  does({ context, courseId, sittingId, rule }, questionId): Result<MarkingPage> {
    const page = questionPage(context, courseId, sittingId, questionId, 'mixed', (slotId) =>
      isInShare(slotId, sittingId, rule.share),
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
  },
});

/** Further answers for the second marker. */
export const moreToSecond = query({
  admits: toSecondMarking,
  takes: [z.array(id('slot')).max(10_000)],
  does({ context, courseId, sittingId, rule }, slotIds): Result<AnswerBody[]> {
    const rows = slotsToMark(context.db, courseId, slotIds.slice(0, 200));
    const own = slotIds.filter((id) => rows.get(id)?.sittingId === sittingId && isInShare(id, sittingId, rule.share));
    return ok(blind(context.db, bodiesOf(context.db, own), context.actor.userId));
  },
});

/** Gives a second mark. It never counts by itself. */
export const giveSecondMark = command({
  admits: toMarking,
  takes: [id('slot'), judgementInput.extend({ revision: z.number().int(), before: z.number().int().nullable() })],
  logs: 'marking.second-mark',
  does({ tx, courseId, record, context }, slotId, input): Result<{ points: number; markId: number }> {
    const { revision, before, points, comment, rubric, notes } = input;
    const row = slotsToMark(tx, courseId, [slotId]).get(slotId);
    const rule = row && ownRule(context, courseId, row.sittingId);
    if (!row || !rule || row.state !== 'handed-in' || !typesMarkedByHand.includes(row.type)) return notFound('answer');
    if (!isInShare(slotId, row.sittingId, rule.share)) return notFound('answer');
    const wrong = judgementRefused(tx, row, input);
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
    record({ subjectId: slotId, detail: { points } });
    return ok({ points, markId: id });
  },
});

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
export const secondQueue = query({
  admits: toMarking,
  does({ db, courseId, context }): Result<SecondQueueRow[]> {
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
  },
});
