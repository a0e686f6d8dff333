/** Moments and days as people type them. Apart from `localTime.ts`, because reading them freely takes a library. */
import { en } from 'chrono-node';
import { localFromInstant, readLocal } from './localTime';
import { type Instant, inZone } from './time';

/** How a course's dates are typed: by the clock of its zone, and in that part of the world. */
type Reading = {
  now: Instant;
  zone: string;
  /** Local to the zone, what stood in the field before: its time holds where only a day is typed, its day where only a time is. */
  before?: string;
  /** The time of a day where none is typed and none stood there, `09:00`. */
  usualTime?: string;
};

/** A moment or a day as it was understood, local to the zone; or why not. */
export type Typed = { ok: true; local: string } | { ok: false; why: string };

const noMoment = 'Type a date and a time, such as “tue 14:30”, “1 dec 9:00” or “in 2 weeks”.';
const noDay = 'Type a day, such as “tue”, “1 dec” or “in 2 weeks”.';

/** Zones of the countries in which the month is written before the day. */
const monthFirst =
  /^(?:US\/|America\/(?:New_York|Detroit|Chicago|Denver|Phoenix|Los_Angeles|Anchorage|Juneau|Sitka|Nome|Adak|Boise|Menominee|Metlakatla|Yakutat|Kentucky\/|Indiana\/|North_Dakota\/)|Pacific\/(?:Honolulu|Guam|Pago_Pago|Saipan)|Asia\/Manila)/;

/** Whether `3/4` is the fourth of March here, and the week begins on Sunday. */
export const isMonthFirst = (zone: string): boolean => monthFirst.test(zone);

const two = (n: number) => String(n).padStart(2, '0');
const dayText = (year: number, month: number, date: number) => `${year}-${two(month)}-${two(date)}`;
const isDay = (year: number, month: number, date: number) =>
  month >= 1 && month <= 12 && date >= 1 && date <= new Date(Date.UTC(year, month, 0)).getUTCDate();

/** A day and a time of day in numbers alone, each null where it is not said, or said as words. */
type Parts = { day: string | null; time: string | null; rest: string };

const numbersOfDay = /(?<![\d.:/-])(\d{1,4})([./-])(\d{1,2})(?:\2(\d{4}|\d{2}))?\.?(?![\d:])/;
const timeInNumbers = /(?<![\d:])(\d{1,2})[:.h](\d{2})\s?([ap])?\.?(?:m\.?)?(?![\d:])/i;

/**
 * What of a text is a day or a time in numbers: `1.12.2026`, `1/12`, `2026-12-01`, `14:30`, `14.30`, `9h00`. A day without a
 * year is the next one from today on.
 *
 * @returns null where numbers stand there that are no day or no time
 */
function numbersIn(text: string, today: string, zone: string): Parts | null {
  let rest = text;
  let day: string | null = null;
  const found = numbersOfDay.exec(rest);
  // "14.30" alone is a time; "1.12" is a day, whatever stands beside it.
  if (found && !(found[2] === '.' && found[4] === undefined && (Number(found[3]) > 12 || Number(found[1]) === 0))) {
    const [first, second] = [Number(found[1]), Number(found[3])];
    const isIso = found[1]?.length === 4;
    const [year, month, date] = isIso
      ? [first, second, Number(found[4])]
      : found[2] === '/' && isMonthFirst(zone)
        ? [yearOf(found[4]), first, second]
        : [yearOf(found[4]), second, first];
    const here = Number(today.slice(0, 4));
    const inYear = year ?? here;
    if (!isDay(inYear, month, date)) return null;
    day = dayText(inYear, month, date);
    if (year === null && day < today) day = isDay(here + 1, month, date) ? dayText(here + 1, month, date) : day;
    rest = `${rest.slice(0, found.index)} ${rest.slice(found.index + found[0].length)}`;
  }
  let time: string | null = null;
  const clock = timeInNumbers.exec(rest.replace(/T(?=\d)/, ' '));
  if (clock) {
    const half = clock[3]?.toLowerCase();
    const hours = half ? (Number(clock[1]) % 12) + (half === 'p' ? 12 : 0) : Number(clock[1]);
    if (hours > 23 || Number(clock[2]) > 59 || (half && Number(clock[1]) > 12)) return null;
    time = `${two(hours)}:${clock[2]}`;
    rest = rest.replace(/T(?=\d)/, ' ').replace(clock[0], ' ');
  }
  return { day, time, rest: rest.replaceAll(',', ' ').trim() };
}

const yearOf = (text: string | undefined): number | null =>
  text === undefined ? null : text.length === 2 ? 2000 + Number(text) : Number(text);

const weekday = /^(?:mon|tue|wed|thu|fri|sat|sun)[a-z]*\.?,?$/i;
const weekdays = ['sun', 'mon', 'tue', 'wed', 'thu', 'fri', 'sat'];

/** What is wrong with a weekday that stands beside a day that is another; null where nothing is. */
function weekdayProblem(text: string, day: string): string | null {
  const said = /\b(?:sun|mon|tue|wed|thu|fri|sat)[a-z]*/i.exec(text)?.[0].slice(0, 3).toLowerCase();
  const at = new Date(`${day}T00:00:00Z`);
  if (said === undefined || weekdays[at.getUTCDay()] === said) return null;
  return `${inZone(at.getTime(), 'UTC', 'd MMM yyyy')} is a ${inZone(at.getTime(), 'UTC', 'EEEE')}.`;
}

const joining = /^(?:at|on|by|the|o'clock|,|\s)*$/i;

/** What words say of a day and a time: "tue", "in 2 weeks", "tomorrow noon", "1 dec 9am". */
function wordsIn(text: string, today: string, nowTime: string, zone: string): Omit<Parts, 'rest'> | null {
  // The library works by a clock without changes, in which it is as late as in the zone.
  const reference = { instant: new Date(`${today}T${nowTime}:00Z`), timezone: 0 };
  const [found, ...more] = (isMonthFirst(zone) ? en.casual : en.GB).parse(text, reference, { forwardDate: true });
  // What is left over was not understood: nothing of it is dropped in silence.
  if (!found || more.length > 0 || !joining.test(text.replace(found.text, ''))) return null;
  const { start } = found;
  const [year, month, date] = [start.get('year'), start.get('month'), start.get('day')];
  if (found.end || year === null || month === null || date === null) return null;
  const saysDay = start.isCertain('day') || start.isCertain('weekday') || start.isCertain('month');
  const [hours, minutes] = [start.get('hour') ?? 0, start.get('minute') ?? 0];
  return {
    day: saysDay ? dayText(year, month, date) : null,
    time:
      start.isCertain('hour') || /noon|midnight|hour|minute/i.test(found.text) ? `${two(hours)}:${two(minutes)}` : null,
  };
}

function partsOf(text: string, { now, zone }: Reading): Omit<Parts, 'rest'> | null {
  const local = localFromInstant(now, zone);
  const [today, nowTime] = [local.slice(0, 10), local.slice(11)];
  const numbers = numbersIn(text, today, zone);
  if (!numbers) return null;
  // A weekday beside a day in numbers only repeats it.
  if (numbers.rest === '' || joining.test(numbers.rest) || (numbers.day !== null && weekday.test(numbers.rest)))
    return numbers.day === null && numbers.time === null ? null : numbers;
  const words = wordsIn(numbers.rest, today, nowTime, zone);
  if (
    !words ||
    (words.day !== null && numbers.day !== null) ||
    (words.time !== null && numbers.time !== null && words.day === null)
  )
    return null;
  return { day: numbers.day ?? words.day, time: numbers.time ?? words.time };
}

/**
 * Reads a moment as people type it: in numbers by the habit of the zone's part of the world, or in words. A day alone takes
 * the time that stood there before, a time alone the day; of what lies behind, the next one is meant.
 *
 * @returns local to the zone, as `2026-12-01T14:30`; or why it is none, a time that the clocks skip among the reasons
 * @example typedMoment('tue 14:30', { now: Date.UTC(2026, 10, 29, 12), zone: 'UTC' }) // { ok: true, local: '2026-12-01T14:30' }
 */
export function typedMoment(text: string, reading: Reading): Typed {
  const parts = partsOf(text.trim(), reading);
  if (!parts) return { ok: false, why: noMoment };
  const { now, zone, before = '', usualTime = '' } = reading;
  const time = parts.time ?? (before.slice(11) || usualTime);
  if (time === '') return { ok: false, why: 'Add a time, such as “14:30”.' };
  const here = localFromInstant(now, zone);
  const today = here.slice(0, 10);
  // A time that is past today is tomorrow's.
  const next = time < here.slice(11) ? dayLater(today, 1) : today;
  const day = parts.day ?? (before.slice(0, 10) || next);
  const clash = parts.day === null ? null : weekdayProblem(text, day);
  if (clash) return { ok: false, why: clash };
  const local = `${day}T${time}`;
  const read = readLocal(local, zone);
  return read.ok ? { ok: true, local } : { ok: false, why: read.why };
}

/**
 * Reads a day as people type it; see {@link typedMoment}.
 *
 * @returns local to the zone, as `2026-12-01`
 * @example typedDay('1 dec', { now: Date.UTC(2026, 10, 29, 12), zone: 'UTC' }) // { ok: true, local: '2026-12-01' }
 */
export function typedDay(text: string, reading: Reading): Typed {
  const parts = partsOf(text.trim(), reading);
  if (!parts?.day || parts.time !== null) return { ok: false, why: noDay };
  const clash = weekdayProblem(text, parts.day);
  return clash ? { ok: false, why: clash } : { ok: true, local: parts.day };
}

const dayLater = (day: string, days: number): string =>
  new Date(Date.parse(`${day}T00:00:00Z`) + days * 86_400_000).toISOString().slice(0, 10);
