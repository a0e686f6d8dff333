import { randomBytes } from 'node:crypto';
import { and, desc, eq, inArray, isNull, sql } from 'drizzle-orm';
import { randomName, seededRandom } from '@/core/base/random';
import { notFound, ok, type Result, refused } from '@/core/base/result';
import { momentText } from '@/core/base/time';
import { drawPaper } from '@/core/exam/drawPaper';
import { permits } from '@/core/people/policy';
import type { QuestionContent } from '@/core/question/content';
import { present } from '@/core/question/score';
import { type MayStart, mayStart } from '@/core/sitting/clock';
import type { Tx } from '@/db/client';
import { preparedOnce } from '@/db/preparedOnce';
import { attempt, attemptEvent, course, paperSlot, questionVersion } from '@/db/schema';
import { freezePassages } from '../bank/passages';
import { type Context, newId } from '../house/context';
import { rulesOf, sittingsFor } from '../sitting/audience';
import { frozenContents } from './paperContent';
import { paperSeed, poolOf } from './sittingPool';

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

/** Why an attempt cannot be started, in words for the student. */
export function startRefusal(answer: Extract<MayStart, { may: false }>, timeZone: string): string {
  const at = answer.at === undefined ? '' : momentText(answer.at, timeZone);
  switch (answer.why) {
    case 'not-open-yet':
      return `It opens ${at}.`;
    case 'last-start-over':
      return `It could be started until ${at}.`;
    case 'closed':
      return `It closed ${at}.`;
    case 'no-attempt-left':
      return 'You have used all your attempts.';
    case 'excused':
      return 'You are excused from this one.';
    case 'running':
      return 'Your attempt is running.';
  }
}

/**
 * Starts an attempt: draws the paper, stores it, freezes its questions. A student whose attempt is running already gets
 * that one, so that starting twice is harmless.
 */
export function startAttempt(context: Context, sittingId: string): Result<{ attemptId: string }> {
  const { db, now, actor } = context;
  return db.transaction(
    (tx): Result<{ attemptId: string }> => {
      const given = sittingsFor(db, actor.userId, sittingId)[0];
      if (!given || !permits('sitting.take', 'student', true)) return notFound('exam');
      const { sitting: row, arrangement } = given;
      const before = tx
        .select()
        .from(attempt)
        .where(and(eq(attempt.sittingId, sittingId), eq(attempt.userId, actor.userId)))
        .orderBy(desc(attempt.number))
        .all();
      const running = before.find((one) => one.state === 'running');
      if (running) return ok({ attemptId: running.id });
      const used = before.filter((one) => one.state !== 'voided').length;
      const may = mayStart(rulesOf(row), arrangement, { running: false, used }, now);
      if (!may.may) {
        const zone =
          tx.select({ zone: course.timeZone }).from(course).where(eq(course.id, row.courseId)).get()?.zone ?? 'UTC';
        return refused(may.why === 'not-open-yet' ? 'too-early' : 'too-late', startRefusal(may, zone));
      }

      const number = (before[0]?.number ?? 0) + 1;
      const pool = poolOf(tx, db, row, now);
      // From a derived seed the paper of a person could be drawn again; an anonymous one is forgotten.
      const seed = row.anonymous ? randomBytes(32).toString('hex') : paperSeed(db, sittingId, actor.userId, number);
      const slots = drawPaper(
        pool.design,
        pool.snapshot,
        seed,
        seenBefore(
          tx,
          before.map((one) => one.id),
        ),
        pool.plan,
      );
      if (!slots || slots.length === 0)
        return refused(
          'conflict',
          'No paper could be drawn. Tell your instructor; nothing of your time has been used.',
        );

      const attemptId = newId();
      const versionIds = slots.map((slot) => slot.versionId);
      tx.update(questionVersion)
        .set({ frozenAt: now })
        .where(and(inArray(questionVersion.id, versionIds), isNull(questionVersion.frozenAt)))
        .run();
      const contents = frozenContents(tx, versionIds);
      tx.insert(attempt)
        .values({
          id: attemptId,
          sittingId,
          userId: actor.userId,
          number,
          state: 'running',
          snapshotId: pool.id,
          revisionId: row.revisionId,
          seed: row.anonymous ? '' : seed,
          startedAt: now,
        })
        .run();
      const titles = new Map(pool.design.parts.map((part) => [part.id, part.title]));
      const passages = freezePassages(tx, context, [...new Set(slots.flatMap((slot) => slot.passageId ?? []))]);
      const names = seededRandom(seed, 'slots');
      const insert = insertSlot(db);
      slots.forEach(({ passageId, ...slot }, position) => {
        insert.run({
          id: `${attemptId}-${position}${randomName(names, 4)}`,
          attemptId,
          position,
          ...slot,
          partTitle: titles.get(slot.partId) ?? '',
          passageVersionId: (passageId && passages.get(passageId)) || null,
          presentation: present(
            contents.get(slot.versionId) as QuestionContent,
            seededRandom(seed, `slot/${position}`),
            pool.design,
          ),
        });
      });
      tx.insert(attemptEvent).values({ attemptId, at: now, kind: 'started', actorId: actor.userId }).run();
      return ok({ attemptId });
    },
    { behavior: 'immediate' },
  );
}

/** What the student had in earlier attempts of the sitting. */
function seenBefore(tx: Tx, attemptIds: string[]): Set<string> {
  if (attemptIds.length === 0) return new Set();
  const rows = tx
    .select({ questionId: paperSlot.questionId })
    .from(paperSlot)
    .where(inArray(paperSlot.attemptId, attemptIds))
    .all();
  return new Set(rows.map((row) => row.questionId));
}
