import { and, eq, inArray, isNull } from 'drizzle-orm';
import { z } from 'zod';
import { id } from '@/core/base/id';
import { ok, type Result, refused } from '@/core/base/result';
import { pointsText } from '@/core/base/rounding';
import { counted } from '@/core/base/words';
import { bandTold } from '@/core/gradebook/bands';
import type { SittingResult } from '@/core/marking/sittingResult';
import { leakKey, leakTaken } from '@/core/release/leakCheck';
import { tellsScoreOnPublishing } from '@/core/release/visibleTo';
import type { Tx } from '@/db/client';
import { publication, sitting } from '@/db/schema';
import type { Context } from '../house/context';
import { send } from '../house/outbox';
import { command } from '../house/useCase';
import { type SittingRow, takersOf } from '../records/audience';
import { bandsFor } from '../records/bandsHeld';
import { samePoints, standingPublications, tellsAnew } from '../records/published';
import { leaksOfPublishing } from '../sitting/leaksOf';
import { toSitting } from '../sitting/toSitting';
import { resultsOf } from './results';

/** A result to be put in front of a student. */
export type Entry = {
  userId: string;
  email: string | null;
  result: SittingResult;
  /** What stood published before, where something did. */
  before?: { earned: number; possible: number } | null;
};

/**
 * Stores a copy of each result, in place of what stood before: what was published is kept as published.
 *
 * @param how `preliminary` where a moment of the plan shows it before publishing; nobody is told of that
 */
export function writePublications(
  tx: Tx,
  context: Context,
  row: SittingRow,
  entries: readonly Entry[],
  how: { preliminary: boolean },
): void {
  if (entries.length === 0) return;
  const held = bandsFor(tx, row);
  for (let i = 0; i < entries.length; i += 200) {
    const some = entries.slice(i, i + 200);
    tx.update(publication)
      .set({ withdrawnAt: context.now })
      .where(
        and(
          eq(publication.sittingId, row.id),
          isNull(publication.withdrawnAt),
          how.preliminary ? eq(publication.preliminary, true) : undefined,
          inArray(
            publication.userId,
            some.map((one) => one.userId),
          ),
        ),
      )
      .run();
    tx.insert(publication)
      .values(
        some.map(({ userId, result }) => ({
          sittingId: row.id,
          userId,
          earned: result.earned,
          possible: result.possible,
          marked: result.marked,
          waiting: result.waiting,
          attemptIds: result.from,
          preliminary: how.preliminary,
          told: how.preliminary ? null : bandTold(held, result),
          publishedAt: context.now,
          publishedBy: context.actor.userId,
        })),
      )
      .run();
  }
  if (how.preliminary) return;
  const tellsScore = tellsScoreOnPublishing(row.releasePlan);
  send(
    tx,
    context,
    row.courseId,
    entries.map(({ userId, email, result, before }) => ({
      userId,
      email,
      subject: `${row.title}: your result${before ? ' has changed' : ''}`,
      // A message stays: the score stands in it only where the plan shows it from now on, for good.
      body: resultSaid(row.title, result, before ?? null, tellsScore),
    })),
  );
}

const scoreOf = ({ earned, possible }: { earned: number; possible: number }) =>
  `${pointsText(earned)} of ${pointsText(possible)} points`;

/** What a student is told when a result is put in front of them, the first time or again. */
function resultSaid(title: string, result: SittingResult, before: Entry['before'], tellsScore: boolean): string {
  if (!tellsScore)
    return `Your result of ${title} has been published${before ? ' again, since something in it has changed' : ''}. What you see of it, and when, stands under My results.`;
  if (!before) return `Your result of ${title} has been published: ${scoreOf(result)}. You find it under My results.`;
  return !samePoints(before, result)
    ? `Your result of ${title} has changed: ${scoreOf(before)} before, ${scoreOf(result)} now. Why it has stands under My results.`
    : `Your result of ${title} has been published again: ${scoreOf(result)}, as before. What has changed stands under My results.`;
}

const publishInput = z.strictObject({
  /** How many the page said it would publish. */
  expected: z.int().min(0),
  /** Only these students; all that are ready where nobody is named. */
  userIds: z.array(id('user')).max(2000).optional(),
  /** Whether what gives away keys is shown at once, although somebody may still be writing the same questions. */
  showAtOnce: z.boolean().optional(),
});

/**
 * Publishes every result that is completely marked and not yet published as it stands, or of those the students named, and
 * tells the students. If it would publish another number than the page said, nothing is done, and it is said.
 */
export const publishReady = command({
  admits: toSitting('results.publish'),
  takes: [publishInput],
  logs: 'results.publish',
  does(
    { tx, sittingId, sitting: row, record, context },
    { expected, userIds, showAtOnce },
  ): Result<{ published: number }> {
    const named = userIds ? new Set(userIds) : null;
    const standing = standingPublications(tx, sittingId);
    const held = bandsFor(tx, row);
    const people = new Map(takersOf(tx, row).map((student) => [student.userId, student.email]));
    const due = [...resultsOf(tx, row)].flatMap(([userId, { result }]): Entry[] => {
      const before = standing.get(userId);
      const email = people.get(userId);
      const wanted = email !== undefined && (!named || named.has(userId));
      return wanted && result.ready && (!before || tellsAnew(before, result, held))
        ? [{ userId, email, result, before }]
        : [];
    });
    if (due.length !== expected)
      return refused(
        'conflict',
        `Meanwhile the numbers have changed: ${counted(due.length, 'result is', 'results are')} ready now. Look again and publish.`,
      );
    if (due.length === 0) return refused('conflict', 'There is nothing to publish.');
    writePublications(tx, context, row, due, { preliminary: false });
    if (showAtOnce) takeOnLeaks(tx, context, row);
    record({
      subjectId: sittingId,
      detail: { published: due.length, ...(named ? { chosen: true } : {}), ...(showAtOnce ? { showAtOnce } : {}) },
    });
    return ok({ published: due.length });
  },
});

/** Takes on by name that what is published gives away keys while somebody may still be writing. */
function takeOnLeaks(tx: Tx, context: Context, row: SittingRow): void {
  const { userId: by, name } = context.actor;
  const known = new Set((row.acknowledged ?? []).map((one) => one.key));
  const taken = leaksOfPublishing(tx, row, context.now).map((leak) => ({
    key: leakKey(leak),
    by,
    name,
    at: context.now,
    leak: leakTaken(leak),
  }));
  const added = taken.filter((one) => !known.has(one.key));
  if (added.length === 0) return;
  tx.update(sitting)
    .set({ acknowledged: [...(row.acknowledged ?? []), ...added] })
    .where(eq(sitting.id, row.id))
    .run();
}

/**
 * Takes back what was published of a sitting, of everyone or of the students named, and tells them. The rows stay, marked as
 * withdrawn, and nothing publishes itself again for these students.
 */
export const withdrawPublished = command({
  admits: toSitting('results.publish'),
  takes: [publishInput.shape.userIds],
  logs: 'results.withdraw',
  does({ tx, sittingId, sitting: row, record, context }, userIds): Result<{ withdrawn: number }> {
    const taken = tx
      .update(publication)
      .set({ withdrawnAt: context.now })
      .where(
        and(
          eq(publication.sittingId, sittingId),
          isNull(publication.withdrawnAt),
          eq(publication.preliminary, false),
          userIds ? inArray(publication.userId, userIds) : undefined,
        ),
      )
      .returning({ userId: publication.userId })
      .all();
    const whose = new Set(taken.map((one) => one.userId));
    send(
      tx,
      context,
      row.courseId,
      takersOf(tx, row).flatMap(({ userId, email }) =>
        whose.has(userId)
          ? [
              {
                userId,
                email,
                subject: `${row.title}: your result was taken back`,
                body: `Your result of ${row.title} was taken back for now. You get a message when it is published again.`,
              },
            ]
          : [],
      ),
    );
    record({ subjectId: sittingId, detail: { withdrawn: taken.length } });
    return ok({ withdrawn: taken.length });
  },
});
