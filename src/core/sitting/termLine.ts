import { instantFromLocal } from '../base/localTime';
import { day, type Instant, inZone } from '../base/time';
import { dayOf, freeOn, localDay, mondayOf, placeInTerm, type Term, textOf } from './teachingWeeks';

/** A sitting as it stands on the line of a term. */
export type OnLine = {
  id: string;
  title: string;
  opens: Instant | null;
  due: Instant | null;
  closes: Instant | null;
  /** When results come, or have come. */
  results: Instant | null;
};

type Bar = OnLine & {
  /** Where it lies on the line, in percent of its length; a closing that never comes lies at its end. */
  from: number;
  until: number;
  dueAt: number | null;
  resultsAt: number | null;
  /** The row it stands in, from 0, so that no two lie over one another. */
  row: number;
  /** Whether its title ends where it ends, since there is no room behind. */
  endsLabel: boolean;
};

/** A term on one line: weeks, days without teaching, sittings, now. Places are percent of its length. */
export type TermLine = {
  /** The Mondays, each with its teaching week; null where there is no teaching, or no term is set. */
  weeks: { at: number; week: number | null; monday: string }[];
  free: { from: number; until: number; name: string }[];
  bars: Bar[];
  rows: number;
  now: number;
};

/** Further back than this nothing stands on the line, and further ahead neither. */
const most = { behind: 26 * 7, ahead: 34 * 7 };
/** So much of the line a letter of a title takes, in percent, on the line of a full page. */
const usualLetter = 0.62;

/**
 * Lays out a term on one line: from the week in which it begins to the week in which its last sitting ends, with at least
 * two weeks ahead. Sittings that share a time stand in rows, none over another or over its title.
 *
 * @param term null where nobody has said when the course teaches
 * @param letter the share of the line that a letter of a title takes, in percent
 * @returns null where nothing could stand on it
 */
export function termLine(
  term: Term | null,
  sittings: readonly OnLine[],
  zone: string,
  now: Instant,
  letter = usualLetter,
): TermLine | null {
  const today = localDay(now, zone);
  const begins = sittings.flatMap(({ opens, due, closes }) => opens ?? due ?? closes ?? []);
  const ends = sittings.flatMap((one) => [one.closes, one.due, one.opens, one.results].filter((at) => at !== null));
  if (ends.length === 0 && term === null) return null;
  const first = Math.min(...begins.map((at) => localDay(at, zone)), term ? (dayOf(term.firstDay) ?? today) : today);
  const last = Math.max(today + 14, ...ends.map((at) => localDay(at, zone)));
  const fromDay = mondayOf(Math.max(first, today - most.behind));
  const untilDay = mondayOf(Math.min(last, today + most.ahead)) + 7;
  const at = (number: number): Instant => instantFromLocal(`${textOf(number)}T00:00`, zone) ?? number * day;
  const [from, until] = [at(fromDay), at(untilDay)];
  const place = (moment: Instant): number => Math.min(100, Math.max(0, ((moment - from) / (until - from)) * 100));
  const weeks = Array.from({ length: (untilDay - fromDay) / 7 }, (_, i) => {
    const monday = fromDay + i * 7;
    return { at: place(at(monday)), week: weekOf(term, monday), monday: textOf(monday) };
  });
  const free = (term?.freeDays ?? []).flatMap(({ from: begin, to: end, name }) => {
    const [a, b] = [dayOf(begin), dayOf(end)];
    if (a === null || b === null || b < fromDay || a >= untilDay) return [];
    return [{ from: place(at(a)), until: place(at(b + 1)), name }];
  });
  const shown = sittings
    .filter((one) => {
      const [begin, end] = [one.opens ?? from, one.closes ?? Number.POSITIVE_INFINITY];
      return begin < until && end > from && (one.opens !== null || one.closes !== null || one.due !== null);
    })
    .map((one) => ({
      ...one,
      from: place(one.opens ?? from),
      until: one.closes === null ? 100 : place(one.closes),
      dueAt: one.due === null ? null : place(one.due),
      resultsAt: one.results === null || one.results < from || one.results > until ? null : place(one.results),
    }))
    .sort((a, b) => a.from - b.from || a.until - b.until);
  const { bars, rows } = inRows(shown, letter);
  return { weeks, free, bars, rows, now: place(now) };
}

/** The teaching week that begins on a Monday; null before the term, in a week without teaching, or where no term is set. */
function weekOf(term: Term | null, monday: number): number | null {
  if (!term || monday < mondayOf(dayOf(term.firstDay) ?? monday)) return null;
  if ([0, 1, 2, 3, 4].every((weekday) => freeOn(term, monday + weekday))) return null;
  return placeInTerm(term, monday).week;
}

/** Puts bars into rows: each into the first in which neither it nor its title meets what stands there. */
function inRows(bars: readonly Omit<Bar, 'row' | 'endsLabel'>[], letter: number): { bars: Bar[]; rows: number } {
  const taken: { from: number; until: number }[][] = [];
  const placed = bars.map((bar): Bar => {
    const room = Math.min(60, bar.title.length * letter + 1);
    const endsLabel = bar.from + room > 100;
    const own = {
      from: endsLabel ? Math.min(bar.from, Math.max(bar.until, bar.from) - room) : bar.from,
      until: Math.max(bar.until, bar.resultsAt ?? 0, endsLabel ? bar.until : bar.from + room),
    };
    let row = taken.findIndex((others) => others.every((one) => own.from >= one.until || own.until <= one.from));
    if (row < 0) row = taken.push([]) - 1;
    taken[row]?.push(own);
    return { ...bar, row, endsLabel };
  });
  return { bars: placed, rows: taken.length };
}

/**
 * The days on which more than one sitting is written that begins and ends on that day, in their order.
 *
 * @returns each day in words, with the titles
 */
export function sameDays(sittings: readonly OnLine[], zone: string, now: Instant): { day: string; titles: string[] }[] {
  const days = new Map<number, string[]>();
  for (const { opens, closes, title } of sittings) {
    if (opens === null || closes === null || closes <= now) continue;
    const number = localDay(opens, zone);
    if (localDay(closes - 1, zone) === number) days.set(number, [...(days.get(number) ?? []), title]);
  }
  return [...days]
    .filter(([, titles]) => titles.length > 1)
    .sort(([a], [b]) => a - b)
    .map(([number, titles]) => ({ day: inZone(number * day, 'UTC', 'EEE d MMM'), titles }));
}
