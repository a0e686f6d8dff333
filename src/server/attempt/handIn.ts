import { and, asc, eq } from 'drizzle-orm';
import { receiptCode } from '@/core/attempt/receiptCode';
import { notFound, ok, type Result } from '@/core/base/result';
import type { Instant } from '@/core/base/time';
import type { QuestionContent } from '@/core/question/content';
import { scoreResponse } from '@/core/question/score';
import { readResponse } from '@/core/question/student';
import { attemptDeadline, hasExpired } from '@/core/sitting/clock';
import type { Db, Tx } from '@/db/client';
import { attempt, attemptEvent, mark, paperSlot, response } from '@/db/schema';
import { type Context, house } from '../house/context';
import { attemptWithRules, type RunningAttempt, rulesOf, runningAttempts } from '../sitting/audience';
import { frozenContents } from './paperContent';

/** The deadline of an attempt as it stands now. */
export const deadlineOf = (one: RunningAttempt): Instant | null =>
  attemptDeadline(rulesOf(one.sitting), one.arrangement, one.attempt.startedAt, one.attempt.added);

/**
 * Ends a running attempt and marks what can be marked by rule. Whoever comes second finds it ended and changes nothing.
 *
 * @param at the moment it is stamped with
 */
function endAttempt(
  tx: Tx,
  one: RunningAttempt,
  by: 'student' | 'clock' | 'invigilator',
  at: Instant,
  actorId: string,
): boolean {
  const { id } = one.attempt;
  const ended = tx
    .update(attempt)
    .set({ state: 'handed-in', endedAt: at, endedBy: by })
    .where(and(eq(attempt.id, id), eq(attempt.state, 'running')))
    .run();
  if (ended.changes === 0) return false;
  const slots = tx
    .select({ slot: paperSlot, value: response.value, revision: response.revision })
    .from(paperSlot)
    .leftJoin(response, eq(response.slotId, paperSlot.id))
    .where(eq(paperSlot.attemptId, id))
    .orderBy(asc(paperSlot.position))
    .all();
  const contents = frozenContents(
    tx,
    slots.map(({ slot }) => slot.versionId),
  );
  const marks = slots.flatMap(({ slot, value, revision }) => {
    const scored = scoreResponse(contents.get(slot.versionId) as QuestionContent, slot.presentation, value);
    if (scored.kind === 'by-hand') return [];
    return [
      {
        slotId: slot.id,
        responseRevision: revision ?? 0,
        versionId: slot.versionId,
        kind: 'automatic' as const,
        points: scored.credit * slot.points,
        at,
      },
    ];
  });
  if (marks.length) tx.insert(mark).values(marks).run();
  tx.insert(attemptEvent).values({ attemptId: id, at, kind: 'handed-in', actorId, detail: { by } }).run();
  return true;
}

/** Ends the attempt with its deadline's stamp if the clock has ended it. @returns whether it had */
export function endIfExpired(tx: Tx, one: RunningAttempt, now: Instant): boolean {
  const deadline = deadlineOf(one);
  if (one.attempt.state !== 'running' || deadline === null || !hasExpired(deadline, now)) return false;
  return endAttempt(tx, one, 'clock', deadline, house.userId);
}

export type Receipt = {
  attemptId: string;
  sittingTitle: string;
  courseId: string;
  endedAt: Instant;
  endedBy: 'student' | 'clock' | 'invigilator';
  answered: number;
  questions: number;
  code: string;
};

/** Hands an attempt in. Doing it twice, or after the clock did, gives the same receipt. */
export function handIn(context: Context, attemptId: string): Result<Receipt> {
  return context.db.transaction(
    (tx): Result<Receipt> => {
      const one = attemptWithRules(context.db, attemptId);
      if (!one || one.attempt.userId !== context.actor.userId || one.attempt.state === 'voided')
        return notFound('attempt');
      if (one.attempt.state === 'running' && !endIfExpired(tx, one, context.now))
        endAttempt(tx, one, 'student', Math.min(context.now, deadlineOf(one) ?? context.now), context.actor.userId);
      return ok(receiptOf(context.db, attemptId));
    },
    { behavior: 'immediate' },
  );
}

/** The receipt of an attempt of one's own that has ended; not found while it runs. */
export function seeReceipt(context: Context, attemptId: string): Result<Receipt> {
  const one = attemptWithRules(context.db, attemptId);
  if (!one || one.attempt.userId !== context.actor.userId || one.attempt.state !== 'handed-in')
    return notFound('receipt');
  return ok(receiptOf(context.db, attemptId));
}

function receiptOf(db: Db, attemptId: string): Receipt {
  const { attempt: row, sitting } = attemptWithRules(db, attemptId) as RunningAttempt;
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
    sittingTitle: sitting.title,
    courseId: sitting.courseId,
    endedAt: row.endedAt as Instant,
    endedBy: row.endedBy ?? 'clock',
    answered: answered.length,
    questions: slots.length,
    code: receiptCode(row.seed),
  };
}

/**
 * Hands in every attempt whose time is over: the sweeper's work, done without anyone's browser. Each attempt in its own
 * transaction, so that one bad row holds nothing up.
 *
 * @returns how many it ended
 */
export function handInExpired(context: Omit<Context, 'actor'>): number {
  const { db, now } = context;
  let ended = 0;
  for (const running of runningAttempts(db)) {
    if (!hasExpired(deadlineOf(running), now)) continue;
    db.transaction(
      (tx) => {
        const fresh = attemptWithRules(db, running.attempt.id);
        if (fresh && endIfExpired(tx, fresh, now)) ended += 1;
      },
      { behavior: 'immediate' },
    );
  }
  return ended;
}
