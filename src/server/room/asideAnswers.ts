import { and, asc, eq, inArray, isNull } from 'drizzle-orm';
import { z } from 'zod';
import { id } from '@/core/base/id';

import { notFound, ok, type Result, refused } from '@/core/base/result';
import type { Instant } from '@/core/base/time';
import { type QuestionContent, stemLine } from '@/core/question/content';
import { responseText } from '@/core/question/score';
import { attempt, attemptEvent, paperSlot, response, responseAside } from '@/db/schema';
import { deadlineOf } from '../attempt/deadlineOf';
import { markAgain } from '../attempt/endAttempt';
import { tell } from '../house/bus';
import { command, query } from '../house/useCase';
import { attemptWithRules, type RunningAttempt } from '../records/audience';
import { frozenContents } from '../records/paperContent';
import { toSitting } from '../sitting/toSitting';

const asideKey = z.object({ slotId: id('slot'), epoch: z.int(), sequence: z.int() });

type AsideKey = z.output<typeof asideKey>;

/** An answer that came too late, or from a window that another had replaced, beside the one that counts. */
export type AsideAnswer = AsideKey & {
  number: number;
  question: string;
  reason: 'late' | 'superseded';
  receivedAt: Instant;
  /** When it was given, as its browser says, and whether that was before the deadline. */
  givenAt: Instant | null;
  inTime: boolean;
  text: string;
  /** The answer that counts now; empty where there is none. */
  counting: string;
};

/** The answers of a student that were kept aside and wait for a decision: of each question the newest. */
export const seeKeptAside = query({
  admits: toSitting('sitting.invigilate'),
  takes: [id('user')],
  does({ db, sittingId }, userId): Result<AsideAnswer[]> {
    const rows = db
      .select({ aside: responseAside, slot: paperSlot, value: response.value })
      .from(responseAside)
      .innerJoin(paperSlot, eq(paperSlot.id, responseAside.slotId))
      .innerJoin(attempt, eq(attempt.id, paperSlot.attemptId))
      .leftJoin(response, eq(response.slotId, paperSlot.id))
      .where(
        and(
          eq(attempt.sittingId, sittingId),
          eq(attempt.userId, userId),
          isNull(responseAside.decision),
          inArray(responseAside.reason, ['late', 'superseded']),
        ),
      )
      .orderBy(asc(paperSlot.position), asc(responseAside.epoch), asc(responseAside.sequence))
      .all();
    const contents = frozenContents(
      db,
      rows.map((row) => row.slot.versionId),
    );
    const deadlines = new Map<string, Instant | null>();
    const newest = new Map(rows.map((row) => [row.slot.id, row]));
    return ok(
      [...newest.values()].map(({ aside, slot, value }) => {
        const content = contents.get(slot.versionId) as QuestionContent;
        if (!deadlines.has(slot.attemptId))
          deadlines.set(slot.attemptId, deadlineOf(attemptWithRules(db, slot.attemptId) as RunningAttempt));
        const deadline = deadlines.get(slot.attemptId) ?? null;
        return {
          slotId: slot.id,
          epoch: aside.epoch,
          sequence: aside.sequence,
          number: slot.position + 1,
          question: stemLine(content),
          reason: aside.reason === 'late' ? 'late' : 'superseded',
          receivedAt: aside.receivedAt,
          givenAt: aside.givenAt,
          inTime: aside.givenAt !== null && (deadline === null || aside.givenAt <= deadline),
          text: responseText(content, slot.presentation, aside.value),
          counting: responseText(content, slot.presentation, value),
        };
      }),
    );
  },
});

/**
 * Decides about an answer that was kept aside: it takes the place of the one that counts, and is marked like it; or it is
 * left out. What is decided of a question decides all that was kept of it before.
 */
export const decideAside = command({
  admits: toSitting('sitting.invigilate'),
  takes: [asideKey, z.boolean()],
  logs: 'attempt.aside-taken',
  does({ tx, context, courseId, sittingId, record, afterwards }, key, take): Result<null> {
    const found = tx
      .select({ aside: responseAside, attemptId: paperSlot.attemptId })
      .from(responseAside)
      .innerJoin(paperSlot, eq(paperSlot.id, responseAside.slotId))
      .where(
        and(
          eq(responseAside.slotId, key.slotId),
          eq(responseAside.epoch, key.epoch),
          eq(responseAside.sequence, key.sequence),
        ),
      )
      .get();
    const one = found && attemptWithRules(context.db, found.attemptId);
    if (!found || !one || one.sitting.id !== sittingId || one.sitting.courseId !== courseId) return notFound('answer');
    if (found.aside.decision !== null) return refused('conflict', 'This answer has been decided on already.');
    if (one.attempt.state === 'running')
      return refused('conflict', 'The student is writing: decide once the attempt has been handed in.');
    tx.update(responseAside)
      .set({ decision: take ? 'taken' : 'left', decidedBy: context.actor.userId, decidedAt: context.now })
      .where(and(eq(responseAside.slotId, key.slotId), isNull(responseAside.decision)))
      .run();
    if (take) {
      const stored = tx.select().from(response).where(eq(response.slotId, key.slotId)).get();
      const next = {
        value: found.aside.value,
        revision: (stored?.revision ?? 0) + 1,
        savedAt: found.aside.receivedAt,
      };
      tx.insert(response)
        .values({
          slotId: key.slotId,
          attemptId: found.attemptId,
          comeBack: false,
          epoch: key.epoch,
          sequence: key.sequence,
          ...next,
        })
        .onConflictDoUpdate({ target: response.slotId, set: next })
        .run();
      if (one.sitting.scored && one.attempt.state === 'handed-in') markAgain(tx, one, context.now);
    }
    tx.insert(attemptEvent)
      .values({
        attemptId: found.attemptId,
        at: context.now,
        kind: take ? 'aside-taken' : 'aside-left',
        actorId: context.actor.userId,
        detail: key,
      })
      .run();
    record({
      ...(take ? {} : { action: 'attempt.aside-left' }),
      subjectId: sittingId,
      detail: { attemptId: found.attemptId, ...key },
    });
    afterwards(() => tell({ sittingId, what: 'attempt', userId: one.attempt.userId }));
    return ok(null);
  },
});
