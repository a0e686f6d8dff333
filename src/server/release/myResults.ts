import { and, asc, desc, eq, inArray } from 'drizzle-orm';
import { grouped } from '@/core/base/grouped';
import type { Instant } from '@/core/base/time';
import type { Fact } from '@/core/release/plan';
import { attempt, course, membership, publication, sitting } from '@/db/schema';
import type { Context } from '../house/context';
import { bandsOf } from '../records/bandsHeld';
import { onceTo, releaseFactsInAll, shownTo, whomInAll } from './releaseFacts';
import { type ReviewScore, scoreShown } from './scoreShown';

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
  /** When what was published last was taken back, where nothing stands published since. */
  takenBack: Instant | null;
  /** What the score was before it was published anew, where that was another. */
  before: { earned: number; possible: number } | null;
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
  const told = db
    .select()
    .from(publication)
    .where(and(mine(publication.userId), inArray(publication.sittingId, ids)))
    .orderBy(desc(publication.preliminary), asc(publication.id))
    .all();
  const standing = new Map(told.filter((one) => one.withdrawnAt === null).map((one) => [one.sittingId, one]));
  const final = grouped(
    told.filter((one) => !one.preliminary),
    (one) => one.sittingId,
  );
  return rows
    .flatMap(({ row, courseName, gradebook }): MyResult[] => {
      const released = facts.get(row.id);
      const whom = whoms.get(row.id);
      if (!released || !whom) return [];
      const { visible } = shownTo(db, row, released, now);
      const once = onceTo(db, row, released, now).once.length > 0;
      const published = standing.get(row.id) ?? null;
      const last = final.get(row.id)?.at(-1);
      const takenBack = last?.withdrawnAt ?? null;
      if (visible.size === 0 && !once && takenBack === null) return [];
      const shown = scoreShown(row, published, visible, bandsOf(row, gradebook));
      const before = last && last.id === published?.id ? final.get(row.id)?.at(-2) : undefined;
      return [
        {
          sittingId: row.id,
          title: row.title,
          courseName,
          timeZone: whom.timeZone,
          at: published?.publishedAt ?? released.attempts.handedIn.at(-1) ?? row.createdAt,
          ...shown,
          takenBack,
          before:
            shown.score && before && (before.earned !== last?.earned || before.possible !== last.possible)
              ? { earned: before.earned, possible: before.possible }
              : null,
          visible: [...visible],
          once,
        },
      ];
    })
    .sort((a, b) => b.at - a.at);
}
