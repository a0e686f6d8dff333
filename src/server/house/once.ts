import { and, eq, lt } from 'drizzle-orm';
import { ok, type Result } from '@/core/base/result';
import { day } from '@/core/base/time';
import type { Tx } from '@/db/client';
import { carriedOut } from '@/db/schema';
import type { Context } from './context';

/** As long as browsers keep what was never answered, and a little longer. */
const longestKept = 61 * day;

/** What was answered when a command was carried out under this name; null where it has not been. */
export function answeredBefore(tx: Tx, { actor, once }: Context): Result<unknown> | null {
  if (once === undefined) return null;
  const row = tx
    .select()
    .from(carriedOut)
    .where(and(eq(carriedOut.userId, actor.userId), eq(carriedOut.once, once)))
    .get();
  return row ? ok(row.answer) : null;
}

/** Writes down, in the transaction of the command, that it was carried out under this name. */
export function noteAnswered(tx: Tx, { actor, once, now }: Context, answer: unknown): void {
  if (once === undefined) return;
  tx.delete(carriedOut)
    .where(lt(carriedOut.at, now - longestKept))
    .run();
  tx.insert(carriedOut).values({ userId: actor.userId, once, at: now, answer }).run();
}
