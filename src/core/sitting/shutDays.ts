import { TZDate } from '@date-fns/tz';
import { type Instant, inZone } from '../base/time';

/** The calendar day of a moment in a zone, as `2026-12-25`. */
export const calendarDay = (at: Instant, zone: string): string => inZone(at, zone, 'yyyy-MM-dd');

/** Midnight at which the calendar day of a moment begins, or the one so many days later. */
function midnight(at: Instant, zone: string, later = 0): Instant {
  const local = new TZDate(at, zone);
  return new TZDate(local.getFullYear(), local.getMonth(), local.getDate() + later, zone).getTime();
}

/** The calendar day after that of a moment. */
export const nextCalendarDay = (at: Instant, zone: string): string => calendarDay(midnight(at, zone, 1), zone);

/** The first moment from `at` on that lies on no shut day: `at` itself, or the midnight that ends the shut days. */
export function firstOpenDay(at: Instant, shutDays: readonly string[], zone: string): Instant {
  let first = at;
  for (let i = 0; i < shutDays.length && shutDays.includes(calendarDay(first, zone)); i++)
    first = midnight(first, zone, 1);
  return first;
}

/** The end of the last moments before `end` that lie on no shut day: `end` itself, or the midnight that begins them. */
export function lastOpenDay(end: Instant, shutDays: readonly string[], zone: string): Instant {
  let last = end;
  for (let i = 0; i < shutDays.length && shutDays.includes(calendarDay(last - 1, zone)); i++)
    last = midnight(last - 1, zone);
  return last;
}
