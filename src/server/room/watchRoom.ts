import type { Waiting } from '@/core/attempt/waiting';
import { ok, type Result } from '@/core/base/result';
import type { Instant } from '@/core/base/time';
import type { Watch } from '../attempt/watchAttempt';
import { listen } from '../house/bus';
import { serverNow } from '../house/installation';
import { query } from '../house/useCase';
import { sittingOf } from '../records/audience';
import { waitingInSitting } from '../records/waiting';
import { toSitting } from '../sitting/toSitting';
import { openLeaks, type RoomRow, roomRows } from './room';
import { type LogLine, roomLog } from './roomLog';

/** What has changed in a room since the last look. */
export type RoomNews = {
  now: Instant;
  /** The rows of the students about whom something is new; all of them with the first news, and when rules have changed. */
  rows: RoomRow[];
  /** The log, where something was added to it. */
  log: LogLine[] | null;
  /** Leaks that nobody has taken upon themselves, where they may have changed. */
  leaks: string[] | null;
  /** What waits for a decision, where it may have changed. */
  waiting: Waiting | null;
};

/** News are gathered for so long, so that a busy room of hundreds costs one look a second. */
const gatherFor = 1_000;

const watching = toSitting('sitting.invigilate');

/** Watches the room of a sitting: everyone at once, and then those about whom something is new. */
export const watchRoom = query({
  admits: watching,
  does({ courseId, sittingId, context, timeZone }): Result<Watch<RoomNews>> {
    return ok((see, end) => {
      let about = new Set<string>();
      let everyone = true;
      let logged = true;
      let timer: ReturnType<typeof setTimeout> | null = null;
      let stopped = false;
      const look = () => {
        timer = null;
        if (stopped) return;
        // Whoever watches is admitted anew at each look: a colleague taken out sees nothing that comes after.
        if (!watching.open(context, courseId, sittingId).ok) return void end?.();
        const row = sittingOf(context.db, courseId, sittingId);
        if (!row) return;
        const now = serverNow();
        const rows = roomRows(context, row, timeZone, now, everyone ? undefined : about);
        const leaks = everyone || logged ? openLeaks(context.db, row, timeZone, now) : null;
        const waiting = everyone || logged ? waitingInSitting(context.db, sittingId) : null;
        const log = logged ? roomLog({ ...context, now }, courseId, sittingId) : null;
        about = new Set();
        everyone = false;
        logged = false;
        see({ now, rows, log: log?.ok ? log.value : null, leaks, waiting });
      };
      const stop = listen(sittingId, (news) => {
        if (news.userId) about.add(news.userId);
        else everyone = true;
        if (news.what !== 'progress') logged = true;
        timer ??= setTimeout(look, gatherFor);
      });
      look();
      return () => {
        stopped = true;
        if (timer) clearTimeout(timer);
        stop();
      };
    });
  },
});
