import { durationText, type Instant, inZone, minute, momentText } from '../base/time';
import type { MayStart } from './clock';
import { calendarDay, nextCalendarDay } from './shutDays';

/** A moment near now in words. @example daySaid(86_400_000, 'UTC', 0) // 'tomorrow 00:00' */
export function daySaid(at: Instant, zone: string, now: Instant): string {
  const clock = inZone(at, zone, 'HH:mm');
  const day = calendarDay(at, zone);
  if (day === calendarDay(now, zone)) return `today ${clock}`;
  if (day === nextCalendarDay(now, zone)) return `tomorrow ${clock}`;
  return momentText(at, zone);
}

/**
 * Why an attempt cannot start, in words, by the clock of the course.
 *
 * @param to its student, or whoever looks after them
 */
export function startSaid(
  answer: Extract<MayStart, { may: false }>,
  zone: string,
  now: Instant,
  to: 'student' | 'staff' = 'student',
): string {
  const own = to === 'student';
  const at = answer.at === null ? '' : daySaid(answer.at, zone, now);
  switch (answer.why) {
    case 'not-open-yet':
      return `It opens ${at}.`;
    case 'shut-today':
      return `It is shut today; it can be started ${at}.`;
    case 'wait':
      return `Next attempt in ${durationText(Math.ceil(((answer.at ?? now) - now) / minute) * minute)} (${at}).`;
    case 'not-let-through':
      return own
        ? 'You can go on once your instructor lets you through to the next attempt.'
        : 'Waits to be let through to the next attempt.';
    case 'last-start-over':
      return `It could be started until ${at}.`;
    case 'closed':
      return `It closed ${at}.`;
    case 'no-time-left':
      return 'It closes before another attempt could begin.';
    case 'no-attempt-left':
      return own ? 'You have used all your attempts.' : 'All attempts are used.';
    case 'excused':
      return own ? 'You are excused from this one.' : 'Excused.';
    case 'running':
      return own ? 'Your attempt is running.' : 'An attempt is running.';
  }
}
