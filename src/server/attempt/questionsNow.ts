import { asc, eq } from 'drizzle-orm';
import type { AttemptNow, QuestionNow } from '@/core/attempt/mayAnswer';
import { triesAllowed, tryState } from '@/core/attempt/tries';
import { type Instant, minute } from '@/core/base/time';
import { choosePartsOf, paperRules, questionDeadline, type SlotRules } from '@/core/exam/paperRules';
import { readResponse } from '@/core/question/student';
import type { Db, Tx } from '@/db/client';
import { paperSlot, question, response } from '@/db/schema';
import { type RunningAttempt, rulesOf } from '../records/audience';
import { pinnedDesign } from '../records/pinnedDesign';
import { deadlineOf } from './deadlineOf';
import { triesOf } from './tries';

/** An attempt as the rule for answering sees it. */
export const attemptNow = (one: RunningAttempt): AttemptNow => ({
  phase: one.attempt.state,
  deadline: deadlineOf(one),
  reached: rulesOf(one.sitting).onwardOnly ? one.attempt.reached : 0,
});

/** The own time of a question in milliseconds, before extra time: its line's, else what the sitting gives to each. */
export const ownLimit = (ofLine: number | null, minutesPerQuestion: number | null): number | null =>
  ofLine ?? (minutesPerQuestion === null ? null : minutesPerQuestion * minute);

/** A question of a paper as the rule for answering sees it. */
export type SlotNow = QuestionNow & { slotId: string; answeredAt: Instant | null };

/**
 * Every question of a paper as the rule for answering sees it, in the order of the paper.
 *
 * @param given the answers of an anonymous attempt, which lie in its browser until the hand-in
 */
export function questionsNow(
  db: Db | Tx,
  one: RunningAttempt,
  given: ReadonlyMap<string, unknown> | null = null,
): SlotNow[] {
  const { attempt: row, sitting, arrangement } = one;
  const rules = rulesOf(sitting);
  const design = pinnedDesign(db, row.revisionId);
  const slots = db
    .select({ slot: paperSlot, value: response.value, savedAt: response.savedAt, type: question.type })
    .from(paperSlot)
    .innerJoin(question, eq(question.id, paperSlot.questionId))
    .leftJoin(response, eq(response.slotId, paperSlot.id))
    .where(eq(paperSlot.attemptId, row.id))
    .orderBy(asc(paperSlot.position))
    .all();
  const laid = paperRules(
    design,
    slots.map(({ slot }) => ({ ...slot, passageId: slot.passageVersionId })),
  );
  const deadline = deadlineOf(one);
  const tried = triesAllowed(rules) > 0 ? triesOf(db, row.id) : null;
  const answered = slots.map(({ slot, value, type }) =>
    Boolean(readResponse(type, given ? given.get(slot.id) : value)),
  );
  const choose = choosePartsOf(design);
  const filled = new Map<string, number>();
  slots.forEach(({ slot }, i) => {
    if (answered[i]) filled.set(slot.partId, (filled.get(slot.partId) ?? 0) + 1);
  });
  return slots.map(({ slot, savedAt }, i): SlotNow => {
    const { page, required, limit: ofLine } = laid[i] as SlotRules;
    const limit = ownLimit(ofLine, rules.minutesPerQuestion);
    const part = choose.get(slot.partId);
    return {
      slotId: slot.id,
      number: i + 1,
      page,
      required,
      answered: answered[i] as boolean,
      answeredAt: savedAt,
      timed: limit !== null,
      until: limit === null ? null : questionDeadline(limit, arrangement.extraPercent, slot.openedAt, deadline),
      closed: tried !== null && tryState(tried.get(slot.id) ?? [], rules, slot.againAt !== null).closed,
      full: part?.extra === 'refused' && !answered[i] && (filled.get(slot.partId) ?? 0) >= part.count,
    };
  });
}
