import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { instantFromLocal, localFromInstant } from '../base/localTime';
import { hour, minute, second } from '../base/time';
import {
  type AttemptsSoFar,
  attemptDeadline,
  clockFor,
  closesFor,
  daysLate,
  hasExpired,
  latestWriting,
  mayStart,
  noAttempts,
  overForEveryone,
  runningClock,
} from './clock';
import { type Arrangement, mergeArrangements, noArrangement, noFurtherRules, type SittingRules } from './rules';
import { inTimeToSave } from './saveAllowance';
import { firstOpenDay, lastOpenDay } from './shutDays';

const rules = (change: Partial<SittingRules> = {}): SittingRules => ({
  ...noFurtherRules,
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
const none = noAttempts;
const used = (n: number, lastEnded: number | null = null): AttemptsSoFar => ({ running: null, used: n, lastEnded });
const oslo = 'Europe/Oslo';
const at = (text: string, zone = oslo) => instantFromLocal(text, zone) as number;
const shown = (moment: number, zone = oslo) => localFromInstant(moment, zone);

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
    expect(hasExpired(rules(), hour, hour + 3 * second)).toBe(false);
    expect(hasExpired(rules(), hour, hour + 3 * second + 1)).toBe(true);
    expect(hasExpired(rules(), null, Number.MAX_SAFE_INTEGER)).toBe(false);
  });
});

describe('whether an attempt may start', () => {
  const why = (now: number, r = rules(), a = noArrangement, soFar = none) => {
    const answer = mayStart(r, 'UTC', a, soFar, now);
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
    expect(why(101 * hour, rules(), noArrangement, used(1))).toBe('no-attempt-left');
    expect(why(101 * hour, rules(), extra({ extraAttempts: 1 }), used(1))).toBe('may');
    expect(why(101 * hour, rules({ attemptsAllowed: null }), noArrangement, used(99))).toBe('may');
    expect(why(101 * hour, rules(), noArrangement, { ...used(1), running: { startedAt: 100 * hour, added: 0 } })).toBe(
      'running',
    );
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
        const answer = mayStart(r, 'UTC', extra({ extraPercent: percent }), none, now * hour);
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
  expect([105 * hour, 105 * hour + 1, 129 * hour, 129 * hour + 1].map((at) => daysLate(r, noArrangement, at))).toEqual([
    0, 1, 1, 2,
  ]);
  expect(daysLate(rules(), noArrangement, 1000 * hour)).toBe(0);
  // Within a closing of one's own nothing is late, unless a due of one's own says so.
  expect(daysLate(r, extra({ closes: 200 * hour }), 200 * hour)).toBe(0);
  expect(daysLate(r, extra({ closes: 200 * hour, due: 150 * hour }), 151 * hour)).toBe(1);
});

describe('the latest writing', () => {
  const running = (startedAt: number): AttemptsSoFar => ({ ...used(1), running: { startedAt, added: 0 } });
  const latest = (r: SittingRules, soFar: AttemptsSoFar, a = noArrangement, now = 101 * hour) =>
    latestWriting(r, 'UTC', a, soFar, now);

  it('is a running deadline or that of a last possible start', () => {
    expect(latest(rules(), running(101 * hour))).toBe(102 * hour);
    expect(latest(rules({ attemptsAllowed: 2 }), running(101 * hour))).toBe(110 * hour);
    expect(latest(rules({ lastStart: 104 * hour }), none)).toBe(105 * hour);
    expect(latest(rules({ closes: null }), none)).toBe(Number.POSITIVE_INFINITY);
    expect(latest(rules({ closes: null, lastStart: 104 * hour }), none)).toBe(105 * hour);
  });

  it('is past for who has handed in, is excused, or can start no more', () => {
    expect(latest(rules(), used(1))).toBe(Number.NEGATIVE_INFINITY);
    expect(latest(rules(), none, extra({ excused: true }))).toBe(Number.NEGATIVE_INFINITY);
    expect(latest(rules(), none, noArrangement, 110 * hour)).toBe(Number.NEGATIVE_INFINITY);
  });

  it('reaches past the closing where a started attempt gets its full time, and with extra time', () => {
    expect(latest(rules({ fullTimeOnceStarted: true }), none)).toBe(111 * hour);
    expect(latest(rules(), none, extra({ extraPercent: 50 }))).toBe(110.5 * hour);
  });

  it('ends with the day before where the last days are shut', () => {
    const r = rules({
      opens: at('2026-12-20T09:00'),
      closes: at('2026-12-26T12:00'),
      shutDays: ['2026-12-24', '2026-12-25', '2026-12-26'],
    });
    const end = latestWriting(r, oslo, noArrangement, none, at('2026-12-21T00:00'));
    expect(shown(end)).toBe('2026-12-24T01:00');
  });

  it('of everyone is when the sitting is over; one that never closes never is', () => {
    const students = [
      { arrangement: noArrangement, soFar: used(1) },
      { arrangement: extra({ closes: 130 * hour }), soFar: none },
      { arrangement: extra({ extraPercent: 100 }), soFar: none },
    ];
    expect(overForEveryone(rules(), 'UTC', students, 101 * hour)).toBe(130 * hour);
    expect(overForEveryone(rules(), 'UTC', students, 131 * hour)).toBe(110 * hour);
    expect(overForEveryone(rules({ closes: null }), 'UTC', students, 101 * hour)).toBeNull();
    expect(overForEveryone(rules(), 'UTC', [], 0)).toBe(110 * hour);
  });
});

describe('what lies between attempts', () => {
  const why = (r: SittingRules, soFar: AttemptsSoFar, now: number, a = noArrangement) => {
    const answer = mayStart(r, 'UTC', a, soFar, now);
    return answer.may ? 'may' : [answer.why, answer.at === null ? null : answer.at / hour];
  };
  const waits = rules({ attemptsAllowed: 4, between: { kind: 'wait', minutes: [60, 180] } });

  it('a wait runs from the hand-in, the last one before every later attempt', () => {
    expect(why(waits, used(1, 102 * hour), 102.5 * hour)).toEqual(['wait', 103]);
    expect(why(waits, used(1, 102 * hour), 103 * hour)).toBe('may');
    expect(why(waits, used(2, 102 * hour), 104 * hour)).toEqual(['wait', 105]);
    expect(why(waits, used(3, 102 * hour), 104 * hour)).toEqual(['wait', 105]);
    expect(why(waits, none, 101 * hour)).toBe('may');
  });

  it('that ends after the last start leaves no time', () => {
    expect(why(waits, used(1, 109.5 * hour), 109.75 * hour)).toEqual(['no-time-left', 110.5]);
  });

  it('the instructor lets each attempt after the first through', () => {
    const held = rules({ attemptsAllowed: null, between: { kind: 'let-through' } });
    expect(why(held, none, 101 * hour)).toBe('may');
    expect(why(held, used(1, 102 * hour), 103 * hour)).toEqual(['not-let-through', null]);
    expect(why(held, used(1, 102 * hour), 103 * hour, extra({ letThrough: 2 }))).toBe('may');
    expect(why(held, used(2, 102 * hour), 103 * hour, extra({ letThrough: 2 }))).toEqual(['not-let-through', null]);
  });
});

describe('shut days', () => {
  const r = rules({
    opens: at('2026-12-23T09:00'),
    closes: at('2026-12-30T12:00'),
    timeLimit: 10 * hour,
    shutDays: ['2026-12-24', '2026-12-25'],
  });
  const start = (now: number, soFar = none) => mayStart(r, oslo, noArrangement, soFar, now);

  it('hold a start back until the first midnight that is open, by the calendar of the course', () => {
    expect(start(at('2026-12-23T23:59')).may).toBe(true);
    const held = start(at('2026-12-24T00:00'));
    expect(held.may === false && [held.why, shown(held.at ?? 0)]).toEqual(['shut-today', '2026-12-26T00:00']);
    // 23:30 in New York is a shut day there only.
    const late = at('2026-12-23T23:30', 'America/New_York');
    expect(mayStart(r, 'America/New_York', noArrangement, none, late).may).toBe(true);
    expect(start(late).may).toBe(false);
  });

  it('do not touch a running attempt', () => {
    const running = runningClock(
      r,
      noArrangement,
      { startedAt: at('2026-12-23T20:00'), added: 0 },
      at('2026-12-24T03:00'),
    );
    expect(running.writing).toBe(true);
    expect(shown(running.deadline ?? 0)).toBe('2026-12-24T06:00');
  });

  it('end at midnight by the clock also where it changes that night', () => {
    // Clocks go forward on 29 March 2026 and back on 25 October 2026; Lord Howe moves by half an hour.
    expect(shown(firstOpenDay(at('2026-03-28T23:30'), ['2026-03-28'], oslo))).toBe('2026-03-29T00:00');
    expect(shown(firstOpenDay(at('2026-03-29T12:00'), ['2026-03-29'], oslo))).toBe('2026-03-30T00:00');
    expect(firstOpenDay(at('2026-10-25T00:00'), ['2026-10-25'], oslo) - at('2026-10-25T00:00')).toBe(25 * hour);
    const howe = 'Australia/Lord_Howe';
    expect(firstOpenDay(at('2026-04-05T00:00', howe), ['2026-04-05'], howe) - at('2026-04-05T00:00', howe)).toBe(
      24.5 * hour,
    );
    // In Santiago the day of the change has no midnight: it begins at one o'clock.
    const chile = 'America/Santiago';
    expect(shown(firstOpenDay(at('2026-09-05T12:00', chile), ['2026-09-05'], chile), chile)).toBe('2026-09-06T01:00');
    expect(shown(lastOpenDay(at('2026-10-26T00:00'), ['2026-10-25'], oslo))).toBe('2026-10-25T00:00');
    expect(shown(firstOpenDay(at('2028-02-29T12:00'), ['2028-02-29'], oslo))).toBe('2028-03-01T00:00');
  });

  it('a limit runs by elapsed time across a change of the clock', () => {
    const spring = rules({ opens: at('2026-03-28T20:00'), closes: at('2026-03-29T12:00'), timeLimit: 3 * hour });
    const started = at('2026-03-29T00:30');
    expect(shown(attemptDeadline(spring, noArrangement, started, 0) ?? 0)).toBe('2026-03-29T04:30');
    const autumn = rules({ opens: at('2026-10-24T20:00'), closes: at('2026-10-25T12:00'), timeLimit: 3 * hour });
    expect(shown(attemptDeadline(autumn, noArrangement, at('2026-10-25T00:30'), 0) ?? 0)).toBe('2026-10-25T02:30');
  });
});

describe('when the time is over', () => {
  const grace = rules({ expiry: { kind: 'grace', minutes: 2 } });
  const begun = { startedAt: 101 * hour, added: 0 };
  const states = (r: SittingRules, moments: number[]) =>
    moments.map((after) => {
      const { writing, over, becomes } = runningClock(r, noArrangement, begun, 102 * hour + after);
      return [writing, over, becomes];
    });

  it('an attempt is handed in by the clock', () => {
    expect(states(rules(), [0, 3 * second, 3 * second + 1])).toEqual([
      [true, false, 'handed-in'],
      [true, false, 'handed-in'],
      [false, true, 'handed-in'],
    ]);
  });

  it('or, with a grace, waits for its student without taking answers, and does not count else', () => {
    expect(states(grace, [3 * second, minute, 2 * minute + 3 * second, 2 * minute + 3 * second + 1])).toEqual([
      [true, false, 'not-handed-in'],
      [false, false, 'not-handed-in'],
      [false, false, 'not-handed-in'],
      [false, true, 'not-handed-in'],
    ]);
    expect(runningClock(grace, noArrangement, begun, 0).handInUntil).toBe(102 * hour + 2 * minute);
  });
});

it('own dates: a closing of one’s own does away with the last start, unless one has one’s own', () => {
  const r = rules({ lastStart: 102 * hour });
  const may = (a: Partial<Arrangement>, now: number) => mayStart(r, 'UTC', extra(a), none, now).may;
  expect([may({}, 103 * hour), may({ closes: 120 * hour }, 115 * hour)]).toEqual([false, true]);
  expect(may({ closes: 120 * hour, lastStart: 112 * hour }, 115 * hour)).toBe(false);
});

it('the one clock says all of it at once', () => {
  const soFar: AttemptsSoFar = { running: { startedAt: 101 * hour, added: 5 * minute }, used: 1, lastEnded: null };
  expect(clockFor(rules(), 'UTC', noArrangement, soFar, 101.5 * hour)).toEqual({
    start: { may: false, why: 'running', at: null },
    running: {
      deadline: 102 * hour + 5 * minute,
      handInUntil: 102 * hour + 5 * minute,
      writing: true,
      over: false,
      becomes: 'handed-in',
    },
    latest: 102 * hour + 5 * minute,
  });
});

it('arrangements merge to the more generous extra time, own dates first', () => {
  expect(
    mergeArrangements(extra({ extraPercent: 25, closes: 5 }), extra({ extraPercent: 10, extraMinutes: 7, closes: 9 })),
  ).toMatchObject({ extraPercent: 25, extraMinutes: 7, closes: 9 });
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
