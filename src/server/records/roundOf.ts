import { eq } from 'drizzle-orm';
import type { Db, Tx } from '@/db/client';
import { handset, round } from '@/db/schema';

export type RoundRow = typeof round.$inferSelect;
export type HandsetRow = typeof handset.$inferSelect;

/** What a round has beyond its sitting; undefined where the sitting is none. */
export const roundOf = (db: Db | Tx, sittingId: string): RoundRow | undefined =>
  db.select().from(round).where(eq(round.sittingId, sittingId)).get();

/** The device that a person stands for; undefined where they are a person of the roster. */
export const handsetOf = (db: Db | Tx, userId: string): HandsetRow | undefined =>
  db.select().from(handset).where(eq(handset.userId, userId)).get();
