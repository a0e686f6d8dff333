import { notFound, ok, type Result } from '@/core/base/result';
import { listen, type News } from '../house/bus';
import type { Context } from '../house/context';
import { serverNow } from '../house/installation';
import { attemptWithRules } from '../sitting/audience';
import { lookAtPulse, type Pulse } from './takeAttempt';

/** Begins to watch; returns how to stop. */
export type Watch<Seen> = (see: (seen: Seen) => void) => () => void;

/** What concerns an attempt's page: what is about its student or everyone, except that somebody answered. */
const concerns = (userId: string, news: News): boolean =>
  news.what !== 'progress' && (news.userId === undefined || news.userId === userId);

/**
 * Watches an attempt of one's own: how it stands is told at once, and again whenever something about it has changed. A
 * burst of news is told once.
 */
export function watchAttempt(context: Context, attemptId: string, epoch: number): Result<Watch<Pulse>> {
  const one = attemptWithRules(context.db, attemptId);
  if (!one || one.attempt.userId !== context.actor.userId) return notFound('attempt');
  const sittingId = one.sitting.id;
  return ok((see) => {
    let waiting = false;
    let stopped = false;
    const look = () => {
      waiting = false;
      if (stopped) return;
      const seen = lookAtPulse({ ...context, now: serverNow() }, attemptId, epoch);
      if (seen.ok) see(seen.value);
    };
    const stop = listen(sittingId, (news) => {
      if (waiting || !concerns(context.actor.userId, news)) return;
      waiting = true;
      setImmediate(look);
    });
    look();
    return () => {
      stopped = true;
      stop();
    };
  });
}
