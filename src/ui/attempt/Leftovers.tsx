'use client';
import { useRouter } from 'next/navigation';
import { useEffect } from 'react';
import { browserStore, type Store } from '../kit/browserStore';
import { keptAttempts, sendKept } from './leftovers';

/**
 * Sends what this browser could not send while an attempt was open: answers, which the server takes as long as it may and
 * else keeps aside, and a hand-in that was pressed. Stamps make it harmless that a taking page of this browser sends the same.
 */
export function Leftovers() {
  const router = useRouter();
  useEffect(() => {
    let gone = false;
    const send = async () => {
      const store = browserStore();
      let taken = false;
      for (const attemptId of store ? keptAttempts(store) : [])
        taken = (await sendKept(attemptId, store as Store)) || taken;
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
