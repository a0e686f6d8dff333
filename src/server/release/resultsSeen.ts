import { and, eq, like } from 'drizzle-orm';
import { ok, type Result } from '@/core/base/result';
import type { Instant } from '@/core/base/time';
import { preference } from '@/db/schema';
import type { Context } from '../house/context';
import { prefer } from '../house/preferences';
import type { MyResult } from './myResults';
import { ownSitting } from './ownSitting';

const nameOf = (sittingId: string) => `result-seen/${sittingId}`;

/** Remembers when a student last looked at a result of theirs. */
export function noteSeen(context: Context, sittingId: string): Result<null> {
  const own = ownSitting(context, sittingId);
  if (!own.ok) return own;
  prefer(context.db, context.actor.userId, nameOf(sittingId), context.now);
  return ok(null);
}

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
