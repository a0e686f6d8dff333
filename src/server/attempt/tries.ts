import { and, asc, eq, isNotNull, isNull, ne } from 'drizzle-orm';
import { mayTakeAgain, type Try, type TryState, triesAllowed, tryState } from '@/core/attempt/tries';
import { notFound, ok, type Result, refused } from '@/core/base/result';
import type { Rich } from '@/core/base/rich';
import type { QuestionContent } from '@/core/question/content';
import type { Presentation } from '@/core/question/presentation';
import { scoreResponse } from '@/core/question/score';
import { settle } from '@/core/question/settle';
import { readResponse } from '@/core/question/student';
import { type Told, toldOf } from '@/core/question/told';
import { inTimeToSave } from '@/core/sitting/clock';
import type { SittingRules } from '@/core/sitting/rules';
import type { Db, Tx } from '@/db/client';
import { attempt, attemptEvent, paperSlot, questionTry, response } from '@/db/schema';
import type { Context } from '../house/context';
import { attemptWithRules, rulesOf } from '../sitting/audience';
import { deadlineOf } from './deadlineOf';
import { frozenContents } from './paperContent';
import { progressed } from './progressed';

/** What a student learns of a question that was checked. */
export type CheckedQuestion = TryState & {
  /** A hint while there are tries left. */
  said: Rich | null;
  /** What the author says to the answer once the question is closed: to what was picked or entered, and to a right or another one. */
  told: Told[];
  /** Whether it may be taken again now. */
  mayAgain: boolean;
  again: boolean;
};

export type TryRow = typeof questionTry.$inferSelect;

/** The tries of an attempt by slot, in their order. */
export function triesOf(db: Db | Tx, attemptId: string): Map<string, TryRow[]> {
  const rows = db
    .select({ row: questionTry })
    .from(questionTry)
    .innerJoin(paperSlot, eq(paperSlot.id, questionTry.slotId))
    .where(eq(paperSlot.attemptId, attemptId))
    .orderBy(asc(questionTry.number))
    .all();
  const bySlot = new Map<string, TryRow[]>();
  for (const { row } of rows) bySlot.set(row.slotId, [...(bySlot.get(row.slotId) ?? []), row]);
  return bySlot;
}

/** Whether a question takes no answer any more because it has been checked. */
export function isClosedByTries(tx: Tx, rules: SittingRules, slotId: string): boolean {
  if (triesAllowed(rules) === 0) return false;
  const tried = tx
    .select()
    .from(questionTry)
    .where(eq(questionTry.slotId, slotId))
    .orderBy(asc(questionTry.number))
    .all();
  if (tried.length === 0) return false;
  const slot = tx.select({ againAt: paperSlot.againAt }).from(paperSlot).where(eq(paperSlot.id, slotId)).get();
  return tryState(tried, rules, slot?.againAt != null).closed;
}

/** What a student is told of a question between its tries, and after them. */
export function checkedQuestion(
  content: QuestionContent,
  presentation: Presentation,
  tried: readonly (Try & { value: unknown })[],
  rules: SittingRules,
  again: boolean,
  othersAgain: number,
): CheckedQuestion {
  const state = tryState(tried, rules, again);
  const settled = settle(content, presentation);
  const told = state.outcome !== null && state.closed;
  return {
    ...state,
    said: state.outcome === null || state.closed ? null : (settled.feedback.hint ?? null),
    told: told ? toldOf(settled, presentation, tried.at(-1)?.value, state.outcome === 'right') : [],
    again,
    mayAgain: mayTakeAgain(tried, rules, again, othersAgain),
  };
}

/** A slot of one's own in an attempt whose answers are still taken. */
function ownSlot(context: Context, tx: Tx, attemptId: string, slotId: string) {
  const one = attemptWithRules(context.db, attemptId);
  if (!one || one.attempt.userId !== context.actor.userId) return notFound('attempt');
  if (one.attempt.state !== 'running' || !inTimeToSave(deadlineOf(one), context.now))
    return refused('too-late', 'The time for this attempt is over.');
  const found = tx
    .select({ slot: paperSlot, value: response.value, revision: response.revision })
    .from(paperSlot)
    .leftJoin(response, eq(response.slotId, paperSlot.id))
    .where(and(eq(paperSlot.id, slotId), eq(paperSlot.attemptId, attemptId)))
    .get();
  if (!found) return notFound('question on this paper');
  const content = frozenContents(tx, [found.slot.versionId]).get(found.slot.versionId) as QuestionContent;
  const tried = tx
    .select()
    .from(questionTry)
    .where(eq(questionTry.slotId, slotId))
    .orderBy(asc(questionTry.number))
    .all();
  const othersAgain = tx
    .select({ id: paperSlot.id })
    .from(paperSlot)
    .where(and(eq(paperSlot.attemptId, attemptId), isNotNull(paperSlot.againAt), ne(paperSlot.id, slotId)))
    .all().length;
  return ok({ ...found, rules: rulesOf(one.sitting), content, tried, othersAgain });
}

/**
 * Checks a question as it stands on the server, and counts it as a try. A second check of the same answer counts once: a
 * browser that missed the reply may ask again.
 */
export function checkQuestion(context: Context, attemptId: string, slotId: string): Result<CheckedQuestion> {
  const checked = context.db.transaction(
    (tx): Result<CheckedQuestion> => {
      const own = ownSlot(context, tx, attemptId, slotId);
      if (!own.ok) return own;
      const { slot, value, revision, rules, content, tried, othersAgain } = own.value;
      const again = slot.againAt !== null;
      const state = tryState(tried, rules, again);
      if (state.most === 0)
        return refused('bad-input', 'The questions of this exam are not checked before the hand-in.');
      const done = (all: readonly (Try & { value: unknown })[]) =>
        ok(checkedQuestion(content, slot.presentation, all, rules, again, othersAgain));
      if (state.closed || (tried.at(-1)?.responseRevision ?? 0) === (revision ?? 0)) {
        if (tried.length) return done(tried);
        return refused('bad-input', 'Answer the question before you check it.');
      }
      if (!readResponse(content.type, value)) return refused('bad-input', 'Answer the question before you check it.');
      const scored = scoreResponse(content, slot.presentation, value);
      if (scored.kind === 'by-hand') return refused('bad-input', 'This question is marked by a person.');
      const row = {
        slotId,
        number: tried.length + 1,
        again: again && state.used >= state.most,
        responseRevision: revision ?? 0,
        value,
        credit: scored.credit,
        at: context.now,
      };
      tx.insert(questionTry).values(row).run();
      tx.insert(attemptEvent)
        .values({
          attemptId,
          at: context.now,
          kind: 'checked',
          actorId: context.actor.userId,
          detail: { slotId, number: row.number },
        })
        .run();
      return done([...tried, row]);
    },
    { behavior: 'immediate' },
  );
  if (checked.ok) progressed(context.db, attemptId, context);
  return checked;
}

/** Takes a missed question again at the end: it is open once more, for one try. */
export function takeAgain(context: Context, attemptId: string, slotId: string): Result<CheckedQuestion> {
  return context.db.transaction(
    (tx): Result<CheckedQuestion> => {
      const own = ownSlot(context, tx, attemptId, slotId);
      if (!own.ok) return own;
      const { slot, rules, content, tried, othersAgain } = own.value;
      if (slot.againAt === null) {
        if (!mayTakeAgain(tried, rules, false, othersAgain))
          return refused('bad-input', 'This question cannot be taken again.');
        tx.update(paperSlot)
          .set({ againAt: context.now })
          .where(and(eq(paperSlot.id, slotId), isNull(paperSlot.againAt)))
          .run();
        tx.insert(attemptEvent)
          .values({ attemptId, at: context.now, kind: 'again', actorId: context.actor.userId, detail: { slotId } })
          .run();
      }
      return ok(checkedQuestion(content, slot.presentation, tried, rules, true, othersAgain));
    },
    { behavior: 'immediate' },
  );
}

/** Whether any question of an attempt has been taken again, and how many. */
export const takenAgain = (db: Db | Tx, attemptId: string): Set<string> =>
  new Set(
    db
      .select({ id: paperSlot.id })
      .from(paperSlot)
      .innerJoin(attempt, eq(attempt.id, paperSlot.attemptId))
      .where(and(eq(paperSlot.attemptId, attemptId), isNotNull(paperSlot.againAt)))
      .all()
      .map((row) => row.id),
  );
