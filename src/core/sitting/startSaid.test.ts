import { expect, it } from 'vitest';
import { instantFromLocal } from '../base/localTime';
import { minute } from '../base/time';
import { daySaid, startSaid } from './startSaid';

const zone = 'Europe/Oslo';
const at = (text: string) => instantFromLocal(text, zone) as number;

it('a moment is said by the days of the course, also in the night the clock changes', () => {
  const now = at('2026-03-28T23:30');
  expect(daySaid(at('2026-03-28T23:45'), zone, now)).toBe('today 23:45');
  expect(daySaid(at('2026-03-29T03:10'), zone, now)).toBe('tomorrow 03:10');
  expect(daySaid(at('2026-03-30T09:00'), zone, now)).toBe('Mon 30 Mar 2026, 09:00');
  expect(daySaid(at('2026-03-27T09:00'), zone, now)).toBe('Fri 27 Mar 2026, 09:00');
  expect(daySaid(at('2026-10-25T23:30'), zone, at('2026-10-24T23:45'))).toBe('tomorrow 23:30');
});

it('a reason names when it passes', () => {
  const now = at('2026-03-02T10:00');
  const said = (why: Parameters<typeof startSaid>[0]['why'], moment: number | null = null) =>
    startSaid({ may: false, why, at: moment }, zone, now);
  expect(said('not-open-yet', at('2026-03-03T09:00'))).toBe('It opens tomorrow 09:00.');
  expect(said('wait', now + 200 * minute - 20_000)).toBe('Next attempt in 3 h 20 min (today 13:19).');
  expect(said('shut-today', at('2026-03-03T00:00'))).toBe('It is shut today; it can be started tomorrow 00:00.');
  expect(said('no-time-left', at('2026-03-03T00:00'))).toBe('It closes before another attempt could begin.');
});
