import { and, eq, isNull } from 'drizzle-orm';
import { membership } from '@/db/schema';

/** One member of a course who is in it, and not only in one sitting of it by its link. */
export const isMember = (courseId: string, membershipId: string) =>
  and(
    eq(membership.id, membershipId),
    eq(membership.courseId, courseId),
    isNull(membership.removedAt),
    isNull(membership.onlySitting),
  );
