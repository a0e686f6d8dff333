'use client';
import { useRouter } from 'next/navigation';
import { useEffect } from 'react';
import type { Instant } from '@/core/base/time';
import { type ClockState, myClock, type OwnTimes } from '@/core/sitting/myClock';
import { OwnTime } from './OwnTime';
import { useServerNow } from './useServerNow';

type Props = {
  times: OwnTimes;
  state: ClockState;
  zone: string;
  /** The server's clock when the page was made. */
  now: Instant;
  to?: 'student' | 'staff';
  className?: string;
  /** Leaves out the zone, where it stands beside it anyway. */
  bare?: boolean;
};

/**
 * The times of one student in one sentence, live: it follows the clock, is spoken when more changes than how much is left,
 * and fetches its page anew at the moments at which something can be done that could not before.
 */
export function MyClockLine({ times, state, zone, now: begun, to = 'student', className, bare = false }: Props) {
  const router = useRouter();
  const now = useServerNow(begun);
  const said = myClock(times, state, zone, now, to);
  const { changesAt } = myClock(times, state, zone, begun, to);
  const isDue = changesAt !== null && now >= changesAt;
  useEffect(() => {
    if (isDue) router.refresh();
  }, [isDue, router]);
  const next = [times.opens, times.closes].find((at): at is Instant => at !== null && at > now);
  return (
    <span className={className}>
      <span aria-live="polite">{said.window}</span> <span>{said.now}</span>
      {!bare && <span className="text-ink-2"> ({zone})</span>}
      {!bare && next !== undefined && <OwnTime at={next} zone={zone} />}
    </span>
  );
}
