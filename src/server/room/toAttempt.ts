import { notFound, ok } from '@/core/base/result';
import type { Action } from '@/core/people/policy';
import { stillRuns } from '../attempt/toOwnAttempt';
import type { Door } from '../house/useCase';
import type { Admission } from '../people/permission';
import { attemptWithRules, type RunningAttempt, type SittingRow } from '../records/audience';
import { toSitting } from '../sitting/toSitting';

/** To one attempt of a sitting of a course; what the clock has ended is handed in on the way. */
export const toAttempt = (
  action: Action,
): Door<readonly ['courseId', 'sittingId', 'attemptId'], Admission & { sitting: SittingRow; one: RunningAttempt }> => ({
  ids: ['courseId', 'sittingId', 'attemptId'],
  action,
  open(context, courseId, sittingId, attemptId) {
    const found = toSitting(action).open(context, courseId, sittingId);
    if (!found.ok) return found;
    const before = attemptWithRules(context.db, attemptId);
    if (before?.sitting.id !== sittingId) return notFound('attempt');
    const one = stillRuns(context, before) ? before : (attemptWithRules(context.db, attemptId) ?? before);
    return ok({ ...found.value, one });
  },
});
