import type { Store } from '../kit/browserStore';
import { answersKeys, answersPrefix, type PendingAnswer, readKept } from './answerKeeper';
import { handInKey, readPressed } from './attemptPage';
import { ask, type Net, saidAgainst, sendAnswer } from './requests';

/** The attempts of which a browser keeps something that the server has not confirmed. */
export function keptAttempts(store: Pick<Store, 'keys'>): string[] {
  const handIn = handInKey('');
  const ids = store.keys().flatMap((key) => {
    if (key.startsWith(answersPrefix)) return key.slice(answersPrefix.length).split('/')[0] ?? [];
    return key.startsWith(handIn) ? key.slice(handIn.length) : [];
  });
  return [...new Set(ids)];
}

/** Sends what is kept of an attempt, with the stamps it has. @returns whether the server has taken anything of it */
export async function sendKept(attemptId: string, store: Store, net?: Net): Promise<boolean> {
  let sent = 0;
  let waiting = 0;
  for (const key of answersKeys(store, attemptId)) {
    const before = store.getItem(key);
    const left: PendingAnswer[] = [];
    for (const answer of readKept(store, key)) {
      const { outcome } = await sendAnswer(attemptId, answer, net);
      // What nobody took, or belongs to somebody else who used this browser, stays where it is.
      if (outcome === 'lost' || outcome === 'signed-out' || outcome === 'elsewhere') left.push(answer);
      else sent += 1;
    }
    waiting += left.length;
    // Where a taking page of this browser has written meanwhile, what it wrote stands.
    if (store.getItem(key) !== before) continue;
    if (left.length) store.setItem(key, JSON.stringify(left));
    else store.removeItem(key);
  }
  const pressed = readPressed(store, attemptId);
  if (!pressed || waiting > 0) return sent > 0;
  const reply = await ask<{ problems?: { message: string }[] }>(`/api/attempts/${attemptId}/hand-in`, pressed, net);
  const isSettled = reply?.status === 200 || (reply?.status !== 401 && reply?.status !== 404 && saidAgainst(reply));
  if (isSettled) store.removeItem(handInKey(attemptId));
  return sent > 0 || reply?.status === 200;
}
