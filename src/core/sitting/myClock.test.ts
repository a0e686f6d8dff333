import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { instantFromLocal, readLocal } from '../base/localTime';
import { clockText, hour, minute, momentText, nearText, whichOfTwo } from '../base/time';
import { attemptDeadline } from './clock';
import { myClock, type OwnTimes, ownTimes } from './myClock';
import { noArrangement, noFurtherRules, type SittingRules } from './rules';

const zone = 'Europe/Oslo';
const at = (text: string) => instantFromLocal(text, zone) as number;
const now = at('2026-03-03T11:00');
const times = (more: Partial<OwnTimes> = {}): OwnTimes => ({
  opens: at('2026-03-03T10:00'),
  lastStart: at('2026-03-03T12:00'),
  due: at('2026-03-03T13:00'),
  closes: at('2026-03-03T14:00'),
  limit: 40 * minute,
  extraTime: false,
  fullTime: false,
  grace: null,
  ...more,
});

describe('the sentence of one student’s times', () => {
  it('says the window, and what a start now would bring', () => {
    expect(myClock(times(), { kind: 'may-start' }, zone, now)).toEqual({
      window: 'Start by 12:00; late after 13:00; ends 14:00.',
      now: 'If you start now you have 40 min, until 11:40.',
      changesAt: at('2026-03-03T12:00'),
    });
    const late = at('2026-03-03T13:33');
    const open = times({ lastStart: null, extraTime: true });
    expect(myClock(open, { kind: 'may-start' }, zone, late)).toMatchObject({
      window: 'Late since 13:00; ends 14:00.',
      now: 'If you start now you have 27 min of the full 40 min, until 14:00.',
    });
    expect(myClock({ ...open, fullTime: true }, { kind: 'may-start' }, zone, late).now).toBe(
      'If you start now you have 40 min, extra time included, until 14:13.',
    );
  });

  it('before it opens, while it runs, with a grace, and afterwards', () => {
    const early = at('2026-03-02T18:00');
    expect(myClock(times(), { kind: 'not-yet', at: at('2026-03-03T10:00') }, zone, early)).toEqual({
      window:
        'Opens Tue 3 Mar 2026, 10:00; start by Tue 3 Mar 2026, 12:00; late after Tue 3 Mar 2026, 13:00; ends Tue 3 Mar 2026, 14:00.',
      now: 'You have 40 min from the start.',
      changesAt: at('2026-03-03T10:00'),
    });
    const running = { kind: 'running', deadline: now + 12.5 * minute, handInUntil: now + 14.5 * minute } as const;
    expect(myClock(times({ grace: 2 * minute }), running, zone, now)).toEqual({
      window: 'Late after 13:00.',
      now: 'You have until 11:12: 12 min left. Then 2 min to hand in, without which it does not count.',
      changesAt: now + 12.5 * minute,
    });
    expect(myClock(times(), { kind: 'over' }, zone, at('2026-03-03T15:00'))).toEqual({
      window: 'Could be started until 12:00; late since 13:00; ended 14:00.',
      now: '',
      changesAt: null,
    });
    const nothing = times({ opens: null, lastStart: null, due: null, closes: null, limit: null });
    expect(myClock(nothing, { kind: 'may-start' }, zone, now)).toEqual({
      window: 'It is open, and stays open.',
      now: 'There is no time limit.',
      changesAt: null,
    });
  });

  it('for a message names days and counts nothing down; for staff speaks of the student', () => {
    expect(myClock(times({ extraTime: true }), { kind: 'not-yet', at: null }, zone, null)).toMatchObject({
      window: expect.stringMatching(/^Opens Tue 3 Mar 2026, 10:00; start by /),
      now: 'You have 40 min from the start, extra time included.',
    });
    expect(myClock(times(), { kind: 'may-start' }, zone, now, 'staff').now).toBe(
      'If they start now they have 40 min, until 11:40.',
    );
  });

  it('promises exactly what the clock of an attempt will give, whatever is arranged', () => {
    const anyMoment = fc.option(fc.integer({ min: 1, max: 300 }), { nil: null });
    fc.assert(
      fc.property(
        anyMoment,
        anyMoment,
        fc.boolean(),
        fc.nat(200),
        fc.nat(60),
        fc.nat(250),
        (closes, limit, full, percent, more, start) => {
          const rules: SittingRules = {
            ...noFurtherRules,
            opens: 0,
            lastStart: null,
            due: null,
            closes: closes === null ? null : closes * minute,
            timeLimit: limit === null ? null : limit * minute,
            fullTimeOnceStarted: full,
            attemptsAllowed: 1,
            attemptCounts: 'best',
          };
          const arranged = { ...noArrangement, extraPercent: percent, extraMinutes: more };
          const own = ownTimes(rules, arranged);
          const begun = start * minute;
          if (own.closes !== null && begun >= own.closes) return;
          const end = attemptDeadline(rules, arranged, begun, 0);
          const said = myClock(own, { kind: 'may-start' }, 'UTC', begun).now;
          if (end === null) expect(said).toBe('There is no time limit.');
          else expect(said).toContain(`, until ${nearText(end, 'UTC', begun)}.`);
        },
      ),
    );
  });
});

describe('the night on which the clocks change', () => {
  it('the hour that comes twice is marked, the first time and the second', () => {
    const first = Date.UTC(2026, 9, 25, 0, 30);
    expect([first, first + hour].map((moment) => clockText(moment, zone))).toEqual([
      '02:30 (before the clocks go back)',
      '02:30 (after the clocks have gone back)',
    ]);
    expect([first - hour, first + 2 * hour].map((moment) => clockText(moment, zone))).toEqual(['01:30', '03:30']);
    expect(momentText(first, zone)).toBe('Sun 25 Oct 2026, 02:30 (before the clocks go back)');
    expect(whichOfTwo(first, 'UTC')).toBeNull();
    // A change of half an hour.
    const lord = Date.UTC(2026, 3, 4, 14, 45);
    expect([whichOfTwo(lord, 'Australia/Lord_Howe'), whichOfTwo(lord + 30 * minute, 'Australia/Lord_Howe')]).toEqual([
      'first',
      'second',
    ]);
  });

  it('a time that the clocks skip is no time', () => {
    expect(readLocal('2026-03-29T02:30', zone)).toEqual({
      ok: false,
      why: 'On this day the clocks go forward: there is no 02:30. The time after the change is 03:30.',
    });
    expect(readLocal('2026-03-29T03:30', zone)).toEqual({ ok: true, at: Date.UTC(2026, 2, 29, 1, 30) });
    expect(readLocal('29.3.2026', zone)).toEqual({ ok: false, why: 'This is not a date and time.' });
  });

  it('of all moments of ten years exactly those are marked that share their name with another', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: Date.UTC(2020, 0, 1) / minute, max: Date.UTC(2030, 0, 1) / minute }),
        fc.constantFrom('Europe/Oslo', 'America/New_York', 'Asia/Kolkata', 'Australia/Lord_Howe', 'UTC'),
        (minutes, where) => {
          const moment = minutes * minute;
          const local = (one: number) =>
            new Intl.DateTimeFormat('sv', { timeZone: where, dateStyle: 'short', timeStyle: 'short' }).format(one);
          const twins = [-60, -30, 30, 60].filter((apart) => local(moment + apart * minute) === local(moment));
          const which = whichOfTwo(moment, where);
          expect(which).toBe(twins.length === 0 ? null : (twins[0] as number) > 0 ? 'first' : 'second');
        },
      ),
      { numRuns: 300, examples: [[Date.UTC(2026, 9, 25, 0, 30) / minute, 'Europe/Oslo']] },
    );
  });
});
