import { TZDate } from '@date-fns/tz';
import { format } from 'date-fns';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readLocal } from './localTime';
import { hour, inZone, isTimeZone, minute, momentText, nearText, nearZone, whichOfTwo, zoneProblem } from './time';

const zones = [
  'UTC',
  'Europe/Oslo',
  'America/New_York',
  'Asia/Kathmandu',
  'Australia/Lord_Howe',
  'Pacific/Chatham',
  'America/St_Johns',
];

/** Moments of the years 1985 to 2080, to the millisecond. */
const moments = fc.integer({ min: Date.UTC(1985, 0), max: Date.UTC(2080, 0) });

it('knows time zones', () => {
  expect(['Europe/Oslo', 'UTC', 'Mars/Base', '+02:00', ''].map(isTimeZone)).toEqual([true, true, false, false, false]);
});

describe('a moment as text', () => {
  it('is what another implementation says, in every zone and by every pattern', () => {
    fc.assert(
      fc.property(moments, fc.constantFrom(...zones), (at, zone) => {
        for (const pattern of ['EEE d MMM yyyy, HH:mm', 'EEEE d MMMM', 'yyyy-MM-dd', 'HH:mm:ss', 'dd.MM.yyyy'])
          expect(inZone(at, zone, pattern)).toBe(format(new TZDate(at, zone), pattern));
      }),
    );
  });

  it('is midnight as 00:00, not as 24:00', () => {
    expect(momentText(Date.UTC(2026, 10, 22, 23), 'Europe/Oslo')).toBe('Mon 23 Nov 2026, 00:00');
  });

  it('leaves its day out today', () => {
    const nine = Date.UTC(2026, 10, 23, 8);
    expect(nearText(nine, 'Europe/Oslo', nine - 8 * hour)).toBe('09:00');
    expect(nearText(nine, 'Europe/Oslo', nine - 9 * hour - minute)).toBe('Mon 23 Nov 2026, 09:00');
  });
});

describe('the hour that comes twice', () => {
  it('is told apart, in zones that go back by an hour and by half of one', () => {
    const first = Date.UTC(2026, 9, 25, 0, 30);
    expect([first - hour, first, first + hour, first + 2 * hour].map((at) => whichOfTwo(at, 'Europe/Oslo'))).toEqual([
      null,
      'first',
      'second',
      null,
    ]);
    const howe = Date.UTC(2026, 3, 4, 14, 40);
    expect([howe, howe + 30 * minute].map((at) => whichOfTwo(at, 'Australia/Lord_Howe'))).toEqual(['first', 'second']);
  });

  it('never comes where a time of day is read back as the moment it was', () => {
    fc.assert(
      fc.property(moments, fc.constantFrom(...zones), (moment, zone) => {
        const at = Math.floor(moment / minute) * minute;
        const read = readLocal(inZone(at, zone, 'yyyy-MM-ddXHH:mm').replace('X', 'T'), zone);
        const which = whichOfTwo(at, zone);
        if (which === null) expect(read).toEqual({ ok: true, at });
        else expect(read.ok).toBe(true);
      }),
    );
  });
});

describe('a time zone that is not written as it is called', () => {
  it.each([
    ['Berlin', 'Europe/Berlin'],
    [' new york ', 'America/New_York'],
    ['EUROPE/oslo', 'Europe/Oslo'],
    ['Atlantis', null],
    ['', null],
  ])('%j is %j', (typed, zone) => {
    expect(nearZone(typed)).toBe(zone);
  });

  it('is offered, where it is one', () => {
    expect(zoneProblem('Berlin')).toBe('“Berlin” is no time zone by itself. Do you mean Europe/Berlin?');
    expect(zoneProblem('Atlantis')).toBe('This time zone is not known. Example: Europe/Oslo.');
  });
});
