import { and, asc, eq, isNotNull, isNull, ne } from 'drizzle-orm';
import { whyNotWrite } from '@/core/attempt/attemptMachine';
import { whyNotAnswerSaid, whyNotSave } from '@/core/attempt/mayAnswer';
import { mayTakeAgain, type Try, tryState } from '@/core/attempt/tries';
import { id } from '@/core/base/id';
import { notFound, ok, type Result, refused } from '@/core/base/result';
import type { QuestionContent } from '@/core/question/content';
import { scoreResponse } from '@/core/question/score';
import { readResponse } from '@/core/question/student';
import { saveAllowance } from '@/core/sitting/saveAllowance';
import type { Tx } from '@/db/client';
import { attemptEvent, paperSlot, questionTry, response } from '@/db/schema';
import type { Context } from '../house/context';
import { command } from '../house/useCase';
import { type RunningAttempt, rulesOf } from '../records/audience';
import { frozenContents } from '../records/paperContent';
import { progressed } from './progressed';
import { attemptNow, questionsNow, type SlotNow } from './questionsNow';
import { inItsAttempt, toOwnAttempt } from './toOwnAttempt';

import { type CheckedQuestion, checkedQuestion } from './tries';

/** A slot of one's own in an attempt whose answers are still taken. */
function ownSlot(context: Context, tx: Tx, one: RunningAttempt, slotId: string) {
  const attemptId = one.attempt.id;
  const over = whyNotWrite(attemptNow(one), context.now, saveAllowance);
  if (over) return refused('too-late', whyNotAnswerSaid[over]);
  const found = tx
    .select({ slot: paperSlot, value: response.value, revision: response.revision })
    .from(paperSlot)
    .leftJoin(response, eq(response.slotId, paperSlot.id))
    .where(and(eq(paperSlot.id, slotId), eq(paperSlot.attemptId, attemptId)))
    .get();
  if (!found) return notFound('question on this paper');
  const why = whyNotSave(
    attemptNow(one),
    questionsNow(tx, one).find((one) => one.slotId === slotId) as SlotNow,
    context.now,
  );
  // What is closed by its tries says how it went; that its part is full concerns only what is empty.
  if (why && why !== 'closed' && why !== 'beyond-choose') return refused('bad-input', whyNotAnswerSaid[why]);
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
export const checkQuestion = command({
  admits: toOwnAttempt,
  takes: [id('slot')],
  unlogged: inItsAttempt,
  does({ tx, context, attemptId, own: one, afterwards }, slotId): Result<CheckedQuestion> {
    const own = ownSlot(context, tx, one, slotId);
    afterwards(() => progressed(context.db, attemptId, context));
    if (!own.ok) return own;
    const { slot, value, revision, rules, content, tried, othersAgain } = own.value;
    const again = slot.againAt !== null;
    const state = tryState(tried, rules, again);
    if (state.most === 0) return refused('bad-input', 'The questions of this exam are not checked before the hand-in.');
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
});

/** Takes a missed question again at the end: it is open once more, for one try. */
export const takeAgain = command({
  admits: toOwnAttempt,
  takes: [id('slot')],
  unlogged: inItsAttempt,
  does({ tx, context, attemptId, own: one }, slotId): Result<CheckedQuestion> {
    const own = ownSlot(context, tx, one, slotId);
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
});
