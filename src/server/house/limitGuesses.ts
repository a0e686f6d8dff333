import type { Instant } from '@/core/base/time';

const mostKeys = 20_000;

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
    forget: (key: string) => tries.delete(key),
  };
}
