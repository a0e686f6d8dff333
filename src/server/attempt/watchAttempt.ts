import { ok, type Result } from '@/core/base/result';
import { listen, type News } from '../house/bus';
import { serverNow } from '../house/installation';
import { query } from '../house/useCase';
import { epochInput, lookAtPulse, type Pulse } from './takeAttempt';
import { toOwnAttempt } from './toOwnAttempt';

/** Begins to watch: what is seen is told, and `end` once it may no longer be watched. Returns how to stop. */
export type Watch<Seen> = (see: (seen: Seen) => void, end?: () => void) => () => void;

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
    return ok((see, end) => {
      let waiting = false;
      let stopped = false;
      const look = () => {
        waiting = false;
        if (stopped) return;
        const seen = lookAtPulse({ ...context, now: serverNow() }, attemptId, epoch);
        // Whoever watches is admitted anew at each look.
        if (seen.ok) see(seen.value);
        else end?.();
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
