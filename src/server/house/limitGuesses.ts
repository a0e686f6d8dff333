import type { Instant } from '@/core/base/time';

const mostKeys = 20_000;

/**
 * Lets so many through at once, and from then on one in so long: whoever floods a door slows it down for those beside them,
 * and shuts it for nobody.
 *
 * @param atOnce how many
 * @param every in milliseconds
 */
export function paced(atOnce: number, every: number) {
  /** Until when each door is taken up, were they let through one at a time. */
  const doors = new Map<string, Instant>();
  /** @returns 0 when one may go through, else the milliseconds to wait */
  return (key: string, now: Instant): number => {
    if (doors.size > mostKeys) doors.clear();
    const until = Math.max(now, doors.get(key) ?? now);
    const wait = until - now - (atOnce - 1) * every;
    if (wait > 0) return wait;
    doors.set(key, until + every);
    return 0;
  };
}

/**
 * Counts tries that could be guesses, by whatever key tells who guesses at what.
 *
 * @param most how many may be made within the window
 * @param window in milliseconds, from the first try
 */
export function limitGuesses(most: number, window: number) {
  const tries = new Map<string, { count: number; since: Instant }>();
  return {
    /** Counts a try. @returns 0 when it may be made, else the milliseconds to wait */
    wait(key: string, now: Instant): number {
      if (tries.size > mostKeys) tries.clear();
      const known = tries.get(key);
      if (!known || now - known.since > window) {
        tries.set(key, { count: 1, since: now });
        return 0;
      }
      known.count += 1;
      return known.count > most ? known.since + window - now : 0;
    },
    /** How long whoever has made too many has to wait, without counting another. */
    held(key: string, now: Instant): number {
      const known = tries.get(key);
      return known && known.count > most ? Math.max(0, known.since + window - now) : 0;
    },
    forget: (key: string) => tries.delete(key),
  };
}
