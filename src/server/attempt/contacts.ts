import { eq } from 'drizzle-orm';
import type { Instant } from '@/core/base/time';
import type { Db } from '@/db/client';
import { attempt } from '@/db/schema';

/**
 * When each running attempt gave its last sign of life. A class gives one every second or so; they are kept in memory and
 * written together, since nothing is lost with a few seconds of them.
 */
const shared = globalThis as typeof globalThis & { wuzzenContacts?: Map<string, Instant> };
shared.wuzzenContacts ??= new Map();
const contacts = shared.wuzzenContacts;

export const noteContact = (attemptId: string, at: Instant): void => {
  contacts.set(attemptId, at);
};

/** The last sign of life of an attempt: the one in memory, else the stored one. */
export const lastContactOf = (row: { id: string; lastContact: Instant | null }): Instant | null =>
  contacts.get(row.id) ?? row.lastContact;

/** Writes what came since the last time. @returns how many */
export function storeContacts(db: Db): number {
  if (contacts.size === 0) return 0;
  const all = [...contacts];
  contacts.clear();
  db.transaction(
    (tx) => {
      for (const [id, at] of all) tx.update(attempt).set({ lastContact: at }).where(eq(attempt.id, id)).run();
    },
    { behavior: 'immediate' },
  );
  return all.length;
}
