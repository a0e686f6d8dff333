import { TZDate } from '@date-fns/tz';
import { format } from 'date-fns';

/** A moment: milliseconds since 1970 in UTC. Zones exist only at the edge. */
export type Instant = number;
/** A length of time in milliseconds. */
export type Duration = number;

/** A second, in milliseconds as all durations. */
export const second: Duration = 1_000;
/** A minute in milliseconds. */
export const minute: Duration = 60_000;
/** An hour in milliseconds. */
export const hour: Duration = 3_600_000;
/** 24 hours in milliseconds: no calendar day, which may have 23 or 25. */
export const day: Duration = 86_400_000;

/** Whether the name is a time zone of the IANA database that this machine knows. */
export function isTimeZone(zone: string): boolean {
  try {
    new Intl.DateTimeFormat('en', { timeZone: zone });
    return /^[A-Za-z]+(\/[A-Za-z0-9_+-]+)*$/.test(zone);
  } catch {
    return false;
  }
}

/** A moment as text in a zone, by a date-fns pattern. @example inZone(0, 'Europe/Oslo', 'HH:mm') // '01:00' */
export function inZone(at: Instant, zone: string, pattern: string): string {
  return format(new TZDate(at, zone), pattern);
}

/** How far the clocks of a zone are ahead of UTC at a moment, in milliseconds. */
const aheadOfUtc = (at: Instant, zone: string): Duration => -new TZDate(at, zone).getTimezoneOffset() * minute;

/** No change of a clock is as far away from a time that it makes twice. */
const farFromChange: Duration = 12 * hour;

/**
 * Of a time of day that comes twice because the clocks go back: whether this moment is the first of the two or the second;
 * null for every other.
 */
export function whichOfTwo(at: Instant, zone: string): 'first' | 'second' | null {
  const own = aheadOfUtc(at, zone);
  for (const other of [aheadOfUtc(at - farFromChange, zone), aheadOfUtc(at + farFromChange, zone)]) {
    const twin = at + own - other;
    if (other !== own && aheadOfUtc(twin, zone) === other) return twin > at ? 'first' : 'second';
  }
  return null;
}

const twiceSaid = { first: ' (before the clocks go back)', second: ' (after the clocks have gone back)' };

/** A moment by a pattern, marked where the same time of day comes twice. */
function marked(at: Instant, zone: string, pattern: string): string {
  const which = whichOfTwo(at, zone);
  return `${inZone(at, zone, pattern)}${which ? twiceSaid[which] : ''}`;
}

/** The usual way a moment is shown. @example momentText(0, 'UTC') // 'Thu 1 Jan 1970, 00:00' */
export const momentText = (at: Instant, zone: string) => marked(at, zone, 'EEE d MMM yyyy, HH:mm');

/** The time of day of a moment. @example clockText(0, 'UTC') // '00:00' */
export const clockText = (at: Instant, zone: string) => marked(at, zone, 'HH:mm');

/** A moment as it is said to somebody who reads it now: without its day where that is today's. */
export const nearText = (at: Instant, zone: string, now: Instant | null): string =>
  now !== null && inZone(at, zone, 'yyyy-MM-dd') === inZone(now, zone, 'yyyy-MM-dd')
    ? clockText(at, zone)
    : momentText(at, zone);

/**
 * Reads what a date-and-time field sends (`2026-11-23T09:00`, local to the zone) as a moment.
 *
 * @returns null when the text is not such a date or names a day that does not exist. A time that a change of the clock
 * skips is taken as the same distance after the change.
 */
export function instantFromLocal(text: string, zone: string): Instant | null {
  const match = /^(\d{4})-(\d{2})-(\d{2})T(\d{2}):(\d{2})$/.exec(text);
  if (!match) return null;
  const [year, month, date, hours, minutes] = match.slice(1).map(Number) as [number, number, number, number, number];
  if (month < 1 || month > 12 || hours > 23 || minutes > 59) return null;
  if (date < 1 || date > new Date(Date.UTC(year, month, 0)).getUTCDate()) return null;
  return new TZDate(year, month - 1, date, hours, minutes, zone).getTime();
}

/**
 * Reads what a date-and-time field sends as a moment, and says what is wrong with it: that it is no date, or that the
 * clocks skip this time of day.
 */
export function readLocal(text: string, zone: string): { ok: true; at: Instant } | { ok: false; why: string } {
  const at = instantFromLocal(text, zone);
  if (at === null) return { ok: false, why: 'This is not a date and time.' };
  if (localFromInstant(at, zone) === text) return { ok: true, at };
  return {
    ok: false,
    why: `On this day the clocks go forward: there is no ${text.slice(11)}. The time after the change is ${inZone(at, zone, 'HH:mm')}.`,
  };
}

/** The reverse of {@link instantFromLocal}: what a date-and-time field shows for a moment. */
export const localFromInstant = (at: Instant, zone: string) => inZone(at, zone, "yyyy-MM-dd'T'HH:mm");

/**
 * A length of time in words; from two days on without its minutes.
 *
 * @example durationText(90 * minute) // '1 h 30 min'
 * @example durationText(7 * day) // '7 days'
 */
export function durationText(length: Duration): string {
  const total = Math.max(0, Math.round(length / second));
  const days = Math.floor(total / 86_400);
  if (days >= 2) {
    const rest = Math.floor((total % 86_400) / 3600);
    return `${days} days${rest ? ` ${rest} h` : ''}`;
  }
  const hours = Math.floor(total / 3600);
  const minutes = Math.floor((total % 3600) / 60);
  const seconds = total % 60;
  const said = [hours && `${hours} h`, minutes && `${minutes} min`, seconds && hours === 0 && `${seconds} s`].filter(
    Boolean,
  );
  return said.length ? said.join(' ') : '0 min';
}
