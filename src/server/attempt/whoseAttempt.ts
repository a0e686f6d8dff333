import { and, eq, max, sql } from 'drizzle-orm';
import type { Tx } from '@/db/client';
import { attempt, attemptEvent, handset, publication } from '@/db/schema';

/**
 * Gives what a device wrote to the person on the roster whose it is: the attempt, and what was told of its result. Nothing of
 * the answers changes; the device goes on seeing them.
 *
 * @param by who found it out
 */
export function giveToPerson(
  tx: Tx,
  device: { userId: string; sittingId: string },
  personId: string,
  at: number,
  by: string,
): void {
  const { userId, sittingId } = device;
  const last = tx
    .select({ n: max(attempt.number) })
    .from(attempt)
    .where(and(eq(attempt.sittingId, sittingId), eq(attempt.userId, personId)))
    .get();
  const moved = tx
    .update(attempt)
    .set({ userId: personId, cameAs: userId, number: sql`${attempt.number} + ${last?.n ?? 0}` })
    .where(and(eq(attempt.sittingId, sittingId), eq(attempt.userId, userId)))
    .returning({ id: attempt.id })
    .all();
  for (const { id } of moved) tx.insert(attemptEvent).values({ attemptId: id, at, kind: 'matched', actorId: by }).run();
  tx.update(publication)
    .set({ userId: personId })
    .where(and(eq(publication.sittingId, sittingId), eq(publication.userId, userId)))
    .run();
  tx.update(handset).set({ standsFor: personId }).where(eq(handset.userId, userId)).run();
}

/** Takes that back: what a device wrote is nobody's on the roster again. */
export function takeFromPerson(tx: Tx, device: { userId: string; sittingId: string }, at: number, by: string): void {
  const { userId, sittingId } = device;
  const rows = tx
    .select({ id: attempt.id, personId: attempt.userId })
    .from(attempt)
    .where(and(eq(attempt.sittingId, sittingId), eq(attempt.cameAs, userId)))
    .all();
  rows.forEach(({ id, personId }, i) => {
    tx.update(attempt)
      .set({ userId, cameAs: null, number: i + 1 })
      .where(eq(attempt.id, id))
      .run();
    tx.insert(attemptEvent).values({ attemptId: id, at, kind: 'matched', actorId: by }).run();
    tx.update(publication)
      .set({ userId })
      .where(
        and(
          eq(publication.sittingId, sittingId),
          eq(publication.userId, personId),
          sql`exists (select 1 from json_each(${publication.attemptIds}) where json_each.value = ${id})`,
        ),
      )
      .run();
  });
  tx.update(handset).set({ standsFor: null }).where(eq(handset.userId, userId)).run();
}
