import { randomBytes } from 'node:crypto';
import { eq, inArray } from 'drizzle-orm';
import { readResponse } from '@/core/question/student';
import type { Tx } from '@/db/client';
import { anonymousAnswer, paperSlot, question, response, responseAside } from '@/db/schema';
import type { RunningAttempt } from '../records/audience';

/** A key that says nothing of when or for whom it was made. */
export const randomKey = () => randomBytes(16).toString('hex');

/**
 * Takes the answers of an anonymous attempt in: under random keys, without time or order, and deletes the paper, so that
 * nothing stored leads from an answer to the person. That the person took part stays, in the attempt. What the clock ends
 * without answers leaves only that.
 */
export function takeAnonymously(
  tx: Tx,
  { attempt, sitting }: RunningAttempt,
  answers: ReadonlyMap<string, unknown>,
): void {
  const slots = tx
    .select({ slot: paperSlot, type: question.type })
    .from(paperSlot)
    .innerJoin(question, eq(question.id, paperSlot.questionId))
    .where(eq(paperSlot.attemptId, attempt.id))
    .all();
  const sheet = randomKey();
  const rows = slots.map(({ slot, type }) => ({
    id: randomKey(),
    sittingId: sitting.id,
    sheet,
    partTitle: slot.partTitle,
    questionId: slot.questionId,
    versionId: slot.versionId,
    points: slot.points,
    presentation: slot.presentation,
    value: readResponse(type, answers.get(slot.id)) ?? null,
  }));
  if (rows.some((row) => row.value !== null)) tx.insert(anonymousAnswer).values(rows).run();
  const ids = slots.map(({ slot }) => slot.id);
  tx.delete(responseAside).where(inArray(responseAside.slotId, ids)).run();
  tx.delete(response).where(eq(response.attemptId, attempt.id)).run();
  tx.delete(paperSlot).where(eq(paperSlot.attemptId, attempt.id)).run();
}
