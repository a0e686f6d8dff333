import { notFound, ok, type Result, refused } from '@/core/base/result';
import type { Context } from '../house/context';
import { logRefusal } from '../house/refusals';
import type { Door } from '../house/useCase';
import { writing } from '../house/writing';
import { fromAllowedNetwork } from '../records/allowedNetwork';
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

/** To an attempt of one's own from anywhere: whether it can be gone on with, and nothing of what stands in it. */
export const toAttemptFromAnywhere: Door<readonly ['attemptId'], Own> = {
  ids: ['attemptId'],
  action: 'sitting.take',
  open: ownAttempt,
};

/**
 * To an attempt of one's own, whatever has become of it; while it runs, only by who is still in the
 * course, and from where it may be taken.
 */
export const toOwnAttempt: Door<readonly ['attemptId'], Own> = {
  ids: ['attemptId'],
  action: 'sitting.take',
  open(context, attemptId) {
    const found = ownAttempt(context, attemptId);
    if (!found.ok) return found;
    const { own } = found.value;
    if (own.attempt.state !== 'running' || isOver(own, context.now)) return found;
    if (!own.isMember) return refused('not-allowed', 'You are no longer in this course. Ask your instructor.');
    const from = fromAllowedNetwork(context, own);
    return from.ok ? found : from;
  },
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
    const found = toOwnAttempt.open(context, attemptId);
    if (!found.ok) return found;
    return stillRuns(context, found.value.own) ? found : refused('too-late', 'This attempt has been handed in.');
  },
};
