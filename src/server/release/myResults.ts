import { and, asc, desc, eq, inArray, isNull } from 'drizzle-orm';
import type { Instant } from '@/core/base/time';
import type { Fact } from '@/core/release/plan';
import { attempt, course, membership, publication, sitting } from '@/db/schema';
import type { Context } from '../house/context';
import { onceTo, releaseFactsInAll, shownTo, whomInAll } from './releaseFacts';
import { bandsOf, type ReviewScore, scoreShown } from './scoreShown';

export type MyResult = {
  sittingId: string;
  title: string;
  courseName: string;
  timeZone: string;
  /** When something about it was last put in front of the student. */
  at: Instant;
  /** Null where the release plan does not show the score. */
  score: ReviewScore | null;
  /** What can be seen of it now. */
  visible: Fact[];
  /** Whether something waits to be opened once. */
  once: boolean;
  done: boolean | null;
};

/**
 * What the actor may see of the sittings they took or were given a result in, newest first, those of courses they have left
 * among them: only facts the release plan shows now.
 */
export function myResults(context: Context): MyResult[] {
  const { db, actor, now } = context;
  const mine = (userId: typeof attempt.userId | typeof publication.userId) => eq(userId, actor.userId);
  const taken = db
    .selectDistinct({ id: attempt.sittingId })
    .from(attempt)
    .where(and(mine(attempt.userId), eq(attempt.state, 'handed-in')))
    .all();
  const published = db
    .selectDistinct({ id: publication.sittingId })
    .from(publication)
    .where(mine(publication.userId))
    .all();
  const ids = [...new Set([...taken, ...published].map((one) => one.id))];
  if (ids.length === 0) return [];
  const rows = db
    .select({ row: sitting, courseName: course.name, gradebook: course.gradebook })
    .from(sitting)
    .innerJoin(course, eq(course.id, sitting.courseId))
    .innerJoin(membership, and(eq(membership.courseId, course.id), eq(membership.userId, actor.userId)))
    .where(and(inArray(sitting.id, ids), eq(membership.role, 'student')))
    .orderBy(desc(sitting.opens))
    .all();
  const sittings = rows.map(({ row }) => row);
  const whoms = whomInAll(db, sittings, actor.userId);
  const facts = releaseFactsInAll(db, sittings, whoms, actor.userId, now);
  const standing = new Map(
    db
      .select()
      .from(publication)
      .where(and(mine(publication.userId), inArray(publication.sittingId, ids), isNull(publication.withdrawnAt)))
      .orderBy(desc(publication.preliminary), asc(publication.id))
      .all()
      .map((one) => [one.sittingId, one]),
  );
  return rows
    .flatMap(({ row, courseName, gradebook }): MyResult[] => {
      const released = facts.get(row.id);
      const whom = whoms.get(row.id);
      if (!released || !whom) return [];
      const { visible } = shownTo(db, row, released, now);
      const once = onceTo(db, row, released, now).once.length > 0;
      if (visible.size === 0 && !once) return [];
      const published = standing.get(row.id) ?? null;
      return [
        {
          sittingId: row.id,
          title: row.title,
          courseName,
          timeZone: whom.timeZone,
          at: published?.publishedAt ?? released.attempts.handedIn.at(-1) ?? row.createdAt,
          ...scoreShown(row, published, visible, bandsOf(row, gradebook)),
          visible: [...visible],
          once,
        },
      ];
    })
    .sort((a, b) => b.at - a.at);
}
