import { and, asc, eq, inArray } from 'drizzle-orm';
import type { Phase } from '@/core/attempt/attemptMachine';
import { receiptCode } from '@/core/attempt/receiptCode';
import { triedCredit, triesAllowed, tryState } from '@/core/attempt/tries';
import { notFound, ok, type Result, refused } from '@/core/base/result';
import type { Instant } from '@/core/base/time';
import { choosePartsOf, paperRules, questionDeadline, type SlotRules } from '@/core/exam/paperRules';
import { notChosen } from '@/core/marking/attemptScore';
import type { QuestionContent } from '@/core/question/content';
import { scoreResponse } from '@/core/question/score';
import { readResponse } from '@/core/question/student';
import type { QuestionType } from '@/core/question/types';
import { planSaid } from '@/core/release/planSaid';
import { hasExpired } from '@/core/sitting/clock';
import type { SittingRules } from '@/core/sitting/rules';
import type { Db, Tx } from '@/db/client';
import { attempt, attemptEvent, course, mark, paperSlot, question, response } from '@/db/schema';
import { pinnedDesign } from '../exam/pinnedDesign';
import { type News, tell } from '../house/bus';
import { type Context, house } from '../house/context';
import { newestMark } from '../marking/newestMarks';
import { releaseSitting } from '../release/releaseDue';
import { planOf } from '../release/releaseFacts';
import { attemptWithRules, type RunningAttempt, rulesOf, runningAttempts } from '../sitting/audience';
import { tellHandedIn } from '../sitting/tellStudents';
import { takeAnonymously } from './anonymousAnswers';
import { deadlineOf } from './deadlineOf';
import { frozenContents } from './paperContent';
import { type TryRow, triesOf } from './tries';

/** What comes with a hand-in, by slot. */
export type Handed = {
  /** The answers of an anonymous attempt. */
  answers?: ReadonlyMap<string, unknown>;
  /** How long each question stood alone in view, in milliseconds, as the browser counted. */
  inView?: ReadonlyMap<string, number>;
};

/** Marks what a rule can mark. What a person has to mark waits. */
function markByRule(tx: Tx, { attempt: { id: attemptId, revisionId }, sitting }: RunningAttempt, at: Instant): void {
  const rules = rulesOf(sitting);
  const tried = triesAllowed(rules) > 0 ? triesOf(tx, attemptId) : new Map<string, TryRow[]>();
  const choose = choosePartsOf(pinnedDesign(tx, revisionId));
  const slots = tx
    .select({ slot: paperSlot, value: response.value, revision: response.revision, judged: mark.responseRevision })
    .from(paperSlot)
    .leftJoin(response, eq(response.slotId, paperSlot.id))
    .leftJoin(mark, newestMark)
    .where(eq(paperSlot.attemptId, attemptId))
    .orderBy(asc(paperSlot.position))
    .all();
  const contents = frozenContents(
    tx,
    slots.map(({ slot }) => slot.versionId),
  );
  const outdated: string[] = [];
  const marks = slots.flatMap(({ slot, value, revision, judged }) => {
    // After a reopening, what has a mark and did not change keeps it, by whomever it was given.
    if (judged !== null && judged === (revision ?? 0)) return [];
    if (judged !== null) outdated.push(slot.id);
    const scored = scoreResponse(contents.get(slot.versionId) as QuestionContent, slot.presentation, value);
    if (scored.kind === 'by-hand') return [];
    const credit = creditOfTries(tried.get(slot.id) ?? [], revision ?? 0, scored.credit, slot.againAt !== null, rules);
    return [
      {
        slotId: slot.id,
        responseRevision: revision ?? 0,
        versionId: slot.versionId,
        kind: 'automatic' as const,
        points: credit * slot.points,
        // What a student did not choose says nothing about how hard it is.
        reason:
          choose.has(slot.partId) && !readResponse(contents.get(slot.versionId)?.type as QuestionType, value)
            ? notChosen
            : '',
        at,
      },
    ];
  });
  if (outdated.length) tx.update(mark).set({ outdated: true }).where(inArray(mark.slotId, outdated)).run();
  if (marks.length) tx.insert(mark).values(marks).run();
}

/** Marks anew what a rule can mark and has changed since it was marked: answers that were kept aside and are taken over. */
export const markAgain = (tx: Tx, one: RunningAttempt, at: Instant): void => markByRule(tx, one, at);

/** The credit with the tries before the hand-in. What was changed after the last of them counts as one more. */
function creditOfTries(
  tried: readonly TryRow[],
  revision: number,
  credit: number,
  again: boolean,
  rules: SittingRules,
): number {
  if (tried.length === 0) return credit;
  const state = tryState(tried, rules, again);
  const changed = !state.closed && tried.at(-1)?.responseRevision !== revision;
  return triedCredit(changed ? [...tried, { credit, again: again && state.used >= state.most }] : tried, rules);
}

/** A browser's clock may run a little fast; what adds up to more than this share of the attempt is no measurement. */
const believable = 1.05;

/** Keeps how long each question was in view, unless the times cannot be true. */
function keepTimes(tx: Tx, row: RunningAttempt['attempt'], at: Instant, inView: ReadonlyMap<string, number>): void {
  const elapsed = at - row.startedAt;
  const times = [...inView].filter(([, time]) => Number.isFinite(time) && time > 0);
  if (times.reduce((sum, [, time]) => sum + time, 0) > elapsed * believable) return;
  for (const [slotId, time] of times)
    tx.update(paperSlot)
      .set({ inView: Math.round(time) })
      .where(and(eq(paperSlot.id, slotId), eq(paperSlot.attemptId, row.id)))
      .run();
}

/**
 * Ends a running attempt and marks what can be marked by rule. Whoever comes second finds it ended and changes nothing.
 *
 * @param at the moment it is stamped with
 */
export function endAttempt(
  tx: Tx,
  one: RunningAttempt,
  by: 'student' | 'clock' | 'invigilator',
  at: Instant,
  actorId: string,
  { answers = new Map(), inView }: Handed = {},
): boolean {
  const { id } = one.attempt;
  const { sitting } = one;
  // Of an anonymous attempt nothing is left in the browser to be waited for: it ends as every other does.
  const to =
    by === 'clock' && rulesOf(sitting).expiry.kind === 'grace' && !sitting.anonymous ? 'not-handed-in' : 'handed-in';
  const from: Phase[] = by === 'invigilator' ? ['running', 'not-handed-in'] : ['running'];
  const ended = tx
    .update(attempt)
    .set({ state: to, endedAt: at, endedBy: by })
    .where(and(eq(attempt.id, id), inArray(attempt.state, from)))
    .run();
  if (ended.changes === 0) return false;
  if (to === 'not-handed-in') {
    tx.insert(attemptEvent).values({ attemptId: id, at, kind: 'not-handed-in', actorId }).run();
    return true;
  }
  if (sitting.anonymous) takeAnonymously(tx, one, answers);
  else {
    if (inView) keepTimes(tx, one.attempt, at, inView);
    if (sitting.scored) markByRule(tx, one, at);
  }
  tx.insert(attemptEvent).values({ attemptId: id, at, kind: 'handed-in', actorId, detail: { by } }).run();
  return true;
}

/**
 * Whether the clock has ended an attempt. Of an anonymous one the answers come with the hand-in only, which is taken as
 * long as a save would be: it is not over before that.
 */
export function isOver(one: RunningAttempt, now: Instant): boolean {
  const deadline = deadlineOf(one);
  if (deadline === null) return false;
  return hasExpired(rulesOf(one.sitting), deadline, now);
}

/** Ends the attempt with its deadline's stamp if the clock has ended it. @returns whether it had */
export function endIfExpired(tx: Tx, one: RunningAttempt, now: Instant): boolean {
  const deadline = deadlineOf(one);
  if (one.attempt.state !== 'running' || deadline === null || !isOver(one, now)) return false;
  return endAttempt(tx, one, 'clock', deadline, house.userId);
}

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
export function handIn(context: Context, attemptId: string, handed: Handed = {}): Result<Receipt> {
  const receipt = context.db.transaction(
    (tx): Result<Receipt> => {
      const one = attemptWithRules(context.db, attemptId);
      if (!one || one.attempt.userId !== context.actor.userId || one.attempt.state === 'voided')
        return notFound('attempt');
      if (one.attempt.state === 'running' && !endIfExpired(tx, one, context.now)) {
        const deadline = deadlineOf(one);
        const lacking = emptyRequired(tx, one, handed.answers ?? new Map(), context.now);
        if (lacking.length && (deadline === null || context.now < deadline))
          return refused(
            'conflict',
            `${lacking.length === 1 ? `Question ${lacking[0]} has` : `Questions ${lacking.slice(0, -1).join(', ')} and ${lacking.at(-1)} have`} to be answered before you hand in.`,
          );
        endAttempt(tx, one, 'student', Math.min(context.now, deadline ?? context.now), context.actor.userId, handed);
        tellHandedIn(tx, context, one.sitting, receiptOf(context.db, attemptId));
      }
      return ok(receiptOf(context.db, attemptId));
    },
    { behavior: 'immediate' },
  );
  if (receipt.ok) {
    const { sittingId } = receipt.value;
    tell({ sittingId, what: 'attempt', userId: context.actor.userId });
    releaseAtOnce(context, sittingId);
  }
  return receipt;
}

/** What is shown on hand-in is there when its student looks for it. Where that fails, the sweeper does it a little later. */
function releaseAtOnce({ db, now, actor }: Context, sittingId: string): void {
  try {
    releaseSitting(db, sittingId, now, actor.userId);
  } catch (why) {
    console.error('What is shown on hand-in could not be shown yet; it is tried again.', why);
  }
}

/** The numbers of required questions that hold no answer, though their own time, where they have one, is not over. */
function emptyRequired(tx: Tx, one: RunningAttempt, answers: NonNullable<Handed['answers']>, now: Instant): number[] {
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
export function seeReceipt(context: Context, attemptId: string): Result<Receipt> {
  const one = attemptWithRules(context.db, attemptId);
  if (!one || one.attempt.userId !== context.actor.userId || !ended.has(one.attempt.state)) return notFound('receipt');
  return ok(receiptOf(context.db, attemptId));
}

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

/**
 * Hands in every attempt whose time is over: the sweeper's work, done without anyone's browser. Each attempt in its own
 * transaction, so that one bad row holds nothing up.
 *
 * @returns how many it ended
 */
export function handInExpired(context: Omit<Context, 'actor'>): number {
  const { db, now } = context;
  let ended = 0;
  const told: News[] = [];
  for (const running of runningAttempts(db)) {
    if (!isOver(running, now)) continue;
    db.transaction(
      (tx) => {
        const fresh = attemptWithRules(db, running.attempt.id);
        if (!fresh || !endIfExpired(tx, fresh, now)) return;
        ended += 1;
        told.push({ sittingId: fresh.sitting.id, what: 'attempt', userId: fresh.attempt.userId });
      },
      { behavior: 'immediate' },
    );
  }
  for (const news of told) tell(news);
  return ended;
}
