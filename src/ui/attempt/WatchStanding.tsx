'use client';
import { useRouter } from 'next/navigation';
import { useEffect } from 'react';
import type { Pulse } from './opening';

const sign = ({ standing, asides }: Pick<Pulse, 'standing' | 'asides'>): string =>
  JSON.stringify([standing, asides.map(({ number, decision }) => [number, decision])]);

/** Shows the page anew whenever its attempt stands otherwise than the page says: opened again, voided, decided on. */
export function WatchStanding({ attemptId, shown }: { attemptId: string; shown: Pick<Pulse, 'standing' | 'asides'> }) {
  const router = useRouter();
  const known = sign(shown);
  useEffect(() => {
    const source = new EventSource(`/api/attempts/${attemptId}/live?epoch=0`);
    source.onmessage = (event) => {
      if (sign(JSON.parse(String(event.data)) as Pulse) !== known) router.refresh();
    };
    return () => source.close();
  }, [attemptId, known, router]);
  return null;
}
