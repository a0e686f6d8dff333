import { and, eq } from 'drizzle-orm';
import type { Db, Tx } from '@/db/client';
import { preference } from '@/db/schema';

/** What a person set last under a name; undefined if nothing. */
export const preferred = (db: Db | Tx, userId: string, name: string): unknown =>
  db
    .select({ value: preference.value })
    .from(preference)
    .where(and(eq(preference.userId, userId), eq(preference.name, name)))
    .get()?.value;

/** Remembers what a person set, for the next time. */
export function prefer(tx: Db | Tx, userId: string, name: string, value: unknown): void {
  tx.insert(preference)
    .values({ userId, name, value })
    .onConflictDoUpdate({ target: [preference.userId, preference.name], set: { value } })
    .run();
}
