import { and, eq, isNull } from 'drizzle-orm';
import { ok, refused } from '@/core/base/result';
import { type Action, permits } from '@/core/people/policy';
import { course, membership } from '@/db/schema';
import type { Door } from '../house/useCase';

/**
 * To what belongs to no course yet, for whoever may do it in some course.
 *
 * @param otherwise what everyone else is told
 */
export const toAnyCourse = (action: Action, otherwise: string): Door<readonly [], object> => ({
  ids: [],
  action,
  open(context) {
    const roles = context.db
      .select({ role: membership.role })
      .from(membership)
      .innerJoin(course, eq(course.id, membership.courseId))
      .where(and(eq(membership.userId, context.actor.userId), isNull(membership.removedAt), isNull(course.archivedAt)))
      .all();
    return roles.some(({ role }) => permits(action, role)) ? ok({}) : refused('not-allowed', otherwise);
  },
});
