'use client';
import { useEffect, useState } from 'react';
import { counted } from '@/core/base/words';
import type { PendingAnswer } from './answerKeeper';
import { ask } from './requests';

/**
 * Answers that this browser could not send before the attempt ended. They are sent now: the server keeps them aside, and
 * whoever invigilates decides.
 */
export function Leftovers({ attemptId }: { attemptId: string }) {
  const [sent, setSent] = useState(0);
  useEffect(() => {
    const key = `wuzzen-answers/${attemptId}`;
    const send = async () => {
      let kept: PendingAnswer[] = [];
      try {
        kept = JSON.parse(localStorage.getItem(key) ?? '[]') as PendingAnswer[];
      } catch {
        return;
      }
      const left: PendingAnswer[] = [];
      let aside = 0;
      for (const answer of kept) {
        const reply = await ask(`/api/attempts/${attemptId}/save`, answer);
        if (!reply || reply.status >= 500) left.push(answer);
        else if (reply.status === 410 || reply.status === 409) aside += 1;
      }
      if (left.length) localStorage.setItem(key, JSON.stringify(left));
      else localStorage.removeItem(key);
      setSent(aside);
    };
    void send();
  }, [attemptId]);
  if (sent === 0) return null;
  return (
    <p role="status" className="mt-3 border border-saffron bg-saffron-wash px-4 py-2 text-base text-saffron">
      {counted(sent, 'answer')} of yours reached us only now. {sent === 1 ? 'It is' : 'They are'} kept aside, and your
      instructor decides about {sent === 1 ? 'it' : 'them'}.
    </p>
  );
}
