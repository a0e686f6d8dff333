import { and, eq, inArray } from 'drizzle-orm';
import { z } from 'zod';
import type { AttemptEventKind } from '@/core/attempt/attemptEvents';
import { type Action, addedOnReopening, type Phase, phaseAfter } from '@/core/attempt/attemptMachine';
import { id } from '@/core/base/id';
import { notFound, ok, type Result, refused } from '@/core/base/result';
import { type Instant, minute, momentText } from '@/core/base/time';
import { type Fact, keyFacts } from '@/core/release/plan';
import { soFarOf } from '@/core/sitting/clock';
import type { Tx } from '@/db/client';
import { arrangement, attempt, attemptEvent, sittingNote } from '@/db/schema';
import { deadlineOf } from '../attempt/deadlineOf';
import { endAttempt, isOver } from '../attempt/endAttempt';
import { tell } from '../house/bus';
import type { Context } from '../house/context';
import { command, field, type LogLine, query } from '../house/useCase';
import { attemptWithRules, audienceOf, type RunningAttempt } from '../records/audience';
import { releaseFactsFor, shownTo, whomIn } from '../release/releaseFacts';
import { lastLook } from '../release/resultsSeen';
import { tellAboutAttempt } from '../sitting/tellStudents';
import { toSitting } from '../sitting/toSitting';
import { toAttempt } from './toAttempt';

const mostMinutes = 24 * 60;

const minutesInput = (least: number) => {
  const ask = `Give the minutes as a number from ${least} to ${mostMinutes}.`;
  return field('minutes', z.number({ message: ask }).min(least, ask).max(mostMinutes, ask));
};

/** Words that have to be given. */
export const wordsInput = (ask: string) => z.string().trim().min(1, ask).max(1_000, 'At most 1000 characters.');

function write(
  tx: Tx,
  context: Context,
  attemptId: string,
  kind: AttemptEventKind,
  detail: Record<string, unknown>,
): void {
  tx.insert(attemptEvent).values({ attemptId, at: context.now, kind, actorId: context.actor.userId, detail }).run();
}

type Work = { one: RunningAttempt; record(line: LogLine): number; afterwards(act: () => void): void };

/** Changes one attempt: what the state machine allows, with its line in the log, told to whoever has it open. */
function changeAttempt(
  { one, record, afterwards }: Work,
  action: Action,
  log: Record<string, unknown>,
  change: (one: RunningAttempt, to: Phase) => Result<null>,
): Result<null> {
  const to = phaseAfter(one.attempt.state, action, one.attempt.stateBefore);
  if (to === null) return refused('conflict', whyRefused[one.attempt.state]);
  const done = change(one, to);
  if (!done.ok) return done;
  const { userId } = one.attempt;
  record({ subjectId: one.sitting.id, detail: { attemptId: one.attempt.id, userId, ...log } });
  afterwards(() => tell({ sittingId: one.sitting.id, what: 'attempt', userId }));
  return done;
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
export const addTime = command({
  admits: toSitting('sitting.invigilate'),
  takes: [z.array(id('attempt')).max(1_000).nullable(), minutesInput(1)],
  logs: 'sitting.add-time',
  does({ tx, now, sittingId, record, afterwards, context }, attemptIds, minutes): Result<{ given: number }> {
    afterwards(() => tell({ sittingId, what: 'rules' }));
    const running = tx
      .select({ id: attempt.id })
      .from(attempt)
      .where(
        and(
          eq(attempt.sittingId, sittingId),
          eq(attempt.state, 'running'),
          attemptIds ? inArray(attempt.id, attemptIds) : undefined,
        ),
      )
      .all();
    let count = 0;
    for (const { id } of running) {
      const one = attemptWithRules(context.db, id);
      if (!one || isOver(one, now) || deadlineOf(one) === null) continue;
      tx.update(attempt)
        .set({ added: one.attempt.added + minutes * minute })
        .where(eq(attempt.id, id))
        .run();
      write(tx, context, id, 'time-added', { minutes });
      count += 1;
    }
    if (count === 0) return refused('conflict', 'Nobody of them is writing against the clock now.');
    record({ subjectId: sittingId, detail: { minutes, attempts: count, everyone: attemptIds === null } });
    return ok({ given: count });
  },
});

/** Hands an attempt in for its student; what was not handed in in time can be counted that way too. */
export const handInFor = command({
  admits: toAttempt('sitting.invigilate'),
  logs: 'attempt.hand-in-for',
  does: (work): Result<null> =>
    changeAttempt(work, 'hand-in-for', {}, (one) => {
      const { now, actor } = work;
      const at: Instant = one.attempt.endedAt ?? Math.min(now, deadlineOf(one) ?? now);
      endAttempt(work.tx, one, 'invigilator', at, actor.userId);
      return ok(null);
    }),
});

/** Opens an attempt again that has ended: the time it was closed for is given back, and so many minutes more. */
export const reopen = command({
  admits: toAttempt('sitting.invigilate'),
  takes: [z.object({ minutes: minutesInput(0), reason: wordsInput('Say why it is opened again.') })],
  logs: 'attempt.reopen',
  does: (work, log): Result<null> =>
    changeAttempt(work, 'reopen', log, (one) => {
      const { tx, context } = work;
      const { attempt: row, sitting } = one;
      if (sitting.anonymous)
        return refused(
          'conflict',
          'The answers of an anonymous exam belong to nobody any more: it cannot be opened again.',
        );
      if (isRunningElsewhere(tx, row))
        return refused('conflict', 'This student is writing another attempt: hand that in first.');
      const added = addedOnReopening(row.added, row.endedAt ?? context.now, log.minutes * minute, context.now);
      const deadline = deadlineOf({ ...one, attempt: { ...row, added } });
      if (deadline !== null && deadline < context.now + minute)
        return refused('bad-input', 'No time would be left: give some minutes.', 'minutes');
      tx.update(attempt)
        .set({ state: 'running', endedAt: null, endedBy: null, added })
        .where(eq(attempt.id, row.id))
        .run();
      write(tx, context, row.id, 'reopened', log);
      tellAboutAttempt(tx, context, one, {
        subject: `${sitting.title} is open for you again`,
        says: `has been opened again for you: you can go on where you were${deadline === null ? '' : `, until ${momentText(deadline, work.timeZone)} (${work.timeZone})`}`,
      });
      return ok(null);
    }),
});

const isRunningElsewhere = (tx: Tx, row: RunningAttempt['attempt']): boolean =>
  tx
    .select({ id: attempt.id })
    .from(attempt)
    .where(and(eq(attempt.sittingId, row.sittingId), eq(attempt.userId, row.userId), eq(attempt.state, 'running')))
    .all()
    .some((one) => one.id !== row.id);

/** Takes an attempt out of everything: it counts nowhere, and its student may make another in its place. */
export const voidAttempt = command({
  admits: toAttempt('sitting.invigilate'),
  takes: [field('reason', wordsInput('Say why it is voided.'))],
  logs: 'attempt.void',
  does: (work, reason): Result<null> =>
    changeAttempt(work, 'void', { reason }, (one) => {
      const { tx, context } = work;
      const { attempt: row } = one;
      tx.update(attempt)
        .set({ state: 'voided', stateBefore: row.state, endedAt: row.endedAt ?? context.now })
        .where(eq(attempt.id, row.id))
        .run();
      write(tx, context, row.id, 'voided', { reason });
      tellAboutAttempt(tx, context, one, {
        subject: `${one.sitting.title}: your attempt was voided`,
        says: 'does not count as it stands: your attempt has been voided. Your answers are kept. If you do not know why, ask your instructor',
      });
      return ok(null);
    }),
});

/** Takes a voiding back. One that was running runs on, with the time for which it was voided given back. */
export const restoreAttempt = command({
  admits: toAttempt('sitting.invigilate'),
  logs: 'attempt.restore',
  does: (work): Result<null> =>
    changeAttempt(work, 'restore', {}, (one, to) => {
      const { tx, context } = work;
      const { attempt: row } = one;
      if (to === 'running' && isRunningElsewhere(tx, row))
        return refused('conflict', 'This student is writing another attempt meanwhile: two cannot run at once.');
      tx.update(attempt)
        .set({
          state: to,
          stateBefore: null,
          ...(to === 'running'
            ? { endedAt: null, added: addedOnReopening(row.added, row.endedAt ?? context.now, 0, context.now) }
            : {}),
        })
        .where(eq(attempt.id, row.id))
        .run();
      write(tx, context, row.id, 'restored', {});
      tellAboutAttempt(tx, context, one, {
        subject: `${one.sitting.title}: the voiding was taken back`,
        says:
          to === 'running'
            ? 'goes on: the voiding of your attempt was taken back, and the time it took is given back to you'
            : 'stands again as you left it: the voiding of your attempt was taken back',
      });
      return ok(null);
    }),
});

/** Lets a student through to their next attempt, where each waits for the instructor. */
export const letThrough = command({
  admits: toSitting('sitting.invigilate'),
  takes: [id('user')],
  logs: 'sitting.let-through',
  does({ tx, sittingId, sitting: row, record, afterwards }, userId): Result<null> {
    afterwards(() => tell({ sittingId, what: 'attempt', userId }));
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
    record({ subjectId: sittingId, detail: { userId, attempt: next } });
    return ok(null);
  },
});

const noteInput = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('incident'),
    userId: id('user').nullable(),
    text: wordsInput('Write down what happened.'),
  }),
  z.object({
    kind: z.literal('message'),
    userId: id('user').nullable(),
    text: wordsInput('Write what they are to read.'),
  }),
]);

/** Writes an incident down, about one student or the room; or tells the room, or one student, something. */
export const addNote = command({
  admits: toSitting('sitting.invigilate'),
  takes: [noteInput],
  logs: 'sitting.incident',
  does({ tx, sittingId, sitting: row, record, afterwards, context }, { kind, userId, text }): Result<null> {
    afterwards(() => tell({ sittingId, what: 'room', ...(userId ? { userId } : {}) }));
    if (userId !== null && !audienceOf(tx, row).some((student) => student.userId === userId))
      return notFound('student');
    tx.insert(sittingNote).values({ sittingId, kind, userId, text, at: context.now, by: context.actor.userId }).run();
    record({ action: `sitting.${kind}`, subjectId: sittingId, detail: { userId } });
    return ok(null);
  },
});

/** Settles an incident: nothing about it waits for a decision any more. Settling it twice is harmless. */
export const settleIncident = command({
  admits: toSitting('sitting.invigilate'),
  takes: [z.int()],
  logs: 'sitting.settle-incident',
  does({ tx, sittingId, record, afterwards, context }, noteId): Result<null> {
    const found = tx
      .select()
      .from(sittingNote)
      .where(and(eq(sittingNote.id, noteId), eq(sittingNote.sittingId, sittingId), eq(sittingNote.kind, 'incident')))
      .get();
    if (!found) return notFound('incident');
    if (found.settledAt === null)
      tx.update(sittingNote)
        .set({ settledAt: context.now, settledBy: context.actor.userId })
        .where(eq(sittingNote.id, noteId))
        .run();
    afterwards(() => tell({ sittingId, what: 'room' }));
    record({ subjectId: sittingId, detail: { noteId } });
    return ok(null);
  },
});

/** What a student sees of the keys of an attempt that is to be opened again. */
export type SeenBefore = {
  /** What gives keys away and is shown to them now. */
  shown: Fact[];
  /** When they last looked at their result; null where they have not. */
  lookedAt: Instant | null;
};

/** What its student has seen of an attempt that is to be opened again. */
export const beforeReopening = query({
  admits: toAttempt('sitting.invigilate'),
  does({ db, now, one }): Result<SeenBefore> {
    const { sitting, attempt: row } = one;
    const whom = whomIn(db, sitting, row.userId);
    if (!whom || !sitting.scored || sitting.anonymous) return ok({ shown: [], lookedAt: null });
    const { visible } = shownTo(db, sitting, releaseFactsFor(db, sitting, whom, whom.timeZone, now), now);
    return ok({
      shown: keyFacts.filter((fact) => visible.has(fact)),
      lookedAt: lastLook(db, sitting.id, row.userId),
    });
  },
});
