import { type Duration, second } from '../base/time';

/** So many wrong passwords are made by anybody who types. */
const free = 3;

/** The longest wait before another try. */
const longest: Duration = 60 * second;

/**
 * How long somebody waits before the next try at one account, after so many wrong passwords in a row: not at all after the
 * first three, then 1 s, 2 s, 4 s and so on, and never longer than a minute. Whoever guesses gets 60 tries an hour; whoever
 * is guessed at waits a minute at most, and nobody is locked out.
 *
 * @param failures at least 0
 * @example delayAfter(5) // 2_000
 */
export const delayAfter = (failures: number): Duration =>
  failures <= free ? 0 : Math.min(longest, second * 2 ** (failures - free - 1));
