import { and, desc, eq, isNull } from 'drizzle-orm';
import type { Instant } from '@/core/base/time';
import { visibleTo } from '@/core/release/visibleTo';
import { course, membership, publication, sitting } from '@/db/schema';
import type { Context } from '../house/context';

export type MyResult = {
  sittingId: string;
  title: string;
  courseName: string;
  timeZone: string;
  publishedAt: Instant;
  /** Null where the release plan does not show the score. */
  score: { earned: number; possible: number } | null;
};

/** What has been published to the actor, newest first: only facts the release plan shows now. */
export function myResults(context: Context): MyResult[] {
  const rows = context.db
    .select({ publication, sitting, courseName: course.name, timeZone: course.timeZone })
    .from(publication)
    .innerJoin(sitting, eq(sitting.id, publication.sittingId))
    .innerJoin(course, eq(course.id, sitting.courseId))
    .innerJoin(membership, and(eq(membership.courseId, course.id), eq(membership.userId, publication.userId)))
    .where(
      and(
        eq(publication.userId, context.actor.userId),
        isNull(publication.withdrawnAt),
        isNull(membership.removedAt),
        eq(membership.role, 'student'),
      ),
    )
    .orderBy(desc(publication.publishedAt))
    .all();
  return rows.flatMap((row): MyResult[] => {
    const seen = visibleTo(row.sitting.releasePlan, [row.publication], context.now);
    if (seen.size === 0) return [];
    const { earned, possible, publishedAt } = row.publication;
    return [
      {
        sittingId: row.sitting.id,
        title: row.sitting.title,
        courseName: row.courseName,
        timeZone: row.timeZone,
        publishedAt,
        score: seen.has('score') ? { earned, possible } : null,
      },
    ];
  });
}
