import { eq } from 'drizzle-orm';
import { notFound, ok } from '@/core/base/result';
import { permits } from '@/core/people/policy';
import { markerAssignment } from '@/db/schema';
import type { Door } from '../house/useCase';
import { type Admission, admit } from '../people/permission';
import { sittingOf } from '../records/audience';

/** What whoever marks in a course may mark. */
export type Marking = Admission & {
  /** The sittings given to this person; null means all of the course. */
  sittings: ReadonlySet<string> | null;
  /** Whether a sitting is among them. */
  mayMark(sittingId: string): boolean;
};

/** To the marking of a course: all of it, or for a marker the sittings that were given to them. */
export const toMarking: Door<readonly ['courseId'], Marking> = {
  ids: ['courseId'],
  action: 'marking.mark',
  open(context, courseId) {
    const admitted = admit(context, courseId, 'marking.mark', true);
    if (!admitted.ok) return admitted;
    const all = permits('marking.mark', admitted.value.role, false);
    const sittings = all
      ? null
      : new Set(
          context.db
            .select({ sittingId: markerAssignment.sittingId })
            .from(markerAssignment)
            .where(eq(markerAssignment.userId, context.actor.userId))
            .all()
            .map((row) => row.sittingId),
        );
    return ok({ ...admitted.value, sittings, mayMark: (sittingId) => sittings === null || sittings.has(sittingId) });
  },
};

/** To the marking of one sitting: one that was not given to a marker does not exist for them. */
export const toMarkedSitting: Door<readonly ['courseId', 'sittingId'], Marking> = {
  ids: ['courseId', 'sittingId'],
  action: 'marking.mark',
  open(context, courseId, sittingId) {
    const found = toMarking.open(context, courseId);
    if (!found.ok) return found;
    return found.value.mayMark(sittingId) && sittingOf(context.db, courseId, sittingId) ? found : notFound('marking');
  },
};
