import { and, eq, isNotNull, isNull } from 'drizzle-orm';
import { sharedNumbers } from '@/core/people/personCells';
import type { Tx } from '@/db/client';
import { membership, user } from '@/db/schema';

/** One member of a course who is in it, and not only in one sitting of it by its link. */
export const isMember = (courseId: string, membershipId: string) =>
  and(
    eq(membership.id, membershipId),
    eq(membership.courseId, courseId),
    isNull(membership.removedAt),
    isNull(membership.onlySitting),
  );

/** Who of a course has a student number that somebody else in it has too, and the name of that other one. */
export const othersNumbers = (tx: Tx, courseId: string): Map<string, string> =>
  sharedNumbers(
    tx
      .select({ membershipId: membership.id, name: user.name, studentNumber: membership.studentNumber })
      .from(membership)
      .innerJoin(user, eq(user.id, membership.userId))
      .where(
        and(
          eq(membership.courseId, courseId),
          isNull(membership.removedAt),
          isNull(membership.onlySitting),
          isNotNull(membership.studentNumber),
        ),
      )
      .all(),
  );
