import { TZDate } from '@date-fns/tz';
import { day, type Instant, inZone } from '../base/time';

/** Days without teaching, both ends included, as `2026-12-21`. */
export type FreeDays = { from: string; to: string; name: string };

/** When a course teaches: its first week is the one that holds `firstDay`. */
export type Term = { firstDay: string; freeDays: readonly FreeDays[] };

/** A day as the number of days since 1970. */
type Day = number;

/** @returns null for a text that names no day of the calendar */
export function dayOf(text: string): Day | null {
  const match = /^(\d{4})-(\d{2})-(\d{2})$/.exec(text);
  if (!match) return null;
  const at = Date.UTC(Number(match[1]), Number(match[2]) - 1, Number(match[3]));
  return textOf(at / day) === text ? at / day : null;
}

/** The reverse of {@link dayOf}. */
export const textOf = (number: Day): string => new Date(number * day).toISOString().slice(0, 10);

/** Weeks begin on Monday (ISO 8601); day 0, 1 January 1970, was a Thursday. */
export const mondayOf = (number: Day): Day => number - ((((number + 3) % 7) + 7) % 7);

/** The free days that hold a day, or undefined. */
export const freeOn = (term: Pick<Term, 'freeDays'>, number: Day): FreeDays | undefined =>
  term.freeDays.find(({ from, to }) => (dayOf(from) ?? 1) <= number && number <= (dayOf(to) ?? 0));

/** No term is longer: more weeks than this are not looked through. */
const mostWeeks = 300;

/** The Mondays of the teaching weeks, from the first: of calendar weeks that have at least one weekday with teaching. */
function* teachingMondays(term: Term): Generator<Day> {
  const first = mondayOf(dayOf(term.firstDay) ?? 0);
  for (let week = 0; week < mostWeeks; week++) {
    const monday = first + week * 7;
    if ([0, 1, 2, 3, 4].some((weekday) => !freeOn(term, monday + weekday))) yield monday;
  }
}

/** Where a day lies in a term: so many days after the Monday of a teaching week, counted from 1. */
type PlaceInTerm = { week: number; after: number };

/**
 * The place of a day. What lies before the first teaching week counts backwards from it; what lies in a free week counts on
 * from the last teaching week before.
 */
export function placeInTerm(term: Term, number: Day): PlaceInTerm {
  let place: PlaceInTerm | null = null;
  let week = 0;
  for (const monday of teachingMondays(term)) {
    week += 1;
    if (monday > number && place) return place;
    place = { week, after: number - monday };
    if (monday > number) return place;
  }
  return place ?? { week: 1, after: 0 };
}

/** The day at a place of a term. What counted on into a free week stays before the next teaching week of this term. */
export function dayAtPlace(term: Term, { week, after }: PlaceInTerm): Day {
  let monday: Day | null = null;
  let count = 0;
  for (const one of teachingMondays(term)) {
    count += 1;
    if (count === week) monday = one;
    if (count === week + 1) return Math.min((monday ?? one) + after, after < 7 ? Number.POSITIVE_INFINITY : one - 1);
  }
  return (monday ?? dayOf(term.firstDay) ?? 0) + after;
}

/** A moment taken into another term. */
type ShiftedMoment = {
  at: Instant;
  /** The teaching week it lies in, before and after. */
  from: PlaceInTerm;
  to: PlaceInTerm;
  /** The free days it would have fallen on and was moved behind. */
  movedOff: FreeDays | null;
};

/**
 * Takes the moments of a sitting into another term: each to the same weekday and time of the same teaching week, by the
 * clock of the zone. What would fall on a free day goes to the next day that is not free; a later moment never comes to lie
 * before an earlier one.
 *
 * @param moments in their order in time; null where the sitting does not set one
 */
export function shiftMoments(
  from: Term,
  to: Term,
  zone: string,
  moments: readonly (Instant | null)[],
): (ShiftedMoment | null)[] {
  let before: Instant = Number.NEGATIVE_INFINITY;
  return moments.map((moment) => {
    if (moment === null) return null;
    const place = placeInTerm(from, localDay(moment, zone));
    let number = dayAtPlace(to, place);
    let movedOff: FreeDays | null = null;
    for (;;) {
      const free = freeOn(to, number);
      if (!free && atDay(number, moment, zone) >= before) break;
      movedOff ??= free ?? null;
      number += 1;
    }
    const at = atDay(number, moment, zone);
    before = at;
    return { at, from: place, to: placeInTerm(to, number), movedOff };
  });
}

/** The calendar day of a moment in a zone. */
export const localDay = (at: Instant, zone: string): Day => dayOf(inZone(at, zone, 'yyyy-MM-dd')) as Day;

/** The moment on another day at the same time by the clock of the zone. */
function atDay(number: Day, moment: Instant, zone: string): Instant {
  const local = new TZDate(moment, zone);
  const date = new Date(number * day);
  return new TZDate(
    date.getUTCFullYear(),
    date.getUTCMonth(),
    date.getUTCDate(),
    local.getHours(),
    local.getMinutes(),
    local.getSeconds(),
    zone,
  ).getTime();
}

/** Moments so many days later, each at its time by the clock of the zone. */
export const laterByDays = (moment: Instant, days: number, zone: string): Instant =>
  atDay(localDay(moment, zone) + days, moment, zone);

const weekdays = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'];

/** A place in words. @example placeText({ week: 6, after: 2 }) // 'Wed of week 6' */
export function placeText({ week, after }: PlaceInTerm): string {
  if (after < 0) return `${-after} ${after === -1 ? 'day' : 'days'} before week ${week}`;
  if (after > 6) return `${after - 6} ${after === 7 ? 'day' : 'days'} after week ${week}`;
  return `${weekdays[after]} of week ${week}`;
}

/** The moments a sitting can set. */
export const sittingMoments = ['opens', 'lastStart', 'due', 'closes'] as const;
/** One of the moments of a sitting. */
export type SittingMoment = (typeof sittingMoments)[number];
/** The moments of a sitting; null where it has none. */
export type SittingMoments = Record<SittingMoment, Instant | null>;

/** The moments of a sitting taken into another term, as {@link shiftMoments} says, in whatever order they are. */
export function shiftSitting(
  from: Term,
  to: Term,
  zone: string,
  moments: SittingMoments,
): Record<SittingMoment, ShiftedMoment | null> {
  const inTime = sittingMoments
    .flatMap((name) => (moments[name] === null ? [] : [{ name, at: moments[name] }]))
    .sort((a, b) => a.at - b.at);
  const shifted = shiftMoments(
    from,
    to,
    zone,
    inTime.map((one) => one.at),
  );
  const found = new Map(inTime.map((one, i) => [one.name, shifted[i] ?? null]));
  return Object.fromEntries(sittingMoments.map((name) => [name, found.get(name) ?? null])) as Record<
    SittingMoment,
    ShiftedMoment | null
  >;
}

/** The moments of a sitting so many days later, each at its time by the clock of the zone. */
export const sittingLater = (moments: SittingMoments, days: number, zone: string): SittingMoments =>
  Object.fromEntries(
    sittingMoments.map((name) => {
      const at = moments[name];
      return [name, at === null ? null : laterByDays(at, days, zone)];
    }),
  ) as SittingMoments;
