import { and, asc, eq, isNull, sql } from 'drizzle-orm';
import { triesAllowed } from '@/core/attempt/tries';
import { notFound, ok, type Result, refused } from '@/core/base/result';
import type { Instant } from '@/core/base/time';
import type { QuestionContent } from '@/core/question/content';
import type { ShownQuestion } from '@/core/question/student';
import { runningClock } from '@/core/sitting/clock';
import { preparedOnce } from '@/db/preparedOnce';
import { attempt, attemptEvent, paperSlot, response } from '@/db/schema';
import { passageContents } from '../bank/passages';
import { pinnedDesign } from '../exam/pinnedDesign';
import { tell } from '../house/bus';
import type { Context } from '../house/context';
import { logRefusal } from '../house/refusals';
import { attemptWithRules, type RunningAttempt, rulesOf } from '../sitting/audience';
import { type Notice, noticesFor } from '../sitting/notices';
import { deadlineOf } from './deadlineOf';
import { mayEnterFrom } from './entry';
import { endIfExpired, isOver } from './handIn';
import { frozenContents } from './paperContent';
import { progressed } from './progressed';
import { type TakingPaper, takingPaper } from './takingPaper';
import { checkedQuestion, takenAgain, triesOf } from './tries';

export type StoredAnswer = { slotId: string; value: unknown; comeBack: boolean };

/** An attempt of one's own that runs; what the clock has ended is handed in on the way. */
function ownRunning(context: Context, attemptId: string): Result<RunningAttempt> {
  const one = attemptWithRules(context.db, attemptId);
  if (!one || one.attempt.userId !== context.actor.userId) {
    if (one) logRefusal(context, { action: 'attempt.open', courseId: one.sitting.courseId, subjectId: attemptId });
    return notFound('attempt');
  }
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
  const rules = rulesOf(sitting);
  const tried = triesAllowed(rules) > 0 ? triesOf(context.db, row.id) : null;
  const again = tried && takenAgain(context.db, row.id);
  return takingPaper(
    {
      onwardOnly: rules.onwardOnly,
      reached: row.reached,
      minutesPerQuestion: rules.minutesPerQuestion,
      checkedOf: (place, content) => {
        const slot = slots[place];
        if (!slot || !tried || !again) return null;
        const others = again.size - (again.has(slot.id) ? 1 : 0);
        return checkedQuestion(content, slot.presentation, tried.get(slot.id) ?? [], rules, again.has(slot.id), others);
      },
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

export type Opened = TakingPaper & {
  epoch: number;
  answers: StoredAnswer[];
  deadline: Instant | null;
  handInUntil: Instant | null;
  now: Instant;
  notices: Notice[];
};

/**
 * A browser takes over the writing of an attempt: it gets the next writer epoch, the paper, and what is stored so far.
 */
export function openForWriting(context: Context, attemptId: string): Result<Opened> {
  const own = ownRunning(context, attemptId);
  if (!own.ok) return own;
  const { sitting: row, arrangement } = own.value;
  const from = mayEnterFrom(context, { courseId: row.courseId, sittingId: row.id, rules: rulesOf(row), arrangement });
  if (!from.ok) return from;
  const opened = context.db.transaction(
    (tx): Result<Opened> => {
      const epoch = tx
        .update(attempt)
        .set({ writerEpoch: sql`${attempt.writerEpoch} + 1` })
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
        ...clockOf(context, own.value),
        now: context.now,
        notices: noticesFor(context.db, own.value),
      });
    },
    { behavior: 'immediate' },
  );
  if (opened.ok) {
    progressed(context.db, attemptId, context);
    tell({ sittingId: own.value.sitting.id, what: 'attempt', userId: context.actor.userId });
  }
  return opened;
}

const clockOf = (context: Context, one: RunningAttempt): Pick<Opened, 'deadline' | 'handInUntil'> => {
  const { deadline, handInUntil } = runningClock(rulesOf(one.sitting), one.arrangement, one.attempt, context.now);
  return { deadline, handInUntil };
};

/** Where a running attempt stands, as its page is told again and again. */
export type Pulse = {
  state: 'running' | 'ended';
  superseded: boolean;
  deadline: Instant | null;
  /** Until when it may still be handed in; the deadline where there is no grace. */
  handInUntil: Instant | null;
  now: Instant;
  /** What the room and this student have been told, the newest last. */
  notices: Notice[];
};

/** A sign of life from a taking page; the answer tells it where it stands. */
export function pulse(context: Context, attemptId: string, epoch: number): Result<Pulse> {
  const one = attemptWithRules(context.db, attemptId);
  if (!one || one.attempt.userId !== context.actor.userId) return notFound('attempt');
  const running = ownRunning(context, attemptId).ok;
  if (running && one.attempt.writerEpoch === epoch) progressed(context.db, attemptId, context);
  return ok(pulseOf(context, one, epoch, running));
}

/** What the page of an attempt is told when something of its sitting has changed; it is no sign of life. */
export function lookAtPulse(context: Context, attemptId: string, epoch: number): Result<Pulse> {
  const one = attemptWithRules(context.db, attemptId);
  if (!one || one.attempt.userId !== context.actor.userId) return notFound('attempt');
  return ok(pulseOf(context, one, epoch, one.attempt.state === 'running'));
}

function pulseOf(context: Context, one: RunningAttempt, epoch: number, running: boolean): Pulse {
  const { deadline, handInUntil } = runningClock(rulesOf(one.sitting), one.arrangement, one.attempt, context.now);
  return {
    state: running ? 'running' : 'ended',
    superseded: one.attempt.writerEpoch !== epoch,
    deadline,
    handInUntil,
    now: context.now,
    notices: noticesFor(context.db, one),
  };
}
