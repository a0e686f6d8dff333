import { notFound, ok, type Result, refused } from '@/core/base/result';
import type { Context } from '../house/context';
import { logRefusal } from '../house/refusals';
import type { Door } from '../house/useCase';
import { writing } from '../house/writing';
import { attemptWithRules, type RunningAttempt } from '../records/audience';
import { endIfExpired, isOver } from './endAttempt';

/** Why what a student does in an attempt stands in no other log. */
export const inItsAttempt = 'it stands among the events of its attempt';

type Own = { own: RunningAttempt };

function ownAttempt(context: Context, attemptId: string): Result<Own> {
  const own = attemptWithRules(context.db, attemptId);
  if (own?.attempt.userId === context.actor.userId) return ok({ own });
  if (own) logRefusal(context, { action: 'attempt.open', courseId: own.sitting.courseId, subjectId: attemptId });
  return notFound('attempt');
}

/** To an attempt of one's own, whatever has become of it. */
export const toOwnAttempt: Door<readonly ['attemptId'], Own> = {
  ids: ['attemptId'],
  action: 'sitting.take',
  open: ownAttempt,
};

/** Ends an attempt that the clock has ended. @returns whether it still runs */
export function stillRuns(context: Context, own: RunningAttempt): boolean {
  if (own.attempt.state !== 'running') return false;
  if (!isOver(own, context.now)) return true;
  writing(context, (tx) => ok(endIfExpired(tx, own, context.now)));
  return false;
}

/** To an attempt of one's own that runs; what the clock has ended is handed in on the way. */
export const toRunningAttempt: Door<readonly ['attemptId'], Own> = {
  ids: ['attemptId'],
  action: 'sitting.take',
  open(context, attemptId) {
    const found = ownAttempt(context, attemptId);
    if (!found.ok) return found;
    return stillRuns(context, found.value.own) ? found : refused('too-late', 'This attempt has been handed in.');
  },
};
