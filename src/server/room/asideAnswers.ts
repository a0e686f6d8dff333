import { and, asc, eq, isNull, sql } from 'drizzle-orm';
import { z } from 'zod';
import { type Aside, waitsForDecision } from '@/core/attempt/standing';
import { id } from '@/core/base/id';
import { notFound, ok, type Result, refused } from '@/core/base/result';
import { type QuestionContent, stemLine } from '@/core/question/content';
import { responseText } from '@/core/question/score';
import { attempt, attemptEvent, paperSlot, response, responseAside } from '@/db/schema';
import { asidesOf } from '../attempt/asides';
import { markAgain } from '../attempt/endAttempt';
import { tell } from '../house/bus';
import { command, query } from '../house/useCase';
import { attemptWithRules, type RunningAttempt } from '../records/audience';
import { frozenContents } from '../records/paperContent';
import { toSitting } from '../sitting/toSitting';

const asideKey = z.object({ slotId: id('slot'), epoch: z.int(), sequence: z.int() });

type AsideKey = z.output<typeof asideKey>;

/** An answer that was kept aside and waits for a decision, beside the one that counts. */
export type AsideAnswer = AsideKey &
  Pick<Aside, 'number' | 'reason' | 'receivedAt' | 'givenAt' | 'inTime'> & {
    question: string;
    text: string;
    /** The answer that counts now; empty where there is none. */
    counting: string;
  };

/** The answers of a student that were kept aside and wait for a decision, in the order of their paper. */
export const seeKeptAside = query({
  admits: toSitting('sitting.invigilate'),
  takes: [id('user')],
  does({ db, sittingId }, userId): Result<AsideAnswer[]> {
    const attempts = db
      .select({ id: attempt.id })
      .from(attempt)
      .where(and(eq(attempt.sittingId, sittingId), eq(attempt.userId, userId)))
      .orderBy(asc(attempt.number))
      .all();
    const rows = attempts
      .flatMap((one) => asidesOf(db, attemptWithRules(db, one.id) as RunningAttempt))
      .filter(waitsForDecision);
    const contents = frozenContents(
      db,
      rows.map((row) => row.slot.versionId),
    );
    return ok(
      rows.map(({ aside, slot, value, number, reason, receivedAt, givenAt, inTime }) => {
        const content = contents.get(slot.versionId) as QuestionContent;
        return {
          slotId: slot.id,
          epoch: aside.epoch,
          sequence: aside.sequence,
          number,
          question: stemLine(content),
          reason,
          receivedAt,
          givenAt,
          inTime,
          text: responseText(content, slot.presentation, aside.value),
          counting: responseText(content, slot.presentation, value),
        };
      }),
    );
  },
});

/**
 * Decides about an answer that was kept aside: it takes the place of the one that counts, and is marked like it; or it is
 * left out. Where one is taken, all others of its question are left out; where one is left out, so are the older ones.
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
    const decided = { decidedBy: context.actor.userId, decidedAt: context.now };
    const isThis = sql`(${responseAside.epoch}, ${responseAside.sequence}) = (${key.epoch}, ${key.sequence})`;
    const isOlder = sql`(${responseAside.epoch}, ${responseAside.sequence}) < (${key.epoch}, ${key.sequence})`;
    const open = and(eq(responseAside.slotId, key.slotId), isNull(responseAside.decision));
    tx.update(responseAside)
      .set({ ...decided, decision: take ? 'taken' : 'left' })
      .where(and(open, isThis))
      .run();
    tx.update(responseAside)
      .set({ ...decided, decision: 'left' })
      .where(take ? open : and(open, isOlder))
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
