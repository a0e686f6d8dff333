import { and, asc, eq, isNull } from 'drizzle-orm';
import type { Role } from '@/core/people/policy';
import type { Db } from '@/db/client';
import { course, membership, user } from '@/db/schema';
import { folderKind } from '../house/installation';

/** The password of everybody in a demo or test folder. Such a folder holds nobody real. */
export const demoPassword = 'tern-point-demo';

export type DemoPerson = { userId: string; name: string; role: Role; note: string };

/** The people a demo or test folder offers to sign in as, by role; null in production. */
export function demoPeople(db: Db): DemoPerson[] | null {
  const kind = folderKind(db);
  if (kind !== 'demo' && kind !== 'test') return null;
  const rows = db
    .select({
      userId: user.id,
      name: user.name,
      role: membership.role,
      standing: membership.standing,
    })
    .from(membership)
    .innerJoin(user, eq(user.id, membership.userId))
    .innerJoin(course, eq(course.id, membership.courseId))
    .where(and(isNull(membership.removedAt), isNull(membership.onlySitting)))
    .orderBy(asc(course.createdAt), asc(user.name))
    .all();
  const people = new Map<string, DemoPerson>();
  for (const { standing, ...row } of rows)
    if (!people.has(row.userId))
      people.set(row.userId, { ...row, note: standing?.extraPercent ? `+${standing.extraPercent} % time` : '' });
  return [...people.values()];
}
