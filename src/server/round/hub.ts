import { ledPhaseNow } from '@/core/round/ledRound';
import type { Db } from '@/db/client';
import { listen, type News, tell } from '../house/bus';
import { serverNow } from '../house/installation';
import { roundOf } from '../records/roundOf';

type Watched = { watchers: number; timer: ReturnType<typeof setTimeout> | null; stop: () => void };

/** One timer for each round that is watched by anybody: it tells when the time of the open question is over. */
const watched = new Map<string, Watched>();

/** Tells everybody once the time of the open question is over: nobody presses anything then. */
function setTimer(db: Db, sittingId: string, own: Watched): void {
  if (own.timer) clearTimeout(own.timer);
  own.timer = null;
  const now = serverNow();
  const led = roundOf(db, sittingId)?.led;
  const ends = led?.questions.flatMap((one) =>
    one.endsAt !== null && ledPhaseNow(one, now) === 'open' && led.stoppedAt === null ? [one.endsAt] : [],
  );
  if (!ends?.length) return;
  own.timer = setTimeout(() => tell({ sittingId, what: 'round' }), Math.max(0, Math.min(...ends) - now) + 5);
  own.timer.unref();
}

function begin(db: Db, sittingId: string): Watched {
  const own: Watched = { watchers: 0, timer: null, stop: () => {} };
  own.stop = listen(sittingId, (news) => {
    if (news.what === 'round') setImmediate(() => own.watchers > 0 && setTimer(db, sittingId, own));
  });
  watched.set(sittingId, own);
  setTimer(db, sittingId, own);
  return own;
}

/**
 * Listens to a round: to what is told of its sitting, and to the end of a question's time. @returns how to stop
 */
export function listenToRound(db: Db, sittingId: string, listener: (news: News) => void): () => void {
  const own = watched.get(sittingId) ?? begin(db, sittingId);
  own.watchers += 1;
  const stop = listen(sittingId, listener);
  return () => {
    stop();
    own.watchers -= 1;
    if (own.watchers > 0) return;
    if (own.timer) clearTimeout(own.timer);
    own.stop();
    watched.delete(sittingId);
  };
}
