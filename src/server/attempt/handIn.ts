import { and, eq, gt } from 'drizzle-orm';
import { plausiblyGiven } from '@/core/attempt/attemptMachine';
import { owedAtHandIn, owedSaid } from '@/core/attempt/mayAnswer';
import { receiptCode } from '@/core/attempt/receiptCode';
import type { Aside, Standing, StandingAnswers } from '@/core/attempt/standing';
import { ok, type Result, refused } from '@/core/base/result';
import { type Instant, inZone } from '@/core/base/time';
import { planForStudent } from '@/core/release/planForStudent';
import type { Db, Tx } from '@/db/client';
import { attemptEvent, sittingNote } from '@/db/schema';
import { tell } from '../house/bus';
import { type Context, house } from '../house/context';
import { command, query } from '../house/useCase';
import { attemptWithRules, planOf, type RunningAttempt } from '../records/audience';
import { roundOf } from '../records/roundOf';
import { zoneOf } from '../records/zoneOf';
import { tellHandedIn } from '../sitting/tellStudents';
import { deadlineOf } from './deadlineOf';
import { endAttempt, endIfExpired } from './endAttempt';
import { attemptNow, questionsNow } from './questionsNow';
import { handedInput } from './readHanded';
import { answersOf, standingNow, studentsAsides } from './standingNow';
import { inItsAttempt, stillRuns, toOwnAttempt } from './toOwnAttempt';
import { afterHandIn } from './uponHandIn';

/** How an attempt of one's own stands, and what is known of it: what its student keeps of it. */
export type Receipt = {
  attemptId: string;
  sittingId: string;
  sittingTitle: string;
  /** Whether it belongs to a round, which has a page of its own for what comes after. */
  isRound: boolean;
  courseId: string;
  timeZone: string;
  standing: Standing;
  /** How much of the paper is answered; null where nothing is known of a person's answers any more. */
  answers: StandingAnswers | null;
  /** The answers that were kept aside. */
  asides: Aside[];
  /** Empty in an anonymous sitting: a code would lead to the person. */
  code: string;
  scored: boolean;
  /** What its instructor has set to come next; empty where nothing is. */
  nextTask: string;
  /** What its student sees of it, and when, a sentence each. */
  afterwards: string[];
};

/**
 * Hands an attempt in. Doing it twice, or after the clock did, gives the same receipt. It is held back while a question that
 * has to be answered is empty and could still be answered; the clock never is. What the open page hands in by itself is
 * refused while there is time left, because more may have been given meanwhile. What comes after a grace counts for
 * nothing by itself, and is written down for whoever invigilates.
 *
 * @param handed what comes with it: the answers of an anonymous attempt, and how long each question was in view
 */
export const handIn = command({
  admits: toOwnAttempt,
  takes: [handedInput],
  unlogged: inItsAttempt,
  does({ tx, context, now, actor, attemptId, own: one, afterwards }, handed): Result<Receipt> {
    if (one.attempt.state === 'voided') return refused('conflict', 'This attempt has been voided.');
    if (one.attempt.state === 'running' && one.sitting.isRound && roundOf(tx, one.sitting.id)?.led)
      return refused('conflict', 'Whoever leads this round stops it for everybody: there is nothing to hand in.');
    const ranOut = endIfExpired(tx, one, now);
    if (one.attempt.state === 'running' && !ranOut) {
      const deadline = deadlineOf(one);
      const isOver = deadline !== null && now >= deadline;
      if (handed.byClock && !isOver) return refused('too-early', 'There is time left: go on.');
      if (handed.epoch !== null && handed.epoch !== one.attempt.writerEpoch)
        return refused('superseded', 'This exam has been opened in another window: hand it in there.');
      if (handed.pressedAt !== null && wasReopenedAfter(tx, attemptId, handed.pressedAt))
        return refused('conflict', 'It has been opened again since you handed it in: you can go on.');
      const given = one.sitting.anonymous ? handed.answers : null;
      const owed = owedAtHandIn(attemptNow(one), questionsNow(tx, one, given), now);
      if (owed.length) return refused('conflict', owedSaid(owed, 'you hand in'));
      const by = handed.byClock ? 'page' : 'student';
      endAttempt(tx, one, by, Math.min(now, deadline ?? now), actor.userId, handed);
      tellHandedIn(tx, context, one.sitting, receiptOf(context, attemptId));
    } else if (!handed.byClock && stateOf(context.db, attemptId) === 'not-handed-in')
      noteLateHandIn(tx, context, one, handed.pressedAt);
    afterwards(() => {
      tell({ sittingId: one.sitting.id, what: 'attempt', userId: actor.userId });
      afterHandIn(context, one.sitting.id);
    });
    return ok(receiptOf(context, attemptId));
  },
});

const stateOf = (db: Db, attemptId: string) => attemptWithRules(db, attemptId)?.attempt.state;

/** Whether an attempt has been opened again since a hand-in was pressed that reaches the server only now. */
const wasReopenedAfter = (tx: Tx, attemptId: string, pressedAt: Instant): boolean =>
  tx
    .select({ id: attemptEvent.id })
    .from(attemptEvent)
    .where(
      and(eq(attemptEvent.attemptId, attemptId), eq(attemptEvent.kind, 'reopened'), gt(attemptEvent.at, pressedAt)),
    )
    .limit(1)
    .get() !== undefined;

/** Writes down, once, that a hand-in came after the grace: whether it counts is for a person to say. */
function noteLateHandIn(
  tx: Tx,
  { now, actor }: Context,
  { attempt: row, sitting }: RunningAttempt,
  pressedAt: Instant | null,
) {
  const noted = tx
    .select({ id: attemptEvent.id })
    .from(attemptEvent)
    .where(and(eq(attemptEvent.attemptId, row.id), eq(attemptEvent.kind, 'late-hand-in')))
    .get();
  if (noted) return;
  const pressed = plausiblyGiven(pressedAt, row.startedAt, now);
  tx.insert(attemptEvent)
    .values({ attemptId: row.id, at: now, kind: 'late-hand-in', actorId: actor.userId, detail: { pressedAt: pressed } })
    .run();
  const text = `${actor.name}’s hand-in came after the time allowed for it${pressed === null ? '' : `; by the browser’s clock it was pressed ${inZone(pressed, zoneOf(tx, sitting.courseId), 'HH:mm:ss')}`}. It can be counted as handed in.`;
  tx.insert(sittingNote)
    .values({ sittingId: sitting.id, kind: 'incident', userId: actor.userId, text, at: now, by: house.userId })
    .run();
}

/** How an attempt of one's own stands: the receipt of one that has ended, and the way back to one that runs. */
export const seeReceipt = query({
  admits: toOwnAttempt,
  does({ context, attemptId, own }): Result<Receipt> {
    stillRuns(context, own);
    return ok(receiptOf(context, attemptId));
  },
});

function receiptOf({ db, now }: Pick<Context, 'db' | 'now'>, attemptId: string): Receipt {
  const one = attemptWithRules(db, attemptId) as RunningAttempt;
  const { attempt: row, sitting } = one;
  const timeZone = zoneOf(db, sitting.courseId);
  return {
    attemptId,
    sittingId: sitting.id,
    sittingTitle: sitting.title,
    isRound: sitting.isRound,
    nextTask: sitting.nextTask,
    courseId: sitting.courseId,
    timeZone,
    standing: standingNow(db, one, now),
    answers: answersOf(db, one),
    asides: studentsAsides(db, one),
    code: row.seed ? receiptCode(row.seed) : '',
    scored: sitting.scored,
    afterwards: planForStudent(planOf(sitting), timeZone, row.state === 'handed-in'),
  };
}
