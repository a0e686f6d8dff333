import { and, eq, isNotNull, isNull } from 'drizzle-orm';
import { id } from '@/core/base/id';
import { notFound, ok, type Result, refused } from '@/core/base/result';
import { membership, user } from '@/db/schema';
import { undoable } from '../house/undoable';
import { command } from '../house/useCase';
import { isMember } from './member';
import { toCourse } from './toCourse';

/** A person was taken out. */
export const personRemoved = undoable<{ membershipId: string }>('people.remove', {
  action: 'people.change',
  says: (_kept, { name }) => `${typeof name === 'string' ? name : 'Somebody'} taken out of the course`,
  apply(tx, _context, { membershipId }) {
    tx.update(membership).set({ removedAt: null }).where(eq(membership.id, membershipId)).run();
  },
});

/** Takes a person out of a course. What they have written stays, and they go on seeing their own results. */
export const removePerson = command({
  admits: toCourse('people.change'),
  takes: [id('membership')],
  logs: 'people.remove',
  does({ tx, courseId, record, context }, membershipId): Result<{ auditId: number }> {
    const found = tx
      .select({ userId: membership.userId, name: user.name })
      .from(membership)
      .innerJoin(user, eq(user.id, membership.userId))
      .where(isMember(courseId, membershipId))
      .get();
    if (!found) return notFound('person');
    if (found.userId === context.actor.userId)
      return refused('conflict', 'You cannot take yourself out of the course.');
    tx.update(membership).set({ removedAt: context.now }).where(eq(membership.id, membershipId)).run();
    const undo = personRemoved.of({ membershipId });
    return ok({ auditId: record({ subjectId: membershipId, detail: { name: found.name }, undo }) });
  },
});

/** Brings somebody back who has left, with the part, section and number they had. */
export const bringBack = command({
  admits: toCourse('people.change'),
  takes: [id('membership')],
  logs: 'people.bring-back',
  does({ tx, courseId, record }, membershipId): Result<null> {
    const back = tx
      .update(membership)
      .set({ removedAt: null })
      .where(
        and(
          eq(membership.id, membershipId),
          eq(membership.courseId, courseId),
          isNotNull(membership.removedAt),
          isNull(membership.onlySitting),
        ),
      )
      .run();
    if (back.changes === 0) return notFound('former person');
    record({ subjectId: membershipId });
    return ok(null);
  },
});
