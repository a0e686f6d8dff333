import { asc, eq } from 'drizzle-orm';
import type { Phase } from '@/core/attempt/attemptMachine';
import { receiptCode } from '@/core/attempt/receiptCode';
import { notFound, ok, type Result, refused } from '@/core/base/result';
import type { Instant } from '@/core/base/time';
import { paperRules, questionDeadline, type SlotRules } from '@/core/exam/paperRules';
import type { QuestionContent } from '@/core/question/content';
import { readResponse } from '@/core/question/student';
import { planSaid } from '@/core/release/planSaid';
import type { Db, Tx } from '@/db/client';
import { course, paperSlot, question, response } from '@/db/schema';
import { tell } from '../house/bus';
import { command, query } from '../house/useCase';
import { attemptWithRules, planOf, type RunningAttempt } from '../records/audience';
import { frozenContents } from '../records/paperContent';
import { pinnedDesign } from '../records/pinnedDesign';
import { tellHandedIn } from '../sitting/tellStudents';
import { deadlineOf } from './deadlineOf';
import { endAttempt, endIfExpired } from './endAttempt';
import { type Handed, handedInput } from './readHanded';
import { inItsAttempt, toOwnAttempt } from './toOwnAttempt';
import { afterHandIn } from './uponHandIn';

export type Receipt = {
  attemptId: string;
  sittingId: string;
  sittingTitle: string;
  courseId: string;
  endedAt: Instant;
  endedBy: 'student' | 'clock' | 'invigilator';
  /** How many answers were handed in; null where nothing is known of a person's answers any more. */
  answered: number | null;
  questions: number;
  /** Empty in an anonymous sitting: a code would lead to the person. */
  code: string;
  scored: boolean;
  /** What its instructor has set to come next; empty where nothing is. */
  nextTask: string;
  /** What its student sees of it, and when, a sentence each. */
  afterwards: string[];
  /** False where it was not handed in within the grace, and is kept without counting. */
  counts: boolean;
};

/**
 * Hands an attempt in. Doing it twice, or after the clock did, gives the same receipt. It is held back while a required
 * question is empty that could still be answered; the clock never is.
 *
 * @param handed what comes with it: the answers of an anonymous attempt, and how long each question was in view
 */
export const handIn = command({
  admits: toOwnAttempt,
  takes: [handedInput],
  unlogged: inItsAttempt,
  does({ tx, context, now, actor, attemptId, own: one, afterwards }, handed): Result<Receipt> {
    if (one.attempt.state === 'voided') return notFound('attempt');
    if (one.attempt.state === 'running' && !endIfExpired(tx, one, now)) {
      const deadline = deadlineOf(one);
      const lacking = emptyRequired(tx, one, handed.answers, now);
      if (lacking.length && (deadline === null || now < deadline))
        return refused(
          'conflict',
          `${lacking.length === 1 ? `Question ${lacking[0]} has` : `Questions ${lacking.slice(0, -1).join(', ')} and ${lacking.at(-1)} have`} to be answered before you hand in.`,
        );
      endAttempt(tx, one, 'student', Math.min(now, deadline ?? now), actor.userId, handed);
      tellHandedIn(tx, context, one.sitting, receiptOf(context.db, attemptId));
    }
    afterwards(() => {
      tell({ sittingId: one.sitting.id, what: 'attempt', userId: actor.userId });
      afterHandIn(context, one.sitting.id);
    });
    return ok(receiptOf(context.db, attemptId));
  },
});

/** The numbers of required questions that hold no answer, though their own time, where they have one, is not over. */
function emptyRequired(tx: Tx, one: RunningAttempt, answers: Handed['answers'], now: Instant): number[] {
  const design = pinnedDesign(tx, one.attempt.revisionId);
  if (!design.parts.some((part) => part.lines.some((line) => line.required))) return [];
  const slots = tx
    .select({ slot: paperSlot, value: response.value, type: question.type })
    .from(paperSlot)
    .innerJoin(question, eq(question.id, paperSlot.questionId))
    .leftJoin(response, eq(response.slotId, paperSlot.id))
    .where(eq(paperSlot.attemptId, one.attempt.id))
    .orderBy(asc(paperSlot.position))
    .all();
  const rules = paperRules(
    design,
    slots.map(({ slot }) => slot),
  );
  return slots.flatMap(({ slot, value, type }, i) => {
    const { required, limit } = rules[i] as SlotRules;
    if (!required || readResponse(type, one.sitting.anonymous ? answers.get(slot.id) : value)) return [];
    const until = limit && questionDeadline(limit, one.arrangement.extraPercent, slot.openedAt, deadlineOf(one));
    return until && now >= until ? [] : [slot.position + 1];
  });
}

const ended: ReadonlySet<Phase> = new Set<Phase>(['handed-in', 'not-handed-in']);

/** The receipt of an attempt of one's own that has ended; not found while it runs. */
export const seeReceipt = query({
  admits: toOwnAttempt,
  does: ({ db, attemptId, own }): Result<Receipt> =>
    ended.has(own.attempt.state) ? ok(receiptOf(db, attemptId)) : notFound('receipt'),
});

function receiptOf(db: Db, attemptId: string): Receipt {
  const { attempt: row, sitting } = attemptWithRules(db, attemptId) as RunningAttempt;
  const timeZone =
    db.select({ zone: course.timeZone }).from(course).where(eq(course.id, sitting.courseId)).get()?.zone ?? 'UTC';
  const slots = db
    .select({ versionId: paperSlot.versionId, value: response.value })
    .from(paperSlot)
    .leftJoin(response, eq(response.slotId, paperSlot.id))
    .where(eq(paperSlot.attemptId, attemptId))
    .all();
  const contents = frozenContents(
    db,
    slots.map((slot) => slot.versionId),
  );
  const answered = slots.filter((slot) =>
    readResponse((contents.get(slot.versionId) as QuestionContent).type, slot.value),
  );
  return {
    attemptId,
    sittingId: sitting.id,
    sittingTitle: sitting.title,
    nextTask: sitting.nextTask,
    counts: row.state === 'handed-in',
    courseId: sitting.courseId,
    endedAt: row.endedAt as Instant,
    endedBy: row.endedBy ?? 'clock',
    answered: sitting.anonymous ? null : answered.length,
    questions: slots.length,
    code: row.seed ? receiptCode(row.seed) : '',
    scored: sitting.scored,
    afterwards: planSaid(planOf(sitting), timeZone, false),
  };
}
