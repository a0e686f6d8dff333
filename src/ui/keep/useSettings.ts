'use client';
import { type Clash, isAlike, merged } from '@/core/base/merge';
import { useWritten } from './useWritten';

type Changed<T> = { entered: T; seen: T | null };

/**
 * Settings that are changed and saved as a whole: kept like anything written ({@link useWritten}), with what stood there
 * when they were begun. What others have saved since is joined with it wherever the page comes to know of it.
 *
 * @param name names them in the journal
 * @param title what they are, in words, as they stand on the Desk
 * @param stored what the server has, as the page came
 */
export function useSettings<T>(name: string, title: string, stored: T) {
  const { value, change, done, saved, isUnfinished, isKept, broughtBack } = useWritten<Changed<T>>(name, () => title, {
    entered: stored,
    seen: null,
  });
  const joined = value.seen === null || isAlike(value.seen, stored) ? null : merged(value.seen, value.entered, stored);
  const clashes: readonly Clash[] = joined?.clashes ?? [];
  return {
    entered: joined?.value ?? value.entered,
    /** What this is a change of, for the server. */
    seen: stored,
    /** Where others have saved something else since, and what: what was entered here stands. */
    clashes,
    change: (entered: T) => change({ entered, seen: isAlike(entered, stored) ? null : stored }),
    /** It is not wanted, or has become something else. */
    done: () => done(),
    /** The server has it, or what is given. */
    saved: (entered?: T) => {
      change((before) => ({ entered: entered ?? joined?.value ?? before.entered, seen: null }));
      saved();
    },
    isUnfinished,
    isKept,
    broughtBack,
  };
}
