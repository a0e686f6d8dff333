import { and, eq, like, max } from 'drizzle-orm';
import { ok, type Result } from '@/core/base/result';
import type { Instant } from '@/core/base/time';
import type { Db } from '@/db/client';
import { feedbackReply, preference } from '@/db/schema';
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

/** Something about a result that came after its student last looked: the result itself, or an answer to their reply. */
export type NewResult = Pick<MyResult, 'sittingId' | 'title' | 'timeZone' | 'at'> & { what: 'result' | 'answer' };

/** Of some results, those about which something was put in front of the student after they last looked. */
export function newResults({ db, actor }: Context, results: readonly MyResult[]): NewResult[] {
  const seen = new Map(
    db
      .select({ name: preference.name, at: preference.value })
      .from(preference)
      .where(and(eq(preference.userId, actor.userId), like(preference.name, nameOf('%'))))
      .all()
      .map((row) => [row.name, row.at as Instant]),
  );
  const answered = new Map(
    db
      .select({ sittingId: feedbackReply.sittingId, at: max(feedbackReply.answeredAt) })
      .from(feedbackReply)
      .where(eq(feedbackReply.userId, actor.userId))
      .groupBy(feedbackReply.sittingId)
      .all()
      .map((row) => [row.sittingId, row.at]),
  );
  return results.flatMap(({ sittingId, title, timeZone, at }): NewResult[] => {
    const looked = seen.get(nameOf(sittingId)) ?? Number.NEGATIVE_INFINITY;
    if (looked < at) return [{ sittingId, title, timeZone, at, what: 'result' }];
    const answer = answered.get(sittingId) ?? null;
    return answer !== null && looked < answer ? [{ sittingId, title, timeZone, at: answer, what: 'answer' }] : [];
  });
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
