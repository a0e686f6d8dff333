import { and, asc, eq, sql } from 'drizzle-orm';
import { notFound, ok, type Result, refused } from '@/core/base/result';
import type { Rich } from '@/core/base/rich';
import type { Instant } from '@/core/base/time';
import type { QuestionContent } from '@/core/question/content';
import { forStudent, type ShownQuestion } from '@/core/question/student';
import { hasExpired } from '@/core/sitting/clock';
import { preparedOnce } from '@/db/preparedOnce';
import { attempt, attemptEvent, paperSlot, response } from '@/db/schema';
import { passageContents } from '../bank/passages';
import { pinnedDesign } from '../exam/pinnedDesign';
import type { Context } from '../house/context';
import { attemptWithRules, type RunningAttempt } from '../sitting/audience';
import { deadlineOf, endIfExpired } from './handIn';
import { frozenContents } from './paperContent';

export type TakingSlot = {
  slotId: string;
  number: number;
  partTitle: string;
  points: number;
  view: ShownQuestion;
  /** The passage it belongs to, in `passages` of the paper. */
  passage: string | null;
};

export type StoredAnswer = { slotId: string; value: unknown; comeBack: boolean };

/** A paper as its student may see it: built from the students' projection of each question. */
export type TakingPaper = { title: string; instructions: Rich; slots: TakingSlot[]; passages: Record<string, Rich> };

/** An attempt of one's own that runs; what the clock has ended is handed in on the way. */
function ownRunning(context: Context, attemptId: string): Result<RunningAttempt> {
  const one = attemptWithRules(context.db, attemptId);
  if (!one || one.attempt.userId !== context.actor.userId) return notFound('attempt');
  const expired = one.attempt.state === 'running' && hasExpired(deadlineOf(one), context.now);
  if (expired) context.db.transaction((tx) => endIfExpired(tx, one, context.now), { behavior: 'immediate' });
  if (expired || one.attempt.state !== 'running') return refused('too-late', 'This attempt has been handed in.');
  return ok(one);
}

/** Whether an attempt can be gone on with: what the taking page asks before it is sent. */
export function mayGoOn(context: Context, attemptId: string): Result<{ title: string }> {
  const own = ownRunning(context, attemptId);
  return own.ok ? ok({ title: own.value.sitting.title }) : own;
}

const slotsOf = preparedOnce((db) =>
  db
    .select()
    .from(paperSlot)
    .where(eq(paperSlot.attemptId, sql.placeholder('attemptId')))
    .orderBy(asc(paperSlot.position))
    .prepare(),
);

function paperOf(context: Context, { attempt: row, sitting }: RunningAttempt): TakingPaper {
  const slots = slotsOf(context.db).all({ attemptId: row.id });
  const contents = frozenContents(
    context.db,
    slots.map((slot) => slot.versionId),
  );
  return {
    title: sitting.title,
    instructions: pinnedDesign(context.db, sitting.revisionId).instructions,
    slots: slots.map((slot) => ({
      slotId: slot.id,
      number: slot.position + 1,
      partTitle: slot.partTitle,
      points: slot.points,
      view: forStudent(contents.get(slot.versionId) as QuestionContent, slot.presentation),
      passage: slot.passageVersionId,
    })),
    passages: Object.fromEntries(
      passageContents(
        context.db,
        slots.flatMap((slot) => slot.passageVersionId ?? []),
      ),
    ),
  };
}

export type Opened = TakingPaper & { epoch: number; answers: StoredAnswer[]; deadline: Instant | null; now: Instant };

/**
 * A browser takes over the writing of an attempt: it gets the next writer epoch, the paper, and what is stored so far.
 */
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
      return ok({
        ...paperOf(context, own.value),
        ...epoch,
        answers,
        deadline: deadlineOf(own.value),
        now: context.now,
      });
    },
    { behavior: 'immediate' },
  );
}

export type Pulse = { state: 'running' | 'ended'; superseded: boolean; deadline: Instant | null; now: Instant };

/** A sign of life from a taking page; the answer tells it where it stands. */
export function pulse(context: Context, attemptId: string, epoch: number): Result<Pulse> {
  const one = attemptWithRules(context.db, attemptId);
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
