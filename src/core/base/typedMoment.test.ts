import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { localFromInstant } from './localTime';
import { inZone, momentText } from './time';
import { isMonthFirst, typedDay, typedMoment } from './typedMoment';

/** A Sunday, 19:43 in Oslo and 13:43 in New York. */
const now = Date.UTC(2026, 10, 29, 18, 43);
const oslo = { now, zone: 'Europe/Oslo', usualTime: '09:00' };
const york = { now, zone: 'America/New_York', usualTime: '09:00' };
const read = (text: string, reading: Parameters<typeof typedMoment>[1] = oslo) => {
  const typed = typedMoment(text, reading);
  return typed.ok ? typed.local.replace('T', ' ') : typed.why;
};

describe('a typed moment', () => {
  it.each([
    ['tue 14:30', '2026-12-01 14:30'],
    ['in 2 weeks', '2026-12-13 09:00'],
    ['tomorrow noon', '2026-11-30 12:00'],
    ['1.12 14.30', '2026-12-01 14:30'],
    ['1.12.', '2026-12-01 09:00'],
    ['1.2.', '2027-02-01 09:00'],
    ['1.12.26 9:00', '2026-12-01 09:00'],
    ['2026-12-01T14:30', '2026-12-01 14:30'],
    ['2026-12-01 14:30', '2026-12-01 14:30'],
    ['14.30', '2026-11-30 14:30'],
    ['23:00', '2026-11-29 23:00'],
    ['9h00', '2026-11-30 09:00'],
    ['1 dec 9am', '2026-12-01 09:00'],
    ['dec 1 2026 9 am', '2026-12-01 09:00'],
    ['1st of december at 14:30', '2026-12-01 14:30'],
    ['in 3 days at 10:00', '2026-12-02 10:00'],
    ['in 2 hours', '2026-11-29 21:43'],
    ['friday 2pm', '2026-12-04 14:00'],
    ['12:15 pm tue', '2026-12-01 12:15'],
    ['Tue 1 Dec 2026, 14:30', '2026-12-01 14:30'],
    ['tue 1.12. 8:00', '2026-12-01 08:00'],
  ])('“%s” is %s', (text, local) => {
    expect(read(text)).toBe(local);
  });

  it('is read by the habit of the zone’s part of the world', () => {
    expect(read('3/4/2027 8:00')).toBe('2027-04-03 08:00');
    expect(read('3/4/2027 8:00', york)).toBe('2027-03-04 08:00');
    expect(read('3.4.2027 8:00', york)).toBe('2027-04-03 08:00');
    expect(['Europe/London', 'America/Toronto', 'America/Indiana/Knox', 'Asia/Manila'].map(isMonthFirst)).toEqual([
      false,
      false,
      true,
      true,
    ]);
  });

  it('keeps the time where only a day is typed, and the day where only a time is', () => {
    const before = { ...oslo, before: '2026-12-05T16:15' };
    expect(read('mon', before)).toBe('2026-11-30 16:15');
    expect(read('8:00', before)).toBe('2026-12-05 08:00');
    expect(read('mon', { now, zone: 'Europe/Oslo' })).toBe('Add a time, such as “14:30”.');
  });

  it.each([
    ['asdf', /^Type a date and a time/],
    ['', /^Type a date and a time/],
    ['32.12.2026 8:00', /^Type/],
    ['29.2.2027 8:00', /^Type/],
    ['25:00', /^Type/],
    ['13:00 pm', /^Type/],
    ['tue 14:30 and more', /^Type/],
    ['tue 8', /^Type/],
    ['mon to fri', /^Type/],
    ['12/31/2026 8:00', /^Type/],
    ['mon 1.12.2026 8:00', 'T1 Dec 2026 is a Tuesday.'],
    ['wed 1 dec 8:00', 'T1 Dec 2026 is a Tuesday.'],
    ['28.3.2027 02:30', 'TOn this day the clocks go forward: there is no 02:30. The time after the change is 03:30.'],
  ])('“%s” is refused and says why', (text, why) => {
    if (typeof why === 'string') expect(read(text)).toBe(why.slice(1));
    else expect(read(text)).toMatch(why);
  });

  it('reads back whatever is shown of a moment, in any zone, whenever', () => {
    const zone = fc.constantFrom('Europe/Oslo', 'America/New_York', 'Asia/Kolkata', 'Pacific/Auckland', 'UTC');
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 2_000_000 }), zone, (n, zone) => {
        const at = Date.UTC(2020, 0, 1) + n * 7 * 60_000;
        const local = localFromInstant(at, zone);
        expect(typedMoment(local, { now, zone })).toEqual({ ok: true, local });
        expect(typedMoment(inZone(at, zone, 'EEE d MMM yyyy, HH:mm'), { now, zone })).toEqual({ ok: true, local });
        expect(typedDay(local.slice(0, 10), { now, zone })).toEqual({ ok: true, local: local.slice(0, 10) });
      }),
      { numRuns: 300 },
    );
    expect(read(momentText(now, 'Europe/Oslo'))).toBe('2026-11-29 19:43');
  });

  it('never throws, and never gives what is no moment', () => {
    const text = fc.oneof(
      fc.string({ maxLength: 30 }),
      fc
        .array(fc.constantFrom('1', '12', '31', '.', '/', ':', ' ', 'tue', 'in', 'weeks', 'dec', 'pm', '2026', '-'), {
          maxLength: 8,
        })
        .map((all) => all.join('')),
    );
    fc.assert(
      fc.property(text, (typed) => {
        const moment = typedMoment(typed, oslo);
        if (moment.ok) expect(moment.local).toMatch(/^\d{4}-\d{2}-\d{2}T\d{2}:\d{2}$/);
        const day = typedDay(typed, oslo);
        if (day.ok) expect(Number.isNaN(Date.parse(day.local))).toBe(false);
      }),
      { numRuns: 500 },
    );
  });
});

describe('a typed day', () => {
  it.each([
    ['tue', '2026-12-01'],
    ['1/12', '2026-12-01'],
    ['2026-12-01', '2026-12-01'],
    ['next week', '2026-12-06'],
  ])('“%s” is %s', (text, local) => {
    expect(typedDay(text, oslo)).toEqual({ ok: true, local });
  });

  it('is not a time, and says what it could be', () => {
    expect(typedDay('tue 14:30', oslo)).toEqual({
      ok: false,
      why: 'Type a day, such as “tue”, “1 dec” or “in 2 weeks”.',
    });
    expect(typedDay('fri 1.12.', oslo)).toEqual({ ok: false, why: '1 Dec 2026 is a Tuesday.' });
  });
});
