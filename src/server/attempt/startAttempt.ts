import { randomBytes } from 'node:crypto';
import { and, asc, desc, eq, inArray, isNull, sql } from 'drizzle-orm';
import { z } from 'zod';
import { seededRandom } from '@/core/base/random';
import { notFound, ok, type Result, refused } from '@/core/base/result';
import type { Instant } from '@/core/base/time';
import { drawPaper } from '@/core/exam/drawPaper';
import { permits } from '@/core/people/policy';
import type { QuestionContent } from '@/core/question/content';
import { present } from '@/core/question/score';
import { designInRound } from '@/core/round/roundRules';
import { mayStart, soFarOf, type WhyNot } from '@/core/sitting/clock';
import { startSaid } from '@/core/sitting/startSaid';
import type { Tx } from '@/db/client';
import { preparedOnce } from '@/db/preparedOnce';
import { attempt, attemptEvent, paperSlot, questionVersion, response } from '@/db/schema';
import { freezePassages } from '../bank/passages';
import { tell } from '../house/bus';
import { type Context, newId } from '../house/context';
import { logRefusal } from '../house/refusals';
import { command, type Door } from '../house/useCase';
import { fromAllowedNetwork } from '../records/allowedNetwork';
import { rulesOf, type SittingRow, type StudentSitting, sittingsFor } from '../records/audience';
import { frozenContents } from '../records/paperContent';
import { handsetOf, type RoundRow, roundOf } from '../records/roundOf';
import { mayEnterWith } from './entry';
import { roundPaper } from './roundPaper';
import { paperSeed, poolOf } from './sittingPool';
import { inItsAttempt } from './toOwnAttempt';

const insertSlot = preparedOnce((db) => {
  const names = [
    'id',
    'attemptId',
    'position',
    'partId',
    'partTitle',
    'lineId',
    'questionId',
    'versionId',
    'points',
    'presentation',
    'passageVersionId',
  ] as const;
  const values = Object.fromEntries(names.map((name) => [name, sql.placeholder(name)]));
  return db
    .insert(paperSlot)
    .values(values as Record<(typeof names)[number], ReturnType<typeof sql.placeholder>>)
    .prepare();
});

/** To a scheduled sitting that is given to the actor. */
const toGivenSitting: Door<readonly ['sittingId'], { given: StudentSitting }> = {
  ids: ['sittingId'],
  action: 'sitting.take',
  open(context, sittingId) {
    const given = sittingsFor(context.db, context.actor.userId, sittingId)[0];
    return given && permits('sitting.take', 'student', true) ? ok({ given }) : notFound('exam');
  },
};

/**
 * Starts an attempt: draws the paper, stores it, freezes its questions. A student whose attempt is running already gets
 * that one, so that starting twice is harmless.
 */
export const startAttempt = command({
  admits: toGivenSitting,
  takes: [z.string().max(200).default('')],
  unlogged: inItsAttempt,
  does({ tx, context, now, actor, sittingId, given, afterwards }, code): Result<{ attemptId: string }> {
    const { sitting: row, arrangement, timeZone } = given;
    const rules = rulesOf(row);
    const before = tx
      .select()
      .from(attempt)
      .where(and(eq(attempt.sittingId, sittingId), eq(attempt.userId, actor.userId)))
      .orderBy(desc(attempt.number))
      .all();
    const running = before.find((one) => one.state === 'running');
    if (running) return ok({ attemptId: running.id });
    const may = mayStart(rules, timeZone, arrangement, soFarOf(before), now);
    if (!may.may) {
      if (may.why === 'not-open-yet')
        logRefusal(context, { action: 'attempt.early', courseId: row.courseId, subjectId: sittingId });
      return refused(tooEarly.has(may.why) ? 'too-early' : 'too-late', startSaid(may, timeZone, now));
    }
    const from = fromAllowedNetwork(context, { sitting: row, arrangement });
    if (!from.ok) return from;
    const entered = mayEnterWith(context, { courseId: row.courseId, sittingId, rules, arrangement }, code);
    if (!entered.ok) return entered;

    const number = (before[0]?.number ?? 0) + 1;
    const last = before.find((one) => one.state !== 'voided');
    const held = row.isRound ? roundOf(tx, sittingId) : undefined;
    if (held?.rules.comingIn === 'nameless' && !handsetOf(context.db, actor.userId))
      return refused('not-allowed', 'This round is answered without names: come in by its door code.');
    const begun =
      last && rules.nextPaper === 'same' && !row.anonymous
        ? goOnWith(tx, context, row, last, number)
        : drawNew(tx, context, row, actor.userId, before, number, held);
    if (!begun.ok) return begun;
    tx.insert(attemptEvent)
      .values({ attemptId: begun.value.attemptId, at: now, kind: 'started', actorId: actor.userId })
      .run();
    afterwards(() => tell({ sittingId, what: 'attempt', userId: actor.userId }));
    return ok({ attemptId: begun.value.attemptId });
  },
});

const tooEarly: ReadonlySet<WhyNot> = new Set<WhyNot>(['not-open-yet', 'shut-today', 'wait', 'not-let-through']);

type AttemptRow = typeof attempt.$inferSelect;

/** Whether nobody has drawn from a pool yet. */
const isFirstFrom = (tx: Tx, sittingId: string, poolId: string): boolean =>
  tx
    .select({ id: attempt.id })
    .from(attempt)
    .where(and(eq(attempt.sittingId, sittingId), eq(attempt.snapshotId, poolId)))
    .limit(1)
    .get() === undefined;

/** Stores an attempt that begins now. */
function storeRunning(
  tx: Tx,
  { now }: Context,
  { id: sittingId }: SittingRow,
  begun: Pick<AttemptRow, 'id' | 'userId' | 'number' | 'snapshotId' | 'revisionId' | 'seed'>,
): void {
  tx.insert(attempt)
    .values({ ...begun, sittingId, state: 'running', startedAt: now })
    .run();
}

/**
 * Draws a paper of its own for an attempt that begins now.
 *
 * @param userId whose attempt it is
 * @param before all earlier attempts of the person in the sitting
 */
export function drawNew(
  tx: Tx,
  context: Context,
  row: SittingRow,
  userId: string,
  before: readonly AttemptRow[],
  number: number,
  held: RoundRow | undefined,
): Result<{ attemptId: string }> {
  const { db, now } = context;
  const pool = poolOf(tx, db, row, now);
  const design = held ? designInRound(pool.design, held.rules) : pool.design;
  // One for all where a round is led.
  const shared = held ? roundPaper(tx, db, row, held) : null;
  // From a derived seed the paper of a person could be drawn again; an anonymous one is forgotten.
  const seed = row.anonymous ? randomBytes(32).toString('hex') : paperSeed(db, row.id, userId, number);
  const seen = seenBefore(
    tx,
    before.map((one) => one.id),
  );
  const slots = shared ?? drawPaper(design, pool.snapshot, seed, seen, pool.plan);
  if (!slots || slots.length === 0)
    return refused('conflict', 'No paper could be drawn. Tell your instructor; nothing of your time has been used.');

  const attemptId = newId();
  const versionIds = slots.map((slot) => slot.versionId);
  // Which versions stand fast from this moment on would tell what is on this person's paper: of an anonymous sitting all
  // that can be drawn do, from its first start on.
  const standsFast = row.anonymous && isFirstFrom(tx, row.id, pool.id) ? pool.snapshot.entries : slots;
  freezeVersions(
    tx,
    standsFast.map((one) => one.versionId),
    now,
  );
  const contents = frozenContents(tx, versionIds);
  storeRunning(tx, context, row, {
    id: attemptId,
    userId,
    number,
    snapshotId: pool.id,
    revisionId: row.revisionId,
    seed: row.anonymous ? '' : seed,
  });
  const titles = new Map(pool.design.parts.map((part) => [part.id, part.title]));
  const passages = freezePassages(tx, context, [...new Set(standsFast.flatMap((one) => one.passageId ?? []))]);
  const insert = insertSlot(db);
  slots.forEach(({ passageId, ...slot }, position) => {
    insert.run({
      id: newId(),
      attemptId,
      position,
      ...slot,
      partTitle: titles.get(slot.partId) ?? '',
      passageVersionId: (passageId && passages.get(passageId)) || null,
      presentation:
        shared?.[position]?.presentation ??
        present(contents.get(slot.versionId) as QuestionContent, seededRandom(seed, `slot/${position}`), design),
    });
  });
  return ok({ attemptId });
}

/** Goes on with the paper of the attempt before and a copy of its answers; what each attempt earned stays with it. */
function goOnWith(
  tx: Tx,
  context: Context,
  row: SittingRow,
  last: AttemptRow,
  number: number,
): Result<{ attemptId: string }> {
  const { db, now, actor } = context;
  const attemptId = newId();
  const seed = paperSeed(db, row.id, actor.userId, number);
  const { snapshotId, revisionId } = last;
  storeRunning(tx, context, row, { id: attemptId, userId: actor.userId, number, snapshotId, revisionId, seed });
  const insert = insertSlot(db);
  const slots = tx
    .select({ slot: paperSlot, response })
    .from(paperSlot)
    .leftJoin(response, eq(response.slotId, paperSlot.id))
    .where(eq(paperSlot.attemptId, last.id))
    .orderBy(asc(paperSlot.position))
    .all();
  for (const { slot, response: given } of slots) {
    const id = newId();
    insert.run({ ...slot, id, attemptId });
    if (given)
      tx.insert(response)
        .values({ ...given, slotId: id, attemptId, revision: 1, epoch: 0, sequence: 0, savedAt: now })
        .run();
  }
  return ok({ attemptId });
}

/** From now on these versions stay as they are. */
export function freezeVersions(tx: Tx, versionIds: readonly string[], now: Instant): void {
  for (let i = 0; i < versionIds.length; i += 500)
    tx.update(questionVersion)
      .set({ frozenAt: now })
      .where(and(inArray(questionVersion.id, versionIds.slice(i, i + 500)), isNull(questionVersion.frozenAt)))
      .run();
}

/** What the student had in earlier attempts of the sitting. */
export function seenBefore(tx: Tx, attemptIds: string[]): Set<string> {
  if (attemptIds.length === 0) return new Set();
  const rows = tx
    .select({ questionId: paperSlot.questionId })
    .from(paperSlot)
    .where(inArray(paperSlot.attemptId, attemptIds))
    .all();
  return new Set(rows.map((row) => row.questionId));
}
