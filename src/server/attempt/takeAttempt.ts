import { and, asc, eq, sql } from 'drizzle-orm';
import { notFound, ok, type Result, refused } from '@/core/base/result';
import type { Rich } from '@/core/base/rich';
import type { Instant } from '@/core/base/time';
import type { QuestionContent } from '@/core/question/content';
import { type StudentView, studentView } from '@/core/question/student';
import { hasExpired } from '@/core/sitting/clock';
import { attempt, attemptEvent, examRevision, paperSlot, response } from '@/db/schema';
import type { Context } from '../house/context';
import { attemptsWithRules, type RunningAttempt } from '../sitting/audience';
import { deadlineOf, endIfExpired } from './handIn';
import { frozenContents } from './paperContent';

export type TakingSlot = {
  slotId: string;
  number: number;
  partTitle: string;
  points: number;
  view: StudentView;
};

export type StoredAnswer = { slotId: string; value: unknown; comeBack: boolean };

export type TakingPage = {
  attemptId: string;
  title: string;
  instructions: Rich;
  number: number;
  slots: TakingSlot[];
};

/** An attempt of one's own that runs; what the clock has ended is handed in on the way. */
function ownRunning(context: Context, attemptId: string): Result<RunningAttempt> {
  const one = attemptsWithRules(context.db, { attemptId })[0];
  if (!one || one.attempt.userId !== context.actor.userId) return notFound('attempt');
  const expired = one.attempt.state === 'running' && hasExpired(deadlineOf(one), context.now);
  if (expired) context.db.transaction((tx) => endIfExpired(tx, one, context.now), { behavior: 'immediate' });
  if (expired || one.attempt.state !== 'running') return refused('too-late', 'This attempt has been handed in.');
  return ok(one);
}

/** The paper of a running attempt as its student may see it: built from the students' projection of each question. */
export function takingPage(context: Context, attemptId: string): Result<TakingPage> {
  const own = ownRunning(context, attemptId);
  if (!own.ok) return own;
  const { sitting, attempt: row } = own.value;
  const slots = context.db
    .select()
    .from(paperSlot)
    .where(eq(paperSlot.attemptId, attemptId))
    .orderBy(asc(paperSlot.position))
    .all();
  const contents = frozenContents(
    context.db,
    slots.map((slot) => slot.versionId),
  );
  const revision = context.db
    .select({ design: examRevision.design })
    .from(examRevision)
    .where(eq(examRevision.id, sitting.revisionId))
    .get();
  return ok({
    attemptId,
    title: sitting.title,
    instructions: revision?.design.instructions ?? { type: 'doc', content: [] },
    number: row.number,
    slots: slots.map((slot) => ({
      slotId: slot.id,
      number: slot.position + 1,
      partTitle: slot.partTitle,
      points: slot.points,
      view: studentView(contents.get(slot.versionId) as QuestionContent, slot.presentation),
    })),
  });
}

export type Opened = { epoch: number; answers: StoredAnswer[]; deadline: Instant | null; now: Instant };

/** A browser takes over the writing of an attempt: it gets the next writer epoch and what is stored so far. */
export function openForWriting(context: Context, attemptId: string): Result<Opened> {
  const own = ownRunning(context, attemptId);
  if (!own.ok) return own;
  return context.db.transaction(
    (tx) => {
      const epoch = tx
        .update(attempt)
        .set({ writerEpoch: sql`${attempt.writerEpoch} + 1`, lastContact: context.now })
        .where(and(eq(attempt.id, attemptId), eq(attempt.state, 'running')))
        .returning({ epoch: attempt.writerEpoch })
        .get();
      if (!epoch) return refused('too-late', 'This attempt has been handed in.');
      tx.insert(attemptEvent)
        .values({ attemptId, at: context.now, kind: 'opened', actorId: context.actor.userId, detail: epoch })
        .run();
      const answers = tx
        .select({ slotId: response.slotId, value: response.value, comeBack: response.comeBack })
        .from(response)
        .where(eq(response.attemptId, attemptId))
        .all();
      return ok({ ...epoch, answers, deadline: deadlineOf(own.value), now: context.now });
    },
    { behavior: 'immediate' },
  );
}

export type Pulse = { state: 'running' | 'ended'; superseded: boolean; deadline: Instant | null; now: Instant };

/** A sign of life from a taking page; the answer tells it where it stands. */
export function pulse(context: Context, attemptId: string, epoch: number): Result<Pulse> {
  const one = attemptsWithRules(context.db, { attemptId })[0];
  if (!one || one.attempt.userId !== context.actor.userId) return notFound('attempt');
  const running = ownRunning(context, attemptId).ok;
  if (running && one.attempt.writerEpoch === epoch)
    context.db.update(attempt).set({ lastContact: context.now }).where(eq(attempt.id, attemptId)).run();
  return ok({
    state: running ? 'running' : 'ended',
    superseded: one.attempt.writerEpoch !== epoch,
    deadline: deadlineOf(one),
    now: context.now,
  });
}
