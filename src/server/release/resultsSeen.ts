import { and, eq, like } from 'drizzle-orm';
import { ok, type Result } from '@/core/base/result';
import type { Instant } from '@/core/base/time';
import type { Db } from '@/db/client';
import { preference } from '@/db/schema';
import type { Context } from '../house/context';
import { prefer } from '../house/preferences';
import { command } from '../house/useCase';
import type { MyResult } from './myResults';
import { toOwnResult } from './toOwnResult';

const nameOf = (sittingId: string) => `result-seen/${sittingId}`;

/** Remembers when a student last looked at a result of theirs. */
export const noteSeen = command({
  admits: toOwnResult,
  unlogged: 'when somebody last looked is only remembered for them',
  does({ tx, actor, now, sittingId }): Result<null> {
    prefer(tx, actor.userId, nameOf(sittingId), now);
    return ok(null);
  },
});

/** Of some results, those that were put in front of the student after they last looked. */
export function newResults(context: Context, results: readonly MyResult[]): MyResult[] {
  const seen = new Map(
    context.db
      .select({ name: preference.name, at: preference.value })
      .from(preference)
      .where(and(eq(preference.userId, context.actor.userId), like(preference.name, nameOf('%'))))
      .all()
      .map((row) => [row.name, row.at as Instant]),
  );
  return results.filter((one) => (seen.get(nameOf(one.sittingId)) ?? Number.NEGATIVE_INFINITY) < one.at);
}

/** When a student last looked at their result of a sitting; null where they have not. */
export function lastLook(db: Db, sittingId: string, userId: string): Instant | null {
  const row = db
    .select({ at: preference.value })
    .from(preference)
    .where(and(eq(preference.userId, userId), eq(preference.name, nameOf(sittingId))))
    .get();
  return (row?.at as Instant | undefined) ?? null;
}
