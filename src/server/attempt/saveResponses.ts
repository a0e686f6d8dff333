import { and, count, eq, ne, sql } from 'drizzle-orm';
import { plausiblyGiven, saveFate } from '@/core/attempt/attemptMachine';
import { type WhyNotAnswer, whyNotAnswerSaid, whyNotSave } from '@/core/attempt/mayAnswer';
import type { AsideReason } from '@/core/attempt/standing';
import { isId } from '@/core/base/ids';
import { notFound, ok, type Result, refused } from '@/core/base/result';
import { type Instant, minute } from '@/core/base/time';
import type { ExamDesign } from '@/core/exam/design';
import { questionDeadline } from '@/core/exam/paperRules';
import { readResponse } from '@/core/question/student';
import { whyNotVote, whyNotVoteSaid } from '@/core/round/ledRound';
import { attemptDeadline } from '@/core/sitting/clock';
import type { Db, Tx } from '@/db/client';
import { preparedOnce } from '@/db/preparedOnce';
import {
  arrangement,
  attempt,
  attemptEvent,
  membership,
  paperSlot,
  question,
  response,
  responseAside,
  round,
  sitting,
  vote,
} from '@/db/schema';
import type { Context } from '../house/context';
import { logRefusal } from '../house/refusals';
import { fromAllowedNetwork } from '../records/allowedNetwork';
import { arrangementOf, rulesOf } from '../records/audience';
import { pinnedDesign } from '../records/pinnedDesign';
import { pageOf } from './onward';
import { ownLimit } from './questionsNow';
import { isClosedByTries } from './tries';

/** A save as a browser sends it. */
export type SaveInput = {
  attemptId: string;
  slotId: string;
  epoch: number;
  sequence: number;
  value: unknown;
  comeBack: boolean;
  /** When it was given, by the browser's idea of the server's clock; null where it does not say. */
  givenAt?: Instant | null;
  /** Of a question of a led round, for which of its votes it was given, from 1. */
  vote?: number;
};

export type Saved = { slotId: string; sequence: number; savedAt: Instant };

/** Reads untrusted JSON as a save; null when it is none. */
export function readSave(attemptId: string, input: unknown): SaveInput | null {
  if (typeof input !== 'object' || input === null) return null;
  const { slotId, epoch, sequence, value, comeBack, givenAt, vote: asked } = input as Record<string, unknown>;
  const counts =
    Number.isSafeInteger(epoch) && Number.isSafeInteger(sequence) && Number(epoch) > 0 && Number(sequence) > 0;
  if (!isId(attemptId) || typeof slotId !== 'string' || slotId.length > 60 || !counts) return null;
  return {
    attemptId,
    slotId,
    epoch: Number(epoch),
    sequence: Number(sequence),
    value: value ?? null,
    comeBack: comeBack === true,
    givenAt: Number.isSafeInteger(givenAt) ? Number(givenAt) : null,
    ...(Number.isSafeInteger(asked) ? { vote: Number(asked) } : {}),
  };
}

const findSlot = preparedOnce((db) =>
  db
    .select({
      attempt,
      sitting,
      standing: membership.standing,
      removedAt: membership.removedAt,
      own: arrangement,
      type: question.type,
      partId: paperSlot.partId,
      lineId: paperSlot.lineId,
      openedAt: paperSlot.openedAt,
      position: paperSlot.position,
      led: round.led,
      epoch: response.epoch,
      sequence: response.sequence,
    })
    .from(paperSlot)
    .innerJoin(attempt, eq(attempt.id, paperSlot.attemptId))
    .innerJoin(sitting, eq(sitting.id, attempt.sittingId))
    .innerJoin(question, eq(question.id, paperSlot.questionId))
    .leftJoin(
      membership,
      sql`${membership.courseId} = ${sitting.courseId} and ${membership.userId} = ${attempt.userId}`,
    )
    .leftJoin(arrangement, sql`${arrangement.sittingId} = ${sitting.id} and ${arrangement.userId} = ${attempt.userId}`)
    .leftJoin(response, eq(response.slotId, paperSlot.id))
    .leftJoin(round, eq(round.sittingId, sitting.id))
    .where(eq(paperSlot.id, sql.placeholder('slotId')))
    .prepare(),
);

const storeResponse = preparedOnce((db) =>
  db
    .insert(response)
    .values({
      slotId: sql.placeholder('slotId'),
      attemptId: sql.placeholder('attemptId'),
      value: sql.placeholder('value'),
      comeBack: sql.placeholder('comeBack'),
      revision: 1,
      epoch: sql.placeholder('epoch'),
      sequence: sql.placeholder('sequence'),
      savedAt: sql.placeholder('savedAt'),
    })
    .onConflictDoUpdate({
      target: response.slotId,
      set: {
        value: sql`excluded.value`,
        comeBack: sql`excluded.come_back`,
        revision: sql`${response.revision} + 1`,
        epoch: sql`excluded.epoch`,
        sequence: sql`excluded.sequence`,
        savedAt: sql`excluded.saved_at`,
      },
    })
    .prepare(),
);

/** Each vote on a question keeps its own response. */
const storeVote = preparedOnce((db) =>
  db
    .insert(vote)
    .values({
      slotId: sql.placeholder('slotId'),
      number: sql.placeholder('number'),
      value: sql.placeholder('value'),
      savedAt: sql.placeholder('savedAt'),
    })
    .onConflictDoUpdate({
      target: [vote.slotId, vote.number],
      set: { value: sql`excluded.value`, savedAt: sql`excluded.saved_at` },
    })
    .prepare(),
);

/** The own time of a line of a design, in milliseconds; null where it has none. */
const minutesOf = (design: ExamDesign, lineId: string): number | null => {
  for (const part of design.parts)
    for (const line of part.lines) if (line.id === lineId) return line.minutes ? line.minutes * minute : null;
  return null;
};

/** As what an answer is kept aside that the rule for answering does not let in. */
const asideReasons: Record<WhyNotAnswer, AsideReason> = {
  ended: 'late',
  'time-over': 'late',
  behind: 'behind',
  'not-opened': 'question-over',
  'question-over': 'question-over',
  closed: 'closed',
  'beyond-choose': 'beyond-choose',
};

/** How many other questions of a part hold an answer. */
function answeredBesides(tx: Tx, save: SaveInput, partId: string): number {
  const counted = tx
    .select({ n: count() })
    .from(response)
    .innerJoin(paperSlot, eq(paperSlot.id, response.slotId))
    .where(
      and(
        eq(response.attemptId, save.attemptId),
        eq(paperSlot.partId, partId),
        ne(response.slotId, save.slotId),
        sql`${response.value} is not null and ${response.value} <> 'null'`,
      ),
    )
    .get();
  return counted?.n ?? 0;
}

/** So many answers to one question are kept aside; what comes beyond that is no person typing. */
const mostAside = 200;

const countAside = preparedOnce((db) =>
  db
    .select({ n: count() })
    .from(responseAside)
    .where(eq(responseAside.slotId, sql.placeholder('slotId')))
    .prepare(),
);

/** Saves one response inside a transaction: the deadline and the writer's right are checked in the same breath. */
function saveOne(tx: Tx, context: Context, save: SaveInput): Result<Saved> {
  const { db, actor, now } = context;
  const row = findSlot(db).get({ slotId: save.slotId });
  if (!row || row.attempt.id !== save.attemptId || row.attempt.userId !== actor.userId) {
    // What is made up belongs to nobody, and stands in no log.
    if (row)
      logRefusal(context, {
        action: 'attempt.save',
        courseId: row.sitting.courseId,
        subjectId: row.attempt.id,
        detail: { slotId: save.slotId },
      });
    return notFound('question on this paper');
  }
  const value = readResponse(row.type, save.value);
  if (value === null) return refused('bad-input', 'This is not an answer to this question.');

  if (row.removedAt !== null) return refused('not-allowed', 'You are no longer in this course. Ask your instructor.');
  if (row.sitting.anonymous)
    return refused('bad-input', 'Answers of an anonymous exam are sent with the hand-in only.');

  const setAside = (reason: AsideReason) => {
    if (countAside(db).get({ slotId: save.slotId })?.n === mostAside) return;
    const kept = tx
      .insert(responseAside)
      .values({
        slotId: save.slotId,
        epoch: save.epoch,
        sequence: save.sequence,
        value: value ?? null,
        reason,
        receivedAt: now,
        givenAt: plausiblyGiven(save.givenAt ?? null, row.attempt.startedAt, now),
      })
      .onConflictDoNothing()
      .run();
    const kind = reason === 'superseded' ? 'superseded-save' : reason === 'late' ? 'late-save' : 'refused-save';
    if (kept.changes)
      tx.insert(attemptEvent)
        .values({ attemptId: save.attemptId, at: now, kind, actorId: actor.userId, detail: { slotId: save.slotId } })
        .run();
  };

  const saved = ok({ slotId: save.slotId, sequence: save.sequence, savedAt: now });
  const stored = row.epoch === null || row.sequence === null ? null : { epoch: row.epoch, sequence: row.sequence };
  const arranged = arrangementOf(row.standing, row.own);
  const sittingRules = rulesOf(row.sitting);
  const deadline = attemptDeadline(sittingRules, arranged, row.attempt.startedAt, row.attempt.added);
  const standing = { phase: row.attempt.state, deadline, epoch: row.attempt.writerEpoch };
  const fate = saveFate(standing, stored, save, now);
  if (fate === 'answered') return saved;
  // In a led round everybody sees when a question closes, and what comes after that is refused for good.
  if (row.led && fate !== 'superseded') {
    const ended = row.attempt.state === 'running' ? null : ('stopped' as const);
    const why = ended ?? whyNotVote(row.led, row.position, save.vote ?? 1, now);
    if (why) return refused('too-late', whyNotVoteSaid[why]);
    storeResponse(db).run({ ...save, value: value === undefined ? null : value, savedAt: now });
    storeVote(db).run({ slotId: save.slotId, number: save.vote ?? 1, value: value ?? null, savedAt: now });
    return saved;
  }
  // What comes too late changes nothing by itself, wherever it comes from: it is kept, for a person to decide about.
  if (fate === 'late') {
    setAside('late');
    return refused('too-late', whyNotAnswerSaid[row.attempt.state === 'running' ? 'time-over' : 'ended']);
  }
  const from = fromAllowedNetwork(context, { sitting: row.sitting, arrangement: arranged });
  if (!from.ok) return from;
  if (fate === 'superseded') {
    setAside('superseded');
    return refused('superseded', 'This exam has been opened in another window. Go on there.');
  }
  const design = pinnedDesign(db, row.attempt.revisionId);
  const limit = ownLimit(minutesOf(design, row.lineId), sittingRules.minutesPerQuestion);
  const choose = design.parts.find((part) => part.id === row.partId)?.choose;
  const why = whyNotSave(
    { phase: row.attempt.state, deadline, reached: sittingRules.onwardOnly ? row.attempt.reached : 0 },
    {
      timed: limit !== null,
      until: limit === null ? null : questionDeadline(limit, arranged.extraPercent, row.openedAt, deadline),
      // What costs a statement is looked up only where the rule comes so far as to ask.
      get page() {
        return sittingRules.onwardOnly && row.attempt.reached > 0 ? pageOf(db, row.attempt.id, design, save.slotId) : 0;
      },
      get closed() {
        return isClosedByTries(tx, sittingRules, save.slotId);
      },
      get full() {
        return (
          choose?.extra === 'refused' && value !== undefined && answeredBesides(tx, save, row.partId) >= choose.count
        );
      },
    },
    now,
  );
  if (why) {
    setAside(asideReasons[why]);
    return refused('bad-input', whyNotAnswerSaid[why]);
  }
  storeResponse(db).run({ ...save, value: value === undefined ? null : value, savedAt: now });
  return saved;
}

/**
 * Saves several responses of any students in one transaction and answers each by itself. Nothing is acknowledged before
 * the commit is on disk. It is the one place where a refusal is stored too: what came too late, or from a browser that was
 * superseded, is refused and kept aside.
 */
export function saveResponses(db: Db, saves: readonly { context: Context; save: SaveInput }[]): Result<Saved>[] {
  return db.transaction((tx) => saves.map(({ context, save }) => saveOne(tx, context, save)), {
    behavior: 'immediate',
  });
}
