import { and, asc, eq, sql } from 'drizzle-orm';
import { z } from 'zod';
import { ok, type Result, refused } from '@/core/base/result';
import type { ExamDesign } from '@/core/exam/design';
import { paperRules } from '@/core/exam/paperRules';
import type { Db } from '@/db/client';
import { preparedOnce } from '@/db/preparedOnce';
import { attempt, attemptEvent, paperSlot } from '@/db/schema';
import { command } from '../house/useCase';
import { rulesOf } from '../records/audience';
import { pinnedDesign } from '../records/pinnedDesign';
import { inItsAttempt, toRunningAttempt } from './toOwnAttempt';

const places = preparedOnce((db) =>
  db
    .select({
      id: paperSlot.id,
      partId: paperSlot.partId,
      lineId: paperSlot.lineId,
      passageId: paperSlot.passageVersionId,
    })
    .from(paperSlot)
    .where(eq(paperSlot.attemptId, sql.placeholder('attemptId')))
    .orderBy(asc(paperSlot.position))
    .prepare(),
);

/** Whether a question lies on a page that its student has gone on from, where the way is onward only. */
export function isBehind(
  db: Db,
  { id: attemptId, reached }: { id: string; reached: number },
  design: ExamDesign,
  slotId: string,
): boolean {
  if (reached === 0) return false;
  const slots = places(db).all({ attemptId });
  const i = slots.findIndex((slot) => slot.id === slotId);
  return i >= 0 && (paperRules(design, slots)[i]?.page ?? 0) < reached;
}

/**
 * Goes on to a page, where the way is onward only: what lies before it can no longer be answered. Going on twice is
 * harmless; going back is refused.
 */
export const goOnward = command({
  admits: toRunningAttempt,
  takes: [z.int()],
  unlogged: inItsAttempt,
  does({ tx, context, attemptId, own: one }, page): Result<{ reached: number }> {
    if (!rulesOf(one.sitting).onwardOnly) return ok({ reached: 0 });
    const rules = paperRules(pinnedDesign(context.db, one.attempt.revisionId), places(context.db).all({ attemptId }));
    const last = (rules.at(-1)?.page ?? 0) + 1;
    if (page < one.attempt.reached || page > last) return refused('bad-input', 'There is no way back.');
    if (page === one.attempt.reached) return ok({ reached: page });
    const moved = tx
      .update(attempt)
      .set({ reached: page })
      .where(and(eq(attempt.id, attemptId), sql`${attempt.reached} < ${page}`))
      .run();
    if (moved.changes)
      tx.insert(attemptEvent)
        .values({ attemptId, at: context.now, kind: 'went-on', actorId: context.actor.userId, detail: { page } })
        .run();
    return ok({ reached: page });
  },
});
