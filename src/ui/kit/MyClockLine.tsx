'use client';
import { useRouter } from 'next/navigation';
import { useEffect } from 'react';
import type { Instant } from '@/core/base/time';
import { type ClockState, myClock, type OwnTimes } from '@/core/sitting/myClock';
import { useOwnZone } from './OwnTime';
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
 * The times of one student in one sentence, live, and once more by their own clock where that shows another time: it follows the clock, is spoken when more changes than how much is left,
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
  const ownZone = useOwnZone(bare || state.kind === 'over' ? null : begun, zone);
  const own = ownZone === null ? null : myClock(times, state, ownZone, now, to);
  return (
    <span className={className}>
      <span aria-live="polite">{said.window}</span> <span>{said.now}</span>
      {!bare && <span className="text-ink-2"> Times of {zone}.</span>}
      {own && (
        <span className="block text-ink-2">
          By your own clock: {own.window} {own.now}
        </span>
      )}
    </span>
  );
}
