'use client';
import { useEffect, useState } from 'react';
import { type Instant, inZone } from '@/core/base/time';

/** The zone of whoever looks, where its clock shows another time at a moment than the course's; null where it does not. */
export function useOwnZone(at: Instant | null, zone: string): string | null {
  const [own, setOwn] = useState<string | null>(null);
  useEffect(() => {
    setOwn(null);
    if (at === null) return;
    const here = Intl.DateTimeFormat().resolvedOptions().timeZone;
    const shown = (where: string) => inZone(at, where, 'EEE HH:mm');
    try {
      if (shown(here) !== shown(zone)) setOwn(here);
    } catch {
      // A browser that does not know where it is shows the time of the course alone.
    }
  }, [at, zone]);
  return own;
}

/** Beside a time of the course, the same moment by the clock of whoever looks, where the two differ. */
export function OwnTime({ at, zone }: { at: Instant; zone: string }) {
  const own = useOwnZone(at, zone);
  return own ? <span className="text-ink-2">Your time: {inZone(at, own, 'EEE HH:mm')}</span> : null;
}
