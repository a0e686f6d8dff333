import type { Result } from '@/core/base/result';
import type { Context } from '../house/context';
import { openSitting } from '../sitting/openSitting';
import { scheduleSitting } from '../sitting/schedule';

/** Schedules a sitting as someone does who takes every warning of the preflight upon themselves. */
export function scheduleAcknowledged(
  context: Context,
  courseId: string,
  sittingId: string,
): Result<{ students: number }> {
  const open = openSitting(context, courseId, sittingId);
  if (!open.ok) return open;
  return scheduleSitting(
    context,
    courseId,
    sittingId,
    open.value.findings.map((one) => one.key),
  );
}
