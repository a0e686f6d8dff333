import { and, asc, eq, sql } from 'drizzle-orm';
import { z } from 'zod';
import { whyNotWrite } from '@/core/attempt/attemptMachine';
import { owedBefore, owedSaid, whyNotAnswerSaid } from '@/core/attempt/mayAnswer';
import { ok, type Result, refused } from '@/core/base/result';
import type { ExamDesign } from '@/core/exam/design';
import { paperRules } from '@/core/exam/paperRules';
import { saveAllowance } from '@/core/sitting/saveAllowance';
import type { Db } from '@/db/client';
import { preparedOnce } from '@/db/preparedOnce';
import { attempt, attemptEvent, paperSlot } from '@/db/schema';
import { command } from '../house/useCase';
import { rulesOf } from '../records/audience';
import { pinnedDesign } from '../records/pinnedDesign';
import { attemptNow, questionsNow } from './questionsNow';
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

/** The page on which a question of a paper stands, from 0. */
export function pageOf(db: Db, attemptId: string, design: ExamDesign, slotId: string): number {
  const slots = places(db).all({ attemptId });
  const i = slots.findIndex((slot) => slot.id === slotId);
  return paperRules(design, slots)[i]?.page ?? 0;
}

/**
 * Goes on to a page, where the way is onward only: what lies before it can no longer be answered. Going on twice is
 * harmless; going back is refused, and so is leaving behind what has to be answered and still can be. Of an anonymous
 * attempt the page alone knows what is answered.
 */
export const goOnward = command({
  admits: toRunningAttempt,
  takes: [z.int()],
  unlogged: inItsAttempt,
  does({ tx, context, attemptId, own: one }, page): Result<{ reached: number }> {
    if (!rulesOf(one.sitting).onwardOnly) return ok({ reached: 0 });
    const over = whyNotWrite(attemptNow(one), context.now, saveAllowance);
    if (over) return refused('too-late', whyNotAnswerSaid[over]);
    const rules = paperRules(pinnedDesign(context.db, one.attempt.revisionId), places(context.db).all({ attemptId }));
    const last = (rules.at(-1)?.page ?? 0) + 1;
    if (page < one.attempt.reached || page > last) return refused('bad-input', 'There is no way back.');
    if (page === one.attempt.reached) return ok({ reached: page });
    const owed = one.sitting.anonymous ? [] : owedBefore(attemptNow(one), questionsNow(tx, one), page, context.now);
    if (owed.length) return refused('conflict', owedSaid(owed, 'you go on'));
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
