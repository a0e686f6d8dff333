'use client';
import { useEffect, useState } from 'react';
import { type Instant, inZone } from '@/core/base/time';

/** Beside a time of the course, the same moment by the clock of whoever looks, where the two differ. */
export function OwnTime({ at, zone, lead = ', your time' }: { at: Instant; zone: string; lead?: string }) {
  const [own, setOwn] = useState('');
  useEffect(() => {
    const here = Intl.DateTimeFormat().resolvedOptions().timeZone;
    const shown = (where: string) => inZone(at, where, 'EEE HH:mm');
    try {
      if (shown(here) !== shown(zone)) setOwn(shown(here));
    } catch {
      // A browser that does not know where it is shows the time of the course alone.
    }
  }, [at, zone]);
  return own ? (
    <span className="text-ink-2">
      {lead} {own}
    </span>
  ) : null;
}
