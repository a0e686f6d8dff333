import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { day, hour, minute, second } from '../base/time';
import { type SeenClock, spokenTime, timeLeft } from './spokenTime';

it('time left is shown as a clock, and of more than a day in words', () => {
  expect([125_000, 3_600_000, 999, 0, -5].map(timeLeft)).toEqual(['2:05', '1:00:00', '0:01', '0:00', '0:00']);
  expect(timeLeft(7 * day + 13 * hour + 24 * minute)).toBe('7 days 13 h');
  expect(timeLeft(day)).toBe('24:00:00');
});

describe('what is spoken of the time left', () => {
  const deadline = hour;
  const seen = (left: number, of = deadline): SeenClock => ({ deadline: of, left });
  const at = (left: number) => deadline - left;

  it('is how much is left as it passes ten, five and one minutes, its end, and a change of it', () => {
    expect(spokenTime(null, deadline, at(5 * minute))).toBeNull();
    expect(spokenTime(seen(600_500), deadline, at(600_000))).toBe('10 minutes left');
    expect(spokenTime(seen(60_400), deadline, at(59_900))).toBe('1 minute left');
    expect(spokenTime(seen(500_000), deadline, at(499_500))).toBeNull();
    expect(spokenTime(seen(400), deadline, at(-100))).toBe('The time is over');
    expect(spokenTime(seen(400), deadline, at(-100), ' for this question')).toBe('The time for this question is over');
    expect(spokenTime(seen(-100), deadline, at(-600))).toBeNull();
    expect(spokenTime(seen(2 * minute), deadline + 5 * minute, at(2 * minute))).toBe('5 min more: 7 minutes left');
    expect(spokenTime(seen(20 * minute), deadline - 8 * minute, at(20 * minute))).toBe('8 min less: 12 minutes left');
  });

  it('tells the truth when the page did not look for a while', () => {
    expect(spokenTime(seen(12 * minute), deadline, at(4 * minute + 33 * second))).toBe('4 min 33 s left');
  });

  it('is spoken at every crossing exactly once, however often the page looks and hears the deadline anew', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 1, max: 4_000 }), { minLength: 50, maxLength: 400 }), (steps) => {
        let now = deadline - 11 * minute;
        let last: SeenClock = null;
        const spoken: string[] = [];
        let crossed = 0;
        for (const step of steps) {
          const before = deadline - now;
          now += step;
          const left = deadline - now;
          if (last && [10, 5, 1, 0].some((minutes) => before > minutes * minute && left <= minutes * minute))
            crossed += 1;
          // A pulse moves the deadline by less than a person would.
          const heard = deadline + (step % 7) * 10;
          const words = spokenTime(last, heard, now + (heard - deadline));
          if (words) spoken.push(words);
          last = { deadline: heard, left };
        }
        expect(spoken).toHaveLength(crossed);
      }),
      { seed: 10 },
    );
  });
});
