import { and, eq, inArray } from 'drizzle-orm';
import type { AttemptEventKind } from '@/core/attempt/attemptEvents';
import { type Action, addedOnReopening, type Phase, phaseAfter } from '@/core/attempt/attemptMachine';
import { notFound, ok, type Result, refused } from '@/core/base/result';
import { type Instant, minute } from '@/core/base/time';
import type { Tx } from '@/db/client';
import { arrangement, attempt, attemptEvent, sittingNote } from '@/db/schema';
import { deadlineOf } from '../attempt/deadlineOf';
import { endAttempt, endIfExpired } from '../attempt/handIn';
import { record } from '../house/audit';
import { tell } from '../house/bus';
import type { Context } from '../house/context';
import { admit } from '../people/permission';
import { attemptWithRules, audienceOf, type RunningAttempt, sittingOf } from './audience';
import { soFarOf } from './standings';

const mostMinutes = 24 * 60;
const longestText = 1_000;

/** An attempt of a sitting of the course. */
function attemptIn(context: Context, courseId: string, sittingId: string, attemptId: string): RunningAttempt | null {
  const one = attemptWithRules(context.db, attemptId);
  return one && one.sitting.id === sittingId && one.sitting.courseId === courseId ? one : null;
}

function readMinutes(minutes: number, least: number): Result<number> {
  if (!Number.isFinite(minutes) || minutes < least || minutes > mostMinutes)
    return refused('bad-input', `Give the minutes as a number from ${least} to ${mostMinutes}.`, 'minutes');
  return ok(minutes);
}

function readText(text: string, field: string, ask: string): Result<string> {
  const trimmed = text.trim();
  if (trimmed === '') return refused('bad-input', ask, field);
  return trimmed.length > longestText ? refused('bad-input', `At most ${longestText} characters.`, field) : ok(trimmed);
}

function write(
  tx: Tx,
  context: Context,
  attemptId: string,
  kind: AttemptEventKind,
  detail: Record<string, unknown>,
): void {
  tx.insert(attemptEvent).values({ attemptId, at: context.now, kind, actorId: context.actor.userId, detail }).run();
}

/** Runs a change of one attempt in a transaction with its log row, and tells whoever has it open. */
function changeAttempt(
  context: Context,
  where: { courseId: string; sittingId: string; attemptId: string },
  action: Action,
  log: Record<string, unknown>,
  change: (tx: Tx, one: RunningAttempt, to: Phase) => Result<null>,
): Result<null> {
  const { courseId, sittingId, attemptId } = where;
  const admitted = admit(context, courseId, 'sitting.invigilate');
  if (!admitted.ok) return admitted;
  const changed = context.db.transaction(
    (tx): Result<{ userId: string }> => {
      const found = attemptIn(context, courseId, sittingId, attemptId);
      if (!found) return notFound('attempt');
      // What the clock has ended is ended first: nothing is done to an attempt that only seems to run.
      if (endIfExpired(tx, found, context.now) && action === 'add-time')
        return refused('too-late', 'The time of this attempt is over: open it again to give more.');
      const one = attemptWithRules(context.db, attemptId) as RunningAttempt;
      const to = phaseAfter(one.attempt.state, action, one.attempt.stateBefore);
      if (to === null) return refused('conflict', whyRefused[one.attempt.state]);
      const done = change(tx, one, to);
      if (!done.ok) return done;
      record(tx, context, {
        action: `attempt.${action}`,
        courseId,
        subjectId: sittingId,
        detail: { attemptId, userId: one.attempt.userId, ...log },
      });
      return ok({ userId: one.attempt.userId });
    },
    { behavior: 'immediate' },
  );
  if (!changed.ok) return changed;
  tell({ sittingId, what: 'attempt', userId: changed.value.userId });
  return ok(null);
}

const whyRefused: Record<Phase, string> = {
  running: 'This attempt is running.',
  'handed-in': 'This attempt has been handed in.',
  'not-handed-in': 'This attempt was not handed in in time.',
  voided: 'This attempt is voided.',
};

/**
 * Gives more time to some attempts that run, or to all of them.
 *
 * @param attemptIds null for everyone who is writing
 * @returns how many got it
 */
export function addTime(
  context: Context,
  courseId: string,
  sittingId: string,
  attemptIds: readonly string[] | null,
  minutes: number,
): Result<{ given: number }> {
  const admitted = admit(context, courseId, 'sitting.invigilate');
  if (!admitted.ok) return admitted;
  const read = readMinutes(minutes, 1);
  if (!read.ok) return read;
  const given = context.db.transaction(
    (tx): Result<{ given: number }> => {
      if (!sittingOf(tx, courseId, sittingId)) return notFound('sitting');
      const running = tx
        .select({ id: attempt.id })
        .from(attempt)
        .where(
          and(
            eq(attempt.sittingId, sittingId),
            eq(attempt.state, 'running'),
            attemptIds ? inArray(attempt.id, [...attemptIds]) : undefined,
          ),
        )
        .all();
      let count = 0;
      for (const { id } of running) {
        const one = attemptWithRules(context.db, id);
        if (!one || endIfExpired(tx, one, context.now) || deadlineOf(one) === null) continue;
        tx.update(attempt)
          .set({ added: one.attempt.added + read.value * minute })
          .where(eq(attempt.id, id))
          .run();
        write(tx, context, id, 'time-added', { minutes: read.value });
        count += 1;
      }
      if (count === 0) return refused('conflict', 'Nobody of them is writing against the clock now.');
      record(tx, context, {
        action: 'sitting.add-time',
        courseId,
        subjectId: sittingId,
        detail: { minutes: read.value, attempts: count, everyone: attemptIds === null },
      });
      return ok({ given: count });
    },
    { behavior: 'immediate' },
  );
  if (given.ok) tell({ sittingId, what: 'rules' });
  return given;
}

/** Hands an attempt in for its student; what was not handed in in time can be counted that way too. */
export function handInFor(context: Context, courseId: string, sittingId: string, attemptId: string): Result<null> {
  return changeAttempt(context, { courseId, sittingId, attemptId }, 'hand-in-for', {}, (tx, one) => {
    const deadline = deadlineOf(one);
    const at: Instant = one.attempt.endedAt ?? Math.min(context.now, deadline ?? context.now);
    endAttempt(tx, one, 'invigilator', at, context.actor.userId);
    return ok(null);
  });
}

/** Opens an attempt again that has ended: the time it was closed for is given back, and so many minutes more. */
export function reopen(
  context: Context,
  courseId: string,
  sittingId: string,
  attemptId: string,
  input: { minutes: number; reason: string },
): Result<null> {
  const minutes = readMinutes(input.minutes, 0);
  if (!minutes.ok) return minutes;
  const reason = readText(input.reason, 'reason', 'Say why it is opened again.');
  if (!reason.ok) return reason;
  const log = { minutes: minutes.value, reason: reason.value };
  return changeAttempt(context, { courseId, sittingId, attemptId }, 'reopen', log, (tx, one) => {
    const { attempt: row, sitting } = one;
    if (sitting.anonymous)
      return refused(
        'conflict',
        'The answers of an anonymous exam belong to nobody any more: it cannot be opened again.',
      );
    if (isRunningElsewhere(tx, row))
      return refused('conflict', 'This student is writing another attempt: hand that in first.');
    const added = addedOnReopening(row.added, row.endedAt ?? context.now, minutes.value * minute, context.now);
    const deadline = deadlineOf({ ...one, attempt: { ...row, added } });
    if (deadline !== null && deadline < context.now + minute)
      return refused('bad-input', 'No time would be left: give some minutes.', 'minutes');
    tx.update(attempt)
      .set({ state: 'running', endedAt: null, endedBy: null, added })
      .where(eq(attempt.id, row.id))
      .run();
    write(tx, context, row.id, 'reopened', log);
    return ok(null);
  });
}

const isRunningElsewhere = (tx: Tx, row: RunningAttempt['attempt']): boolean =>
  tx
    .select({ id: attempt.id })
    .from(attempt)
    .where(and(eq(attempt.sittingId, row.sittingId), eq(attempt.userId, row.userId), eq(attempt.state, 'running')))
    .all()
    .some((one) => one.id !== row.id);

/** Takes an attempt out of everything: it counts nowhere, and its student may make another in its place. */
export function voidAttempt(
  context: Context,
  courseId: string,
  sittingId: string,
  attemptId: string,
  why: string,
): Result<null> {
  const reason = readText(why, 'reason', 'Say why it is voided.');
  if (!reason.ok) return reason;
  const log = { reason: reason.value };
  return changeAttempt(context, { courseId, sittingId, attemptId }, 'void', log, (tx, { attempt: row }) => {
    tx.update(attempt)
      .set({ state: 'voided', stateBefore: row.state, endedAt: row.endedAt ?? context.now })
      .where(eq(attempt.id, row.id))
      .run();
    write(tx, context, row.id, 'voided', log);
    return ok(null);
  });
}

/** Takes a voiding back. One that was running runs on, with its deadline as it was. */
export function restoreAttempt(context: Context, courseId: string, sittingId: string, attemptId: string): Result<null> {
  return changeAttempt(context, { courseId, sittingId, attemptId }, 'restore', {}, (tx, { attempt: row }, to) => {
    if (to === 'running' && isRunningElsewhere(tx, row))
      return refused('conflict', 'This student is writing another attempt meanwhile: two cannot run at once.');
    tx.update(attempt)
      .set({ state: to, stateBefore: null, ...(to === 'running' ? { endedAt: null } : {}) })
      .where(eq(attempt.id, row.id))
      .run();
    write(tx, context, row.id, 'restored', {});
    return ok(null);
  });
}

/** Lets a student through to their next attempt, where each waits for the instructor. */
export function letThrough(context: Context, courseId: string, sittingId: string, userId: string): Result<null> {
  const admitted = admit(context, courseId, 'sitting.invigilate');
  if (!admitted.ok) return admitted;
  const let_ = context.db.transaction(
    (tx): Result<null> => {
      const row = sittingOf(tx, courseId, sittingId);
      if (!row) return notFound('sitting');
      if (!audienceOf(tx, row).some((student) => student.userId === userId)) return notFound('student');
      const own = tx
        .select()
        .from(attempt)
        .where(and(eq(attempt.sittingId, sittingId), eq(attempt.userId, userId)))
        .all();
      const next = soFarOf(own).used + 1;
      tx.insert(arrangement)
        .values({ sittingId, userId, letThrough: next })
        .onConflictDoUpdate({
          target: [arrangement.sittingId, arrangement.userId],
          set: { letThrough: next },
        })
        .run();
      record(tx, context, {
        action: 'sitting.let-through',
        courseId,
        subjectId: sittingId,
        detail: { userId, attempt: next },
      });
      return ok(null);
    },
    { behavior: 'immediate' },
  );
  if (let_.ok) tell({ sittingId, what: 'attempt', userId });
  return let_;
}

/** Writes an incident down, about one student or the room; or tells the room, or one student, something. */
export function addNote(
  context: Context,
  courseId: string,
  sittingId: string,
  input: { kind: 'incident' | 'message'; userId: string | null; text: string },
): Result<null> {
  const admitted = admit(context, courseId, 'sitting.invigilate');
  if (!admitted.ok) return admitted;
  const ask = input.kind === 'message' ? 'Write what they are to read.' : 'Write down what happened.';
  const text = readText(input.text, 'text', ask);
  if (!text.ok) return text;
  const noted = context.db.transaction(
    (tx): Result<null> => {
      const row = sittingOf(tx, courseId, sittingId);
      if (!row) return notFound('sitting');
      const { kind, userId } = input;
      if (userId !== null && !audienceOf(tx, row).some((student) => student.userId === userId))
        return notFound('student');
      tx.insert(sittingNote)
        .values({ sittingId, kind, userId, text: text.value, at: context.now, by: context.actor.userId })
        .run();
      record(tx, context, { action: `sitting.${kind}`, courseId, subjectId: sittingId, detail: { userId } });
      return ok(null);
    },
    { behavior: 'immediate' },
  );
  if (noted.ok) tell({ sittingId, what: 'room', ...(input.userId ? { userId: input.userId } : {}) });
  return noted;
}
