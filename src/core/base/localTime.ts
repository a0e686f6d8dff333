/** Dates and times as people and fields give them. Apart from `time.ts`, because reading them takes a library. */
import { TZDate } from '@date-fns/tz';
import { type Instant, inZone } from './time';

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
export const localFromInstant = (at: Instant, zone: string) =>
  `${inZone(at, zone, 'yyyy-MM-dd')}T${inZone(at, zone, 'HH:mm')}`;
