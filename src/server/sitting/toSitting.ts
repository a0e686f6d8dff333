import { notFound, ok } from '@/core/base/result';
import type { Action } from '@/core/people/policy';
import type { Door } from '../house/useCase';
import { type Admission, admit } from '../people/permission';
import { type SittingRow, sittingOf } from '../records/audience';

/** To a sitting of a course. */
export const toSitting = (
  action: Action,
): Door<readonly ['courseId', 'sittingId'], Admission & { sitting: SittingRow }> => ({
  ids: ['courseId', 'sittingId'],
  action,
  open(context, courseId, sittingId) {
    const admitted = admit(context, courseId, action);
    if (!admitted.ok) return admitted;
    const sitting = sittingOf(context.db, courseId, sittingId);
    return sitting ? ok({ ...admitted.value, sitting }) : notFound('sitting');
  },
});

/** To a sitting whose papers have names: an anonymous one is not found here. */
export const toNamedSitting = (action: Action): ReturnType<typeof toSitting> => {
  const door = toSitting(action);
  return {
    ...door,
    open(context, courseId, sittingId) {
      const found = door.open(context, courseId, sittingId);
      return found.ok && found.value.sitting.anonymous ? notFound('sitting with names') : found;
    },
  };
};
