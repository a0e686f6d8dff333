import { type Duration, day, durationText, type Instant, minute, second } from '../base/time';
import { counted } from '../base/words';

/** Time left as a clock shows it; of more than a day, in words. @example timeLeft(125_000) // '2:05' */
export function timeLeft(left: Duration): string {
  const total = Math.max(0, Math.ceil(left / second));
  if (total > day / second) return durationText(total * second);
  const hours = Math.floor(total / 3600);
  const minutes = Math.floor((total % 3600) / 60);
  const seconds = String(total % 60).padStart(2, '0');
  return hours ? `${hours}:${String(minutes).padStart(2, '0')}:${seconds}` : `${minutes}:${seconds}`;
}

/** The minutes at which the time left is spoken. */
const spokenAt = [10, 5, 1];

/** A deadline that has moved by less than this has not been moved by a person. */
const leastMove: Duration = 2 * second;

/** What a page last saw of a deadline; null before it saw any. */
export type SeenClock = { deadline: Instant; left: Duration } | null;

/** The time left as it is spoken: whole minutes where it is about that, else to the second. */
function said(left: Duration): string {
  const minutes = Math.round(left / minute);
  const isWhole = minutes > 0 && Math.abs(left - minutes * minute) <= 3 * second;
  return isWhole ? counted(minutes, 'minute') : durationText(Math.max(0, left));
}

/**
 * What is to be spoken when a page that last saw one thing of a deadline sees another: that it was moved, that it is over,
 * or, as the time left passes 10, 5 and 1 minutes, how much is left at that moment, however long the page did not look.
 *
 * @param what the time is for, where it is not the whole exam, such as ' for this question'
 * @returns null for nothing
 */
export function spokenTime(seen: SeenClock, deadline: Instant, now: Instant, what = ''): string | null {
  const left = deadline - now;
  if (!seen) return null;
  const moved = deadline - seen.deadline;
  if (Math.abs(moved) >= leastMove && left > 0)
    return `${durationText(Math.abs(moved))} ${moved > 0 ? 'more' : 'less'}: ${said(left)} left${what}`;
  // What was seen, not what would have been: a deadline heard anew a little earlier or later swallows no crossing.
  const before = Math.abs(moved) >= leastMove ? seen.left + moved : seen.left;
  if (before > 0 && left <= 0) return `The time${what} is over`;
  const passed = spokenAt.some((minutes) => before > minutes * minute && left <= minutes * minute);
  return passed && left > 0 ? `${said(left)} left${what}` : null;
}
