import { and, asc, desc, eq, gt, isNull, sql } from 'drizzle-orm';
import { z } from 'zod';
import type { Aside, Standing } from '@/core/attempt/standing';
import { triesAllowed } from '@/core/attempt/tries';
import { id } from '@/core/base/id';
import { notFound, ok, type Result, refused } from '@/core/base/result';
import type { Instant } from '@/core/base/time';
import type { QuestionContent } from '@/core/question/content';
import type { ShownQuestion } from '@/core/question/student';
import type { Tx } from '@/db/client';
import { preparedOnce } from '@/db/preparedOnce';
import { attempt, attemptEvent, paperSlot, response } from '@/db/schema';
import { passageContents } from '../bank/passages';
import { tell } from '../house/bus';
import type { Context } from '../house/context';
import { command, query } from '../house/useCase';
import { attemptWithRules, type RunningAttempt, rulesOf } from '../records/audience';
import { frozenContents } from '../records/paperContent';
import { pinnedDesign } from '../records/pinnedDesign';
import { roundOf } from '../records/roundOf';
import { zoneOf } from '../records/zoneOf';
import { type Notice, noticesFor } from '../sitting/notices';
import { deadlineOf } from './deadlineOf';
import { progressed } from './progressed';
import { standingNow, studentsAsides } from './standingNow';
import { type TakingPaper, takingPaper } from './takingPaper';
import { inItsAttempt, stillRuns, toAttemptFromAnywhere, toOwnAttempt, toRunningAttempt } from './toOwnAttempt';
import { checkedQuestion, takenAgain, triesOf } from './tries';

export type StoredAnswer = { slotId: string; value: unknown; comeBack: boolean };

/** Whether an attempt can be gone on with: what the taking page asks before it is sent. */
export const mayGoOn = query({
  admits: toAttemptFromAnywhere,
  does: ({ context, own }): Result<{ title: string; sittingId: string; led: boolean }> =>
    stillRuns(context, own)
      ? ok({
          title: own.sitting.title,
          sittingId: own.sitting.id,
          led: own.sitting.isRound && roundOf(context.db, own.sitting.id)?.rules.pace === 'led',
        })
      : refused('too-late', 'This attempt has been handed in.'),
});

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
  const led = sitting.isRound ? roundOf(context.db, sitting.id)?.led : null;
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
      // Of a led round nothing is known before it is opened.
      isHidden: (place) => led !== null && led !== undefined && (led.questions[place]?.vote ?? 0) === 0,
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
export const openTimedQuestion = command({
  admits: toRunningAttempt,
  takes: [id('slot')],
  unlogged: 'when it was opened stands with the question on its paper',
  does({ tx, context, now, own, attemptId }, slotId): Result<OpenedQuestion> {
    const mine = and(eq(paperSlot.id, slotId), eq(paperSlot.attemptId, attemptId));
    tx.update(paperSlot)
      .set({ openedAt: now })
      .where(and(mine, isNull(paperSlot.openedAt)))
      .run();
    const slot = paperOf(context, own).slots.find((one) => one.slotId === slotId);
    return slot?.view ? ok({ view: slot.view, until: slot.until }) : notFound('question on this paper');
  },
});

export type Opened = TakingPaper & {
  epoch: number;
  answers: StoredAnswer[];
  standing: Standing;
  asides: Aside[];
  timeZone: string;
  now: Instant;
  notices: Notice[];
  /** The number of the question that was answered last, from 1; where a browser begins that knows of no other place. */
  place: number;
};

/**
 * A browser takes over the writing of an attempt: it gets the next writer epoch, the paper, and what is stored so far.
 */
export const openForWriting = command({
  admits: toRunningAttempt,
  unlogged: inItsAttempt,
  does({ tx, context, actor, own, attemptId, afterwards }): Result<Opened> {
    const { sitting: row } = own;
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
    afterwards(() => {
      progressed(context.db, attemptId, context);
      tell({ sittingId: row.id, what: 'attempt', userId: actor.userId });
    });
    return ok({
      ...paperOf(context, own),
      ...epoch,
      answers,
      standing: standingNow(context.db, own, context.now),
      asides: studentsAsides(context.db, own),
      timeZone: zoneOf(context.db, row.courseId),
      now: context.now,
      notices: noticesFor(context.db, own),
      place: lastPlace(tx, attemptId),
    });
  },
});

/** The number of the question whose answer was saved last; 1 before the first. */
function lastPlace(tx: Tx, attemptId: string): number {
  const last = tx
    .select({ position: paperSlot.position })
    .from(response)
    .innerJoin(paperSlot, eq(paperSlot.id, response.slotId))
    .where(and(eq(response.attemptId, attemptId), gt(response.epoch, 0)))
    .orderBy(desc(response.savedAt), desc(response.sequence))
    .limit(1)
    .get();
  return (last?.position ?? 0) + 1;
}

/** How an attempt stands, as its page is told again and again. */
export type Pulse = {
  standing: Standing;
  superseded: boolean;
  /** The answers that were kept aside. */
  asides: Aside[];
  now: Instant;
  /** What the room and this student have been told, the newest last. */
  notices: Notice[];
};

/** The writer epoch of a browser; 0 for one that has none. */
export const epochInput = z.int().min(0).catch(0);

/** A sign of life from a taking page; the answer tells it where it stands. */
export const pulse = query({
  admits: toOwnAttempt,
  takes: [epochInput],
  does({ db, context, attemptId, own }, epoch): Result<Pulse> {
    const running = stillRuns(context, own);
    if (running && own.attempt.writerEpoch === epoch) progressed(db, attemptId, context);
    return ok(pulseOf(context, running ? own : (attemptWithRules(db, attemptId) ?? own), epoch));
  },
});

/** What the page of an attempt is told when something of its sitting has changed; it is no sign of life. */
export const lookAtPulse = query({
  admits: toOwnAttempt,
  takes: [epochInput],
  does: ({ context, own }, epoch): Result<Pulse> => ok(pulseOf(context, own, epoch)),
});

const pulseOf = ({ db, now }: Context, one: RunningAttempt, epoch: number): Pulse => ({
  standing: standingNow(db, one, now),
  superseded: one.attempt.state === 'running' && one.attempt.writerEpoch !== epoch,
  asides: studentsAsides(db, one),
  now,
  notices: noticesFor(db, one),
});
