import { randomBytes } from 'node:crypto';
import { eq, inArray } from 'drizzle-orm';
import { readResponse } from '@/core/question/student';
import type { Tx } from '@/db/client';
import { anonymousAnswer, paperSlot, question, response, responseAside } from '@/db/schema';
import type { RunningAttempt } from '../records/audience';

const randomKey = () => randomBytes(16).toString('hex');

/** A question of a paper, with what was answered to it; null for nothing. */
type Answered = Pick<
  typeof anonymousAnswer.$inferInsert,
  'partTitle' | 'questionId' | 'versionId' | 'points' | 'presentation' | 'value'
>;

/**
 * Stores the answers of one paper of an anonymous sitting under random keys, without time or order.
 *
 * @returns the key that they share, so that they can be read together
 */
export function storeAnonymously(tx: Tx, sittingId: string, answers: readonly Answered[]): string {
  const sheet = randomKey();
  const rows = answers.map(({ partTitle, questionId, versionId, points, presentation, value }) => ({
    id: randomKey(),
    sittingId,
    sheet,
    partTitle,
    questionId,
    versionId,
    points,
    presentation,
    value,
  }));
  tx.insert(anonymousAnswer).values(rows).run();
  return sheet;
}

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
  const given = slots.map(({ slot, type }) => ({ ...slot, value: readResponse(type, answers.get(slot.id)) ?? null }));
  if (given.some((one) => one.value !== null)) storeAnonymously(tx, sitting.id, given);
  const ids = slots.map(({ slot }) => slot.id);
  tx.delete(responseAside).where(inArray(responseAside.slotId, ids)).run();
  tx.delete(response).where(eq(response.attemptId, attempt.id)).run();
  tx.delete(paperSlot).where(eq(paperSlot.attemptId, attempt.id)).run();
}
