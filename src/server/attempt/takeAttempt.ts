import { and, asc, eq, isNull, sql } from 'drizzle-orm';
import { notFound, ok, type Result, refused } from '@/core/base/result';
import type { Instant } from '@/core/base/time';
import type { QuestionContent } from '@/core/question/content';
import type { ShownQuestion } from '@/core/question/student';
import { preparedOnce } from '@/db/preparedOnce';
import { attempt, attemptEvent, paperSlot, response } from '@/db/schema';
import { passageContents } from '../bank/passages';
import { pinnedDesign } from '../exam/pinnedDesign';
import type { Context } from '../house/context';
import { attemptWithRules, type RunningAttempt } from '../sitting/audience';
import { deadlineOf, endIfExpired, isOver } from './handIn';
import { frozenContents } from './paperContent';
import { type TakingPaper, takingPaper } from './takingPaper';

export type StoredAnswer = { slotId: string; value: unknown; comeBack: boolean };

/** An attempt of one's own that runs; what the clock has ended is handed in on the way. */
function ownRunning(context: Context, attemptId: string): Result<RunningAttempt> {
  const one = attemptWithRules(context.db, attemptId);
  if (!one || one.attempt.userId !== context.actor.userId) return notFound('attempt');
  const expired = one.attempt.state === 'running' && isOver(one, context.now);
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

function paperOf(context: Context, own: RunningAttempt): TakingPaper {
  const { attempt: row, sitting, arrangement } = own;
  const slots = slotsOf(context.db).all({ attemptId: row.id });
  const contents = frozenContents(
    context.db,
    slots.map((slot) => slot.versionId),
  );
  return takingPaper(
    {
      title: sitting.title,
      examId: sitting.examId,
      design: pinnedDesign(context.db, row.revisionId),
      deadline: deadlineOf(own),
      extraPercent: arrangement.extraPercent,
    },
    slots.map((slot) => ({ ...slot, slotId: slot.id, passageId: slot.passageVersionId })),
    (place) => contents.get(slots[place]?.versionId ?? '') as QuestionContent,
    passageContents(
      context.db,
      slots.flatMap((slot) => slot.passageVersionId ?? []),
    ),
  );
}

export type OpenedQuestion = { view: ShownQuestion; until: Instant | null };

/**
 * Opens a question that has a time of its own: from now on its time runs, by the server's clock. Opening it again shows it
 * again and changes nothing.
 */
export function openQuestion(context: Context, attemptId: string, slotId: string): Result<OpenedQuestion> {
  const own = ownRunning(context, attemptId);
  if (!own.ok) return own;
  return context.db.transaction(
    (tx): Result<OpenedQuestion> => {
      const mine = and(eq(paperSlot.id, slotId), eq(paperSlot.attemptId, attemptId));
      tx.update(paperSlot)
        .set({ openedAt: context.now })
        .where(and(mine, isNull(paperSlot.openedAt)))
        .run();
      const slot = paperOf(context, own.value).slots.find((one) => one.slotId === slotId);
      return slot?.view ? ok({ view: slot.view, until: slot.until }) : notFound('question on this paper');
    },
    { behavior: 'immediate' },
  );
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
