import { and, asc, eq, inArray, sql } from 'drizzle-orm';
import type { Phase } from '@/core/attempt/attemptMachine';
import type { EndedBy } from '@/core/attempt/standing';
import { triedCredit, triesAllowed, tryState } from '@/core/attempt/tries';
import type { Instant } from '@/core/base/time';
import { isKeyed } from '@/core/exam/items/item';
import { choosePartsOf } from '@/core/exam/paperRules';
import type { QuestionContent } from '@/core/question/content';
import { scoreResponse } from '@/core/question/score';
import { readResponse } from '@/core/question/student';
import type { QuestionType } from '@/core/question/types';
import { hasExpired } from '@/core/sitting/clock';
import type { SittingRules } from '@/core/sitting/rules';
import type { Tx } from '@/db/client';
import { attempt, attemptEvent, mark, membership, paperSlot, response, vote } from '@/db/schema';
import { type News, tell } from '../house/bus';
import { type Context, house } from '../house/context';
import { attemptWithRules, type RunningAttempt, rulesOf, runningAttempts } from '../records/audience';
import { newestMark } from '../records/newestMarks';
import { frozenContents } from '../records/paperContent';
import { pinnedDesign } from '../records/pinnedDesign';
import { handsetOf, roundOf } from '../records/roundOf';
import { answeredOnPaper } from '../records/sheetEvidence';
import { takeAnonymously } from './anonymousAnswers';
import { deadlineOf } from './deadlineOf';
import type { Handed } from './readHanded';
import { type TryRow, triesOf } from './tries';
import { giveToPerson } from './whoseAttempt';

/** Marks what a rule can mark. What a person has to mark waits. */
function markByRule(tx: Tx, { attempt: { id: attemptId, revisionId }, sitting }: RunningAttempt, at: Instant): void {
  const rules = rulesOf(sitting);
  const tried = triesAllowed(rules) > 0 ? triesOf(tx, attemptId) : new Map<string, TryRow[]>();
  const choose = choosePartsOf(pinnedDesign(tx, revisionId));
  const slots = tx
    .select({
      slot: paperSlot,
      value: response.value,
      revision: response.revision,
      judged: mark.responseRevision,
      kind: mark.kind,
    })
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
  const onPaper = answeredOnPaper(tx, attemptId);
  const outdated: string[] = [];
  const marks = slots.flatMap(({ slot, value, revision, judged, kind }) => {
    // It stands on paper, where no rule can look: it waits for a person, also where it was taken for empty before.
    if (onPaper.has(slot.position) && (value ?? null) === null) {
      if (judged !== null && kind === 'automatic') outdated.push(slot.id);
      return [];
    }
    // After a reopening, what has a mark and did not change keeps it, by whomever it was given.
    if (judged !== null && judged === (revision ?? 0)) return [];
    // Asked on the spot, and its key not given yet: it waits for it.
    if (sitting.isRound && !isKeyed(contents.get(slot.versionId) as QuestionContent)) return [];
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
        unobserved:
          choose.has(slot.partId) && !readResponse(contents.get(slot.versionId)?.type as QuestionType, value)
            ? ('not-chosen' as const)
            : null,
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

/** Where the first answer to a question asked twice counts, it becomes the response. */
function countVotes(tx: Tx, { attempt: { id }, sitting }: RunningAttempt): void {
  if (roundOf(tx, sitting.id)?.rules.vote !== 'first') return;
  const first = tx
    .select({ slotId: vote.slotId, value: vote.value })
    .from(vote)
    .innerJoin(paperSlot, eq(paperSlot.id, vote.slotId))
    .where(and(eq(paperSlot.attemptId, id), eq(vote.number, 1)))
    .all();
  for (const { slotId, value } of first)
    tx.update(response)
      .set({ value, revision: sql`${response.revision} + 1` })
      .where(eq(response.slotId, slotId))
      .run();
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
  by: EndedBy,
  at: Instant,
  actorId: string,
  { answers = new Map(), inView }: Partial<Handed> = {},
): boolean {
  const { id } = one.attempt;
  const { sitting } = one;
  // What a made-up device did never counts, in nothing: it is as if it had been voided.
  if (sitting.isRound && handsetOf(tx, one.attempt.userId)?.madeUp)
    return (
      tx
        .update(attempt)
        .set({ state: 'voided', stateBefore: 'handed-in', endedAt: at, endedBy: by })
        .where(and(eq(attempt.id, id), eq(attempt.state, 'running')))
        .run().changes > 0
    );
  // Of an anonymous attempt nothing is left in the browser to be waited for: it ends as every other does.
  const to =
    by === 'clock' && rulesOf(sitting).expiry.kind === 'grace' && !sitting.anonymous ? 'not-handed-in' : 'handed-in';
  const from: Phase[] = by === 'invigilator' || by === 'answer-sheet' ? ['running', 'not-handed-in'] : ['running'];
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
    if (sitting.isRound) countVotes(tx, one);
    if (sitting.scored) markByRule(tx, one, at);
  }
  tx.insert(attemptEvent).values({ attemptId: id, at, kind: 'handed-in', actorId, detail: { by } }).run();
  // Who came in by a number on the roster is known from the beginning.
  const listed = sitting.isRound ? personOfNumber(tx, one) : undefined;
  if (listed) giveToPerson(tx, { userId: one.attempt.userId, sittingId: sitting.id }, listed, at, actorId);
  return true;
}

/** The person on the roster by whose number a device came into a round. */
function personOfNumber(tx: Tx, { attempt: { userId }, sitting }: RunningAttempt): string | undefined {
  const number = handsetOf(tx, userId)?.studentNumber;
  if (!number) return undefined;
  return tx
    .select({ userId: membership.userId })
    .from(membership)
    .where(
      and(
        eq(membership.courseId, sitting.courseId),
        eq(membership.role, 'student'),
        sql`lower(${membership.studentNumber}) = ${number}`,
      ),
    )
    .get()?.userId;
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
