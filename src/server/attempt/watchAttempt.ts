import { ok, type Result } from '@/core/base/result';
import { listen, type News } from '../house/bus';
import { serverNow } from '../house/installation';
import { query } from '../house/useCase';
import { epochInput, lookAtPulse, type Pulse } from './takeAttempt';
import { toOwnAttempt } from './toOwnAttempt';

/** Begins to watch; returns how to stop. */
export type Watch<Seen> = (see: (seen: Seen) => void) => () => void;

/** What concerns an attempt's page: what is about its student or everyone, except that somebody answered. */
const concerns = (userId: string, news: News): boolean =>
  news.what !== 'progress' && (news.userId === undefined || news.userId === userId);

/**
 * Watches an attempt of one's own: how it stands is told at once, and again whenever something about it has changed. A
 * burst of news is told once.
 */
export const watchAttempt = query({
  admits: toOwnAttempt,
  takes: [epochInput],
  does({ context, attemptId, own }, epoch): Result<Watch<Pulse>> {
    const sittingId = own.sitting.id;
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
  },
});
