'use client';
import { useRouter } from 'next/navigation';
import { useEffect } from 'react';
import { answersKey, type PendingAnswer, readKept } from './answerKeeper';
import { handInKey, readPressed } from './attemptPage';
import { ask, saidAgainst, sendAnswer } from './requests';

const answers = answersKey('');
const handIns = handInKey('');

/** The attempts of which this browser keeps something that the server has not confirmed. */
function keptAttempts(): string[] {
  const ids = new Set<string>();
  for (let i = 0; i < localStorage.length; i++) {
    const key = localStorage.key(i) ?? '';
    for (const prefix of [answers, handIns]) if (key.startsWith(prefix)) ids.add(key.slice(prefix.length));
  }
  return [...ids];
}

/** Sends what is kept of an attempt, with the stamps it has. @returns whether the server has taken anything of it */
async function sendKept(attemptId: string): Promise<boolean> {
  const key = answersKey(attemptId);
  const before = localStorage.getItem(key);
  const kept = readKept(localStorage, attemptId);
  const left: PendingAnswer[] = [];
  for (const answer of kept) {
    const { outcome } = await sendAnswer(attemptId, answer);
    // What nobody took, or belongs to somebody else who used this browser, stays where it is.
    if (outcome === 'lost' || outcome === 'signed-out' || outcome === 'elsewhere') left.push(answer);
  }
  // Where a taking page of this browser has written meanwhile, what it wrote stands.
  if (localStorage.getItem(key) === before) {
    if (left.length) localStorage.setItem(key, JSON.stringify(left));
    else localStorage.removeItem(key);
  }
  const pressed = readPressed(localStorage, attemptId);
  if (pressed && left.length === 0) {
    const reply = await ask<{ problems?: { message: string }[] }>(`/api/attempts/${attemptId}/hand-in`, pressed);
    const isSettled = reply?.status === 200 || (reply?.status !== 401 && reply?.status !== 404 && saidAgainst(reply));
    if (isSettled) localStorage.removeItem(handInKey(attemptId));
    return kept.length > 0 || reply?.status === 200;
  }
  return left.length < kept.length;
}

/**
 * Sends what this browser could not send while an attempt was open: answers, which the server takes as long as it may and
 * else keeps aside, and a hand-in that was pressed. Stamps make it harmless that a taking page of this browser sends the same.
 */
export function Leftovers() {
  const router = useRouter();
  useEffect(() => {
    let gone = false;
    const send = async () => {
      let taken = false;
      for (const attemptId of keptAttempts()) taken = (await sendKept(attemptId)) || taken;
      if (taken && !gone) router.refresh();
    };
    const again = () => void send().catch(() => undefined);
    again();
    window.addEventListener('online', again);
    return () => {
      gone = true;
      window.removeEventListener('online', again);
    };
  }, [router]);
  return null;
}
