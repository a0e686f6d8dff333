import { and, eq } from 'drizzle-orm';
import { notFound, ok, type Result, refused } from '@/core/base/result';
import { type Action, permits, type Role } from '@/core/people/policy';
import { course, membership } from '@/db/schema';
import type { Context } from '../house/context';

/** The course as the actor knows it. */
export type Admission = { courseId: string; role: Role; timeZone: string; courseName: string };

/**
 * Admits the actor to a course for one action of the policy. A course one has no part in is answered like one that does
 * not exist, and so is one that one has left, for all that does not hold after leaving.
 *
 * @param own whether the thing belongs to the actor, where the policy asks
 */
export function admit(context: Context, courseId: string, action: Action, own = false): Result<Admission> {
  const row = context.db
    .select({
      role: membership.role,
      removedAt: membership.removedAt,
      timeZone: course.timeZone,
      courseName: course.name,
    })
    .from(membership)
    .innerJoin(course, eq(course.id, membership.courseId))
    .where(and(eq(membership.courseId, courseId), eq(membership.userId, context.actor.userId)))
    .get();
  if (!row) return notFound('course');
  const { removedAt, ...here } = row;
  const hasLeft = removedAt !== null;
  if (permits(action, here.role, own, hasLeft)) return ok({ courseId, ...here });
  return hasLeft ? notFound('course') : refused('not-allowed', 'Your role in this course does not allow this.');
}
