import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { hour, instantFromLocal, localFromInstant, minute, second } from '../base/time';
import { attemptDeadline, closesFor, daysLate, hasExpired, inTimeToSave, lastWriting, mayStart } from './clock';
import { type Arrangement, mergeArrangements, noArrangement, type SittingRules } from './rules';
import { sittingCheck } from './sittingCheck';

const rules = (change: Partial<SittingRules> = {}): SittingRules => ({
  opens: 100 * hour,
  lastStart: null,
  due: null,
  closes: 110 * hour,
  timeLimit: hour,
  fullTimeOnceStarted: false,
  attemptsAllowed: 1,
  attemptCounts: 'best',
  ...change,
});
const extra = (change: Partial<Arrangement>): Arrangement => ({ ...noArrangement, ...change });
const none = { running: false, used: 0 };

describe('the deadline', () => {
  it('is start + limit, but never past the closing', () => {
    expect(attemptDeadline(rules(), noArrangement, 101 * hour, 0)).toBe(102 * hour);
    expect(attemptDeadline(rules(), noArrangement, 109.5 * hour, 0)).toBe(110 * hour);
  });

  it('counts added minutes after that minimum', () => {
    expect(attemptDeadline(rules(), noArrangement, 109.5 * hour, 5 * minute)).toBe(110 * hour + 5 * minute);
  });

  it('with extra time moves the closing by as much', () => {
    // limit′ = 60·1.25 + 10 = 85 minutes, so closes′ = closes + 25 minutes.
    const arranged = extra({ extraPercent: 25, extraMinutes: 10 });
    expect(closesFor(rules(), arranged)).toBe(110 * hour + 25 * minute);
    expect(attemptDeadline(rules(), arranged, 101 * hour, 0)).toBe(101 * hour + 85 * minute);
    expect(attemptDeadline(rules(), arranged, 109.5 * hour, 0)).toBe(110 * hour + 25 * minute);
  });

  it('follows an own closing, and the full time where a started attempt gets it', () => {
    expect(attemptDeadline(rules(), extra({ closes: 120 * hour, extraPercent: 50 }), 119.5 * hour, 0)).toBe(120 * hour);
    expect(attemptDeadline(rules({ fullTimeOnceStarted: true }), noArrangement, 109.5 * hour, 2 * minute)).toBe(
      110.5 * hour + 2 * minute,
    );
  });

  it('is the closing without a limit, and never without either', () => {
    expect(attemptDeadline(rules({ timeLimit: null }), noArrangement, 101 * hour, 0)).toBe(110 * hour);
    expect(attemptDeadline(rules({ timeLimit: null, closes: null }), noArrangement, 101 * hour, 0)).toBeNull();
  });

  it('is inclusive with an allowance of three seconds for saves', () => {
    expect([0, 3 * second, 3 * second + 1].map((late) => inTimeToSave(hour, hour + late))).toEqual([true, true, false]);
    expect(hasExpired(hour, hour + 3 * second)).toBe(false);
    expect(hasExpired(hour, hour + 3 * second + 1)).toBe(true);
    expect(hasExpired(null, Number.MAX_SAFE_INTEGER)).toBe(false);
  });
});

describe('whether an attempt may start', () => {
  const why = (now: number, r = rules(), a = noArrangement, soFar = none) => {
    const answer = mayStart(r, a, soFar, now);
    return answer.may ? 'may' : answer.why;
  };

  it('opens ≤ now < min(last start, closes′)', () => {
    expect([100 * hour - 1, 100 * hour, 110 * hour - 1, 110 * hour].map((now) => why(now))).toEqual([
      'not-open-yet',
      'may',
      'may',
      'closed',
    ]);
    const early = rules({ lastStart: 105 * hour });
    expect([105 * hour - 1, 105 * hour].map((now) => why(now, early))).toEqual(['may', 'last-start-over']);
  });

  it('counts attempts, with those an arrangement adds', () => {
    expect(why(101 * hour, rules(), noArrangement, { running: false, used: 1 })).toBe('no-attempt-left');
    expect(why(101 * hour, rules(), extra({ extraAttempts: 1 }), { running: false, used: 1 })).toBe('may');
    expect(why(101 * hour, rules({ attemptsAllowed: null }), noArrangement, { running: false, used: 99 })).toBe('may');
    expect(why(101 * hour, rules(), noArrangement, { running: true, used: 1 })).toBe('running');
    expect(why(101 * hour, rules(), extra({ excused: true }))).toBe('excused');
  });

  it('whenever it may, the deadline lies ahead, and a stricter rule never makes it later', () => {
    const anyRules = fc.record({
      closes: fc.option(fc.integer({ min: 101, max: 300 })),
      limit: fc.option(fc.integer({ min: 1, max: 600 })),
      last: fc.option(fc.integer({ min: 101, max: 300 })),
      percent: fc.integer({ min: 0, max: 200 }),
      now: fc.integer({ min: 0, max: 400 }),
    });
    fc.assert(
      fc.property(anyRules, ({ closes, limit, last, percent, now }) => {
        const r = rules({
          closes: closes === null ? null : closes * hour,
          timeLimit: limit === null ? null : limit * minute,
          lastStart: last === null ? null : last * hour,
        });
        const answer = mayStart(r, extra({ extraPercent: percent }), none, now * hour);
        if (!answer.may || answer.deadline === null) return;
        expect(answer.deadline).toBeGreaterThan(now * hour);
        const stricter = attemptDeadline(
          { ...r, timeLimit: r.timeLimit === null ? null : r.timeLimit / 2 },
          extra({ extraPercent: percent }),
          now * hour,
          0,
        );
        expect(stricter).toBeLessThanOrEqual(answer.deadline);
      }),
      { seed: 2, numRuns: 500 },
    );
  });
});

it('late days are started days of 24 hours after due', () => {
  const r = rules({ due: 105 * hour });
  expect([105 * hour, 105 * hour + 1, 129 * hour, 129 * hour + 1].map((at) => daysLate(r, at))).toEqual([0, 1, 1, 2]);
  expect(daysLate(rules(), 1000 * hour)).toBe(0);
});

it('the latest writing is a running deadline or that of a last possible start', () => {
  expect(lastWriting(rules(), noArrangement, { startedAt: 101 * hour, added: 0 }, false)).toBe(102 * hour);
  expect(lastWriting(rules({ lastStart: 104 * hour }), noArrangement, null, true)).toBe(105 * hour);
  expect(lastWriting(rules({ closes: null }), noArrangement, null, true)).toBeNull();
});

it('arrangements merge to the more generous extra time, own dates first', () => {
  expect(
    mergeArrangements(extra({ extraPercent: 25, closes: 5 }), extra({ extraPercent: 10, extraMinutes: 7, closes: 9 })),
  ).toMatchObject({ extraPercent: 25, extraMinutes: 7, closes: 9 });
});

it('the check of a sitting names each wrong field', () => {
  const fields = (change: Partial<SittingRules>) => sittingCheck(rules(change), 0).map((problem) => problem.field);
  expect(fields({})).toEqual([]);
  expect(fields({ closes: 100 * hour })).toEqual(['closes']);
  expect(fields({ timeLimit: 11 * hour })).toEqual(['timeLimit']);
  expect(fields({ due: 111 * hour, lastStart: 111 * hour })).toEqual(['lastStart', 'due']);
  expect(sittingCheck(rules(), 200 * hour).map((problem) => problem.field)).toEqual(['closes']);
});

describe('local times', () => {
  it('go to moments and back, also across the changes of the clock', () => {
    for (const text of [
      '2026-03-29T01:59',
      '2026-03-29T03:00',
      '2026-10-25T01:59',
      '2026-10-25T03:00',
      '2028-02-29T12:00',
      '2026-12-31T23:59',
    ]) {
      const at = instantFromLocal(text, 'Europe/Oslo');
      expect(at === null ? null : localFromInstant(at, 'Europe/Oslo')).toBe(text);
    }
    expect(instantFromLocal('2026-03-29T03:00', 'Europe/Oslo')).toBe(Date.UTC(2026, 2, 29, 1));
  });

  it('that do not exist are refused', () => {
    for (const text of ['2026-02-29T12:00', '2026-04-31T00:00', '2026-01-01T24:00', '2026-1-1T00:00', ''])
      expect(instantFromLocal(text, 'UTC')).toBeNull();
  });
});
