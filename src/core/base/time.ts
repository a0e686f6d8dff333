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

/** The word by which a place goes in such names: in small letters, with single spaces. */
const placeWord = (text: string) =>
  text
    .normalize('NFD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .replace(/[\s_-]+/g, ' ')
    .trim();

/**
 * The time zone that somebody may mean who names its place alone, or writes it in another way.
 *
 * @returns null where none is called so, or several are
 * @example nearZone('berlin') // 'Europe/Berlin'
 */
export function nearZone(typed: string): string | null {
  const wanted = placeWord(typed);
  if (wanted === '') return null;
  const zones = Intl.supportedValuesOf('timeZone');
  const whole = zones.find((zone) => placeWord(zone) === wanted);
  if (whole) return whole;
  const found = zones.filter((zone) => placeWord(zone.slice(zone.lastIndexOf('/') + 1)) === wanted);
  return found.length === 1 ? (found[0] ?? null) : null;
}

/** Why a text is no time zone, in words, with the one that may be meant. */
export function zoneProblem(typed: string): string {
  const near = nearZone(typed);
  return near
    ? `“${typed.trim()}” is no time zone by itself. Do you mean ${near}?`
    : 'This time zone is not known. Example: Europe/Oslo.';
}

const monthNames = 'January February March April May June July August September October November December'.split(' ');

/** The pieces a pattern of {@link inZone} is made of, longest first. */
const patternPieces = /yyyy|MMMM|MMM|MM|EEEE|EEE|dd|d|HH|mm|ss/g;

const localFormats = new Map<string, Intl.DateTimeFormat>();

/** One format for each zone: making one costs fifty times as much as using it. */
function localFormat(zone: string): Intl.DateTimeFormat {
  const known = localFormats.get(zone);
  if (known) return known;
  const made = new Intl.DateTimeFormat('en-US', {
    timeZone: zone,
    calendar: 'gregory',
    numberingSystem: 'latn',
    hourCycle: 'h23',
    weekday: 'long',
    year: 'numeric',
    month: '2-digit',
    day: '2-digit',
    hour: '2-digit',
    minute: '2-digit',
    second: '2-digit',
  });
  localFormats.set(zone, made);
  return made;
}

type LocalPart = 'year' | 'month' | 'day' | 'weekday' | 'hour' | 'minute' | 'second';

/** What calendar and clock of a zone show at a moment, two digits each but for the year and the day's name. */
function localParts(at: Instant, zone: string): Record<LocalPart, string> {
  const parts: Partial<Record<string, string>> = {};
  for (const part of localFormat(zone).formatToParts(at)) parts[part.type] = part.value;
  return parts as Record<LocalPart, string>;
}

/**
 * A moment as text in a zone. The pattern is made of `yyyy`, `MMMM` (November), `MMM` (Nov), `MM` (11), `EEEE` (Thursday),
 * `EEE` (Thu), `dd`, `d` (1 to 31), `HH` (00 to 23), `mm` and `ss`; everything else stands for itself.
 *
 * The names and numbers come from the browser's own table of zones (ECMA-402), so that the taking page needs no library for
 * them.
 *
 * @example inZone(0, 'Europe/Oslo', 'HH:mm') // '01:00'
 */
export function inZone(at: Instant, zone: string, pattern: string): string {
  const local = localParts(at, zone);
  const month = monthNames[Number(local.month) - 1] as string;
  const said: Record<string, string> = {
    yyyy: local.year.padStart(4, '0'),
    MMMM: month,
    MMM: month.slice(0, 3),
    MM: local.month,
    EEEE: local.weekday,
    EEE: local.weekday.slice(0, 3),
    dd: local.day,
    d: String(Number(local.day)),
    HH: local.hour,
    mm: local.minute,
    ss: local.second,
  };
  return pattern.replace(patternPieces, (piece) => said[piece] as string);
}

/** How far the clocks of a zone are ahead of UTC at a moment, in milliseconds. */
function aheadOfUtc(at: Instant, zone: string): Duration {
  const { year, month, day: date, hour: hours, minute: minutes, second: seconds } = localParts(at, zone);
  const shown = Date.UTC(
    Number(year),
    Number(month) - 1,
    Number(date),
    Number(hours),
    Number(minutes),
    Number(seconds),
  );
  return shown - Math.floor(at / second) * second;
}

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
