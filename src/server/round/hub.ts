import { ledPhaseNow } from '@/core/round/ledRound';
import type { Db } from '@/db/client';
import { listen, type News, tell } from '../house/bus';
import { serverNow } from '../house/installation';
import { roundOf } from '../records/roundOf';

/** One timer for each round that is watched by anybody: it tells when the time of the open question is over. */
const watched = new Map<string, { watchers: number; timer: ReturnType<typeof setTimeout> | null }>();

/** Tells everybody once the time of the open question is over: nobody presses anything then. */
function setTimer(db: Db, sittingId: string): void {
  const own = watched.get(sittingId);
  if (!own) return;
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

/**
 * Listens to a round: to what is told of its sitting, and to the end of a question's time. @returns how to stop
 */
export function listenToRound(db: Db, sittingId: string, listener: (news: News) => void): () => void {
  const own = watched.get(sittingId) ?? { watchers: 0, timer: null };
  watched.set(sittingId, own);
  own.watchers += 1;
  if (own.watchers === 1) setTimer(db, sittingId);
  const stop = listen(sittingId, (news) => {
    if (news.what === 'round') setTimer(db, sittingId);
    listener(news);
  });
  return () => {
    stop();
    own.watchers -= 1;
    if (own.watchers > 0) return;
    if (own.timer) clearTimeout(own.timer);
    watched.delete(sittingId);
  };
}
