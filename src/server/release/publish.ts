import { and, eq, inArray, isNull } from 'drizzle-orm';
import { notFound, ok, type Result, refused } from '@/core/base/result';
import { pointsText } from '@/core/base/rounding';
import { publication } from '@/db/schema';
import { record } from '../house/audit';
import type { Context } from '../house/context';
import { send } from '../house/outbox';
import { admit } from '../people/permission';
import { audienceOf, sittingOf } from '../sitting/audience';
import { differs, resultsOf, standingPublications } from './results';

/** What publishing would do, in numbers, before it does. */
export type PublishingNumbers = {
  /** Completely marked and not published as they stand now. */
  ready: number;
  /** Of the ready ones, those that differ from what was published before. */
  changed: number;
  stillToMark: number;
  notHandedIn: number;
  running: number;
  published: number;
};

/** Counts the rows of a results page for the publish sentence. */
export function publishingNumbers(
  rows: { state: string; result: { ready: boolean } | null; published: unknown; changed: boolean }[],
): PublishingNumbers {
  const numbers = { ready: 0, changed: 0, stillToMark: 0, notHandedIn: 0, running: 0, published: 0 };
  for (const row of rows) {
    if (row.published) numbers.published += 1;
    if (row.state === 'running') numbers.running += 1;
    if (row.state === 'not-started') numbers.notHandedIn += 1;
    if (!row.result) continue;
    if (!row.result.ready) numbers.stillToMark += 1;
    else if (!row.published || row.changed) {
      numbers.ready += 1;
      if (row.changed) numbers.changed += 1;
    }
  }
  return numbers;
}

/**
 * Publishes every result that is completely marked and not yet published as it stands, and tells the students. A copy of
 * each is stored: what was published is kept as published.
 *
 * @param expected how many the page said it would publish; if that is no longer true nothing is done, and it is said
 */
export function publishReady(
  context: Context,
  courseId: string,
  sittingId: string,
  expected: number,
): Result<{ published: number }> {
  const admitted = admit(context, courseId, 'results.publish');
  if (!admitted.ok) return admitted;
  return context.db.transaction(
    (tx) => {
      const row = sittingOf(tx, courseId, sittingId);
      if (!row) return notFound('sitting');
      const standing = standingPublications(tx, sittingId);
      const people = new Map(audienceOf(tx, row).map((student) => [student.userId, student]));
      const due = [...resultsOf(tx, row)].filter(([userId, { result }]) => {
        const before = standing.get(userId);
        return people.has(userId) && result.ready && (!before || differs(before, result));
      });
      if (due.length !== expected)
        return refused(
          'conflict',
          `Meanwhile the numbers have changed: ${due.length} results are ready now. Look again and publish.`,
        );
      if (due.length === 0) return refused('conflict', 'There is nothing to publish.');
      const replaced = due.flatMap(([userId]) => standing.get(userId)?.id ?? []);
      if (replaced.length)
        tx.update(publication).set({ withdrawnAt: context.now }).where(inArray(publication.id, replaced)).run();
      tx.insert(publication)
        .values(
          due.map(([userId, { result }]) => ({
            sittingId,
            userId,
            earned: result.earned,
            possible: result.possible,
            attemptIds: result.from,
            publishedAt: context.now,
            publishedBy: context.actor.userId,
          })),
        )
        .run();
      send(
        tx,
        context,
        courseId,
        due.map(([userId, { result }]) => ({
          userId,
          email: people.get(userId)?.email ?? '',
          subject: `${row.title}: your result`,
          body: `Your result of ${row.title} has been published: ${pointsText(result.earned)} of ${pointsText(result.possible)} points. You find it under My results.`,
        })),
      );
      record(tx, context, {
        action: 'results.publish',
        courseId,
        subjectId: sittingId,
        detail: { published: due.length },
      });
      return ok({ published: due.length });
    },
    { behavior: 'immediate' },
  );
}

/** Takes back everything published of a sitting. The rows stay, marked as withdrawn. */
export function withdrawPublished(
  context: Context,
  courseId: string,
  sittingId: string,
): Result<{ withdrawn: number }> {
  const admitted = admit(context, courseId, 'results.publish');
  if (!admitted.ok) return admitted;
  return context.db.transaction(
    (tx) => {
      const row = sittingOf(tx, courseId, sittingId);
      if (!row) return notFound('sitting');
      const taken = tx
        .update(publication)
        .set({ withdrawnAt: context.now })
        .where(and(eq(publication.sittingId, sittingId), isNull(publication.withdrawnAt)))
        .run();
      record(tx, context, {
        action: 'results.withdraw',
        courseId,
        subjectId: sittingId,
        detail: { withdrawn: taken.changes },
      });
      return ok({ withdrawn: taken.changes });
    },
    { behavior: 'immediate' },
  );
}
