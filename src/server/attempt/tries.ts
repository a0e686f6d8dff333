import { and, asc, eq, isNotNull } from 'drizzle-orm';
import { mayTakeAgain, type Try, type TryState, triesAllowed, tryState } from '@/core/attempt/tries';
import type { Rich } from '@/core/base/rich';
import type { AnswerFeedback } from '@/core/question/answerFeedback';
import type { QuestionContent } from '@/core/question/content';
import { feedbackFor } from '@/core/question/feedbackFor';
import type { Presentation } from '@/core/question/presentation';
import { withValues } from '@/core/question/withValues';
import type { SittingRules } from '@/core/sitting/rules';
import type { Db, Tx } from '@/db/client';
import { attempt, paperSlot, questionTry } from '@/db/schema';

/** What a student learns of a question that was checked. */
export type CheckedQuestion = TryState & {
  /** A hint while there are tries left. */
  said: Rich | null;
  /** What the author says to the answer once the question is closed: to what was picked or entered, and to a right or another one. */
  feedback: AnswerFeedback[];
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
  const settled = withValues(content, presentation);
  const over = state.outcome !== null && state.closed;
  return {
    ...state,
    said: state.outcome === null || state.closed ? null : (settled.feedback.hint ?? null),
    feedback: over ? feedbackFor(settled, presentation, tried.at(-1)?.value, state.outcome === 'right') : [],
    again,
    mayAgain: mayTakeAgain(tried, rules, again, othersAgain),
  };
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
