import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { instantFromLocal, localFromInstant } from '../base/localTime';
import {
  dayAtPlace,
  dayOf,
  freeOn,
  laterByDays,
  localDay,
  placeInTerm,
  placeText,
  shiftMoments,
  type Term,
  textOf,
} from './teachingWeeks';

const zone = 'Europe/Oslo';
const at = (local: string) => instantFromLocal(local, zone) as number;
const shown = (moment: number) => localFromInstant(moment, zone);
const dayNumber = (text: string) => dayOf(text) as number;

// Monday 7 September 2026; a free week in October, and a single free Friday.
const autumn: Term = {
  firstDay: '2026-09-08',
  freeDays: [
    { from: '2026-10-05', to: '2026-10-11', name: 'Autumn break' },
    { from: '2026-10-30', to: '2026-10-30', name: 'Staff day' },
  ],
};
// Monday 11 January 2027; a free week in February, Easter from a Thursday to a Monday.
const spring: Term = {
  firstDay: '2027-01-11',
  freeDays: [
    { from: '2027-02-22', to: '2027-02-26', name: 'Winter break' },
    { from: '2027-03-25', to: '2027-03-29', name: 'Easter' },
  ],
};

describe('days', () => {
  test.each(['2026-02-29', '2026-13-01', '2026-1-1', 'tomorrow', ''])('%j is no day', (text) => {
    expect(dayOf(text)).toBeNull();
  });
  test('are told by text and back', () => {
    expect(textOf(dayNumber('2028-02-29'))).toBe('2028-02-29');
  });
});

describe('the place of a day in a term', () => {
  test.each([
    ['2026-09-07', 'Mon of week 1'],
    ['2026-09-13', 'Sun of week 1'],
    ['2026-10-02', 'Fri of week 4'],
    ['2026-10-12', 'Mon of week 5'],
    ['2026-10-30', 'Fri of week 7'],
    ['2026-09-05', '2 days before week 1'],
    ['2026-10-06', '2 days after week 4'],
  ])('%s is the %s', (text, place) => {
    expect(placeText(placeInTerm(autumn, dayNumber(text)))).toBe(place);
  });

  test('a week is free only where all its weekdays are', () => {
    expect(placeText(placeInTerm(spring, dayNumber('2027-02-28')))).toBe('7 days after week 6');
    expect(placeText(placeInTerm(spring, dayNumber('2027-03-24')))).toBe('Wed of week 10');
  });

  test('every day lies where its place says', () => {
    fc.assert(
      fc.property(fc.integer({ min: -40, max: 300 }), (offset) => {
        const number = dayNumber('2026-09-07') + offset;
        expect(dayAtPlace(autumn, placeInTerm(autumn, number))).toBe(number);
      }),
    );
  });
});

describe('moments taken into another term', () => {
  test('keep weekday, teaching week and time, over free weeks and the change of the clock', () => {
    // Week 6 of the autumn begins on 19 October; week 7 of the spring, behind its break, on 1 March.
    const [opens, none, closes] = shiftMoments(autumn, spring, zone, [
      at('2026-10-21T09:00'),
      null,
      at('2026-10-28T17:30'),
    ]);
    expect(none).toBeNull();
    expect(opens && shown(opens.at)).toBe('2027-02-17T09:00');
    expect(closes && shown(closes.at)).toBe('2027-03-03T17:30');
    expect(closes && placeText(closes.to)).toBe('Wed of week 7');
    expect(closes?.movedOff).toBeNull();
  });

  test('go behind free days, and say which', () => {
    // Thursday of week 10 in the spring lies in Easter, which ends on a Monday.
    const [moved] = shiftMoments(autumn, spring, zone, [at('2026-11-19T10:00')]);
    expect(moved && shown(moved.at)).toBe('2027-03-30T10:00');
    expect(moved?.movedOff?.name).toBe('Easter');
  });

  test('stay in order where free days push them together', () => {
    // Thursday 14:00 and Monday 09:00 fall on the two ends of Easter: both would land on the Tuesday behind it.
    const [opens, closes] = shiftMoments(autumn, spring, zone, [at('2026-11-19T14:00'), at('2026-11-23T09:00')]);
    expect(opens && shown(opens.at)).toBe('2027-03-30T14:00');
    expect(closes && shown(closes.at)).toBe('2027-03-31T09:00');
  });

  test('from a free week stay before the next teaching week', () => {
    const [moved] = shiftMoments(autumn, { firstDay: '2027-01-11', freeDays: [] }, zone, [at('2026-10-08T12:00')]);
    expect(moved && shown(moved.at)).toBe('2027-02-07T12:00');
  });

  const anyTerm = fc
    .record({
      start: fc.integer({ min: 20_000, max: 21_000 }),
      breaks: fc.array(fc.record({ after: fc.integer({ min: 0, max: 120 }), days: fc.integer({ min: 1, max: 12 }) }), {
        maxLength: 4,
      }),
    })
    .map(
      ({ start, breaks }): Term => ({
        firstDay: textOf(start),
        freeDays: breaks.map(({ after, days }) => ({
          from: textOf(start + after),
          to: textOf(start + after + days - 1),
          name: 'free',
        })),
      }),
    );

  test('never fall on a free day, never change their order or their time of day', () => {
    fc.assert(
      fc.property(
        anyTerm,
        anyTerm,
        fc.array(fc.integer({ min: -30 * 1440, max: 200 * 1440 }), { minLength: 1, maxLength: 4 }),
        (from, to, minutes) => {
          const start = dayNumber(from.firstDay) * 86_400_000;
          const moments = [...minutes].sort((a, b) => a - b).map((one) => start + one * 60_000);
          const shifted = shiftMoments(from, to, 'UTC', moments);
          shifted.forEach((one, i) => {
            if (!one) throw new Error('every moment is taken over');
            expect(freeOn(to, localDay(one.at, 'UTC'))).toBeUndefined();
            expect(one.at % 86_400_000).toBe((moments[i] as number) % 86_400_000);
            if (i > 0) expect(one.at).toBeGreaterThanOrEqual(shifted[i - 1]?.at as number);
          });
        },
      ),
    );
  });

  test('into the same term change nothing that lies on days of teaching', () => {
    fc.assert(
      fc.property(fc.integer({ min: -20, max: 150 }), (offset) => {
        const moment = at('2026-09-07T10:15') + offset * 86_400_000;
        const [same] = shiftMoments(autumn, autumn, zone, [moment]);
        if (!freeOn(autumn, localDay(moment, zone))) expect(same?.at).toBe(moment);
      }),
    );
  });
});

test('a moment so many days later keeps its time by the clock', () => {
  expect(shown(laterByDays(at('2026-10-20T09:00'), 7, zone))).toBe('2026-10-27T09:00');
});
