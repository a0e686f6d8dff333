import { ok, type Result, refused } from '@/core/base/result';
import { isWithin } from '@/core/sitting/networks';
import type { Arrangement } from '@/core/sitting/rules';
import type { Context } from '../house/context';
import { logRefusal } from '../house/refusals';
import { attemptWithRules, rulesOf, type SittingRow } from './audience';

/**
 * Whether a request comes from where the sitting may be taken. Use-cases without a request, as the demo's, come from the
 * house itself.
 */
export function fromAllowedNetwork(
  context: Context,
  { sitting, arrangement }: { sitting: SittingRow; arrangement: Arrangement },
): Result<null> {
  const networks = arrangement.networks ?? rulesOf(sitting).networks;
  if (networks.length === 0 || isWithin(context.address ?? '', networks)) return ok(null);
  logRefusal(context, {
    action: 'entry.network',
    courseId: sitting.courseId,
    subjectId: sitting.id,
    detail: { networks },
  });
  return refused('not-allowed', 'This exam can only be taken from the network of its room. Ask your invigilator.');
}

/** Whether what stands on a running paper may be seen: by who is still in the course, from where it may be taken. */
export function mayWriteHere(context: Context, attemptId: string): boolean {
  const own = attemptWithRules(context.db, attemptId);
  return own?.isMember === true && fromAllowedNetwork(context, own).ok;
}
