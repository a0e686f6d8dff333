import { describe, expect, it } from 'vitest';
import { instantFromLocal } from '../base/localTime';
import { day, hour, minute } from '../base/time';
import { type EarlyFact, leaks, type Writing } from '../release/leakCheck';
import { scoreOnPublishing } from '../release/visibleTo';
import { leakSaid, type PreflightFacts, preflight, unacknowledged } from './preflight';
import { type FurtherRules, noFurtherRules, type SittingRules } from './rules';
import { furtherSaid, rulesSaid } from './rulesSaid';

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
const found = (change: Partial<SittingRules> = {}, more: Partial<PreflightFacts> = {}, now = 0) =>
  preflight(
    {
      rules: rules(change),
      zone: 'UTC',
      students: 20,
      planProblems: [],
      byHand: { least: 0, most: 0 },
      markers: 0,
      scored: true,
      releasePlan: scoreOnPublishing,
      leaks: [],
      neverStart: [],
      expectedMinutes: null,
      heldElsewhere: [],
      scheduled: false,
      ...more,
    },
    now,
  );
const keys = (...args: Parameters<typeof found>) => found(...args).map((one) => `${one.kind} ${one.key}`);

describe('the preflight', () => {
  it('has nothing to say where nothing is wrong', () => {
    expect(found()).toEqual([]);
  });

  it('names who could never start, a paper that takes much longer than there is time, and what is held back elsewhere', () => {
    expect(keys({}, { neverStart: ['Ada'] })).toEqual(['error never-starts:Ada']);
    expect([74, 75, 76].map((expectedMinutes) => keys({}, { expectedMinutes }))).toEqual([
      [],
      [],
      ['warning expected-above-limit'],
    ]);
    expect(keys({ timeLimit: null }, { expectedMinutes: 500 })).toEqual([]);
    const held = { sittingId: 's', title: 'Quiz', facts: ['right-answers' as const], until: 48 * hour };
    expect(found({}, { heldElsewhere: [held] }).map((one) => one.message)).toEqual([
      'Students of “Quiz” no longer see the right answers as they were promised: it is held back until Sat 3 Jan 1970, 00:00, because the same questions may be written here until then.',
    ]);
  });

  it('is held by moments in a wrong order, each at its field', () => {
    expect(keys({ closes: 100 * hour })).toEqual(['error closes-first']);
    expect(keys({}, {}, 200 * hour)).toEqual(['error closes-past']);
    expect(found({ due: 111 * hour, lastStart: 111 * hour }).map((one) => one.field)).toEqual(['lastStart', 'due']);
    expect(keys({ lastStart: 100 * hour, due: 99 * hour })).toEqual(['error last-start-first', 'error due-first']);
  });

  it('is held by a time limit that does not fit, and warns where it does not fit after the last start', () => {
    expect(keys({ timeLimit: 11 * hour })).toEqual(['error limit-window']);
    expect(keys({ timeLimit: 11 * hour, fullTimeOnceStarted: true })).toEqual([]);
    expect(keys({ lastStart: 109.5 * hour })).toEqual(['warning limit-after-last-start']);
    expect(keys({ lastStart: 109 * hour })).toEqual([]);
    // Open from now on: what is left of the window counts.
    expect(keys({ opens: null, timeLimit: 2 * hour }, {}, 109 * hour)).toEqual(['error limit-window']);
    // An opening that lies in the past opens nothing any more: scheduled now, what is left of the window counts.
    expect(keys({ timeLimit: 2 * hour }, {}, 109 * hour)).toEqual(['error limit-window']);
    expect(keys({ timeLimit: 2 * hour }, {}, 108 * hour)).toEqual([]);
    // Once it is given, its window is the one it was given with.
    expect(keys({ timeLimit: 2 * hour }, { scheduled: true }, 109 * hour)).toEqual([]);
    expect(keys({ timeLimit: 11 * hour }, { scheduled: true }, 109 * hour)).toEqual(['error limit-window']);
  });

  it('is held where every day is shut', () => {
    const at = (text: string) => instantFromLocal(text, 'UTC') as number;
    const window = { opens: at('2026-12-24T09:00'), closes: at('2026-12-25T12:00') };
    expect(keys({ ...window, shutDays: ['2026-12-24'] })).toEqual([]);
    expect(keys({ ...window, shutDays: ['2026-12-24', '2026-12-25'] })).toEqual(['error always-shut']);
  });

  it('is held without anyone, by plan problems, by a network that is none, and by rules that exclude each other', () => {
    expect(keys({}, { students: 0 })).toEqual(['error nobody']);
    expect(keys({}, { students: null })).toEqual(['error link-limits-attempts']);
    expect(keys({ attemptsAllowed: null }, { students: null })).toEqual([]);
    expect(keys({}, { planProblems: ['A pool is too small.'] })).toEqual(['error exam:A pool is too small.']);
    expect(keys({ networks: ['10.0.0.0/8', 'the lab'] })).toEqual(['error network-1']);
    expect(keys({ minutesPerQuestion: 2 })).toEqual(['error question-time-anywhere']);
    expect(keys({ missedAgain: { most: 1, credit: 0.5 } })).toEqual(['error again-unseen']);
    expect(keys({ missedAgain: { most: 1, credit: 0.5 }, learning: 'as-they-go', onwardOnly: true })).toEqual([
      'error again-onward',
    ]);
  });

  it('warns of a sitting that never closes, of a score nobody sees, and of answers nobody marks', () => {
    expect(keys({ closes: null })).toEqual(['warning never-closes']);
    expect(keys({}, { releasePlan: {} })).toEqual(['warning score-never-shown']);
    expect(keys({}, { releasePlan: {}, scored: false })).toEqual([]);
    expect(keys({}, { byHand: { least: 0, most: 2 } })).toEqual(['warning nobody-marks']);
    expect(keys({}, { byHand: { least: 2, most: 2 }, markers: 1 })).toEqual([]);
  });

  it('is through once every warning has been taken on by somebody, each by itself', () => {
    const all = found({ closes: null }, { byHand: { least: 1, most: 1 } });
    const taken = { key: 'never-closes', by: 't', name: 'Tove', at: 0 };
    expect(unacknowledged(all, []).map((one) => one.key)).toEqual(['never-closes', 'nobody-marks']);
    expect(unacknowledged(all, [taken]).map((one) => one.key)).toEqual(['nobody-marks']);
    expect(unacknowledged(found({ closes: 90 * hour }), [])).toEqual([]);
  });
});

describe('the leak check', () => {
  const early: EarlyFact[] = [{ fact: 'right-or-wrong', from: 100 * hour }];
  const writing = (change: Partial<Writing> = {}): Writing => ({
    sittingId: 'other',
    title: 'Make-up',
    shared: 3,
    latest: 120 * hour,
    names: [],
    ...change,
  });
  const self = (change: Partial<Writing> = {}) =>
    writing({ sittingId: 'own', title: 'Quiz', shared: 10, latest: 110 * hour, ...change });
  const named = (meant: boolean, writings: Writing[], facts = early) =>
    leaks({ sittingId: 'own', meant }, facts, writings).map((one) => one.sittingId);

  it('finds whoever may still be writing the same questions, in whatever sitting', () => {
    expect(named(false, [self(), writing()])).toEqual(['own', 'other']);
    expect(named(false, [writing({ shared: 0 }), writing({ latest: 100 * hour })])).toEqual([]);
    expect(named(false, [writing({ latest: Number.POSITIVE_INFINITY })])).toEqual(['other']);
    expect(named(false, [self(), writing()], [])).toEqual([]);
  });

  it('is silent about a practice sitting towards itself, never towards others', () => {
    expect(named(true, [self(), writing()])).toEqual(['other']);
  });

  it('says it in words, and another one where it grows', () => {
    const [own] = leaks({ sittingId: 'own', meant: false }, early, [self({ names: ['Ada'] })]);
    expect(own && leakSaid(own, 'UTC')).toBe(
      'Students see what is right and wrong from Mon 5 Jan 1970, 04:00, while others in this sitting may still be writing until Mon 5 Jan 1970, 14:00 (Ada). Otherwise it is held back until then.',
    );
    const [other] = leaks(
      { sittingId: 'own', meant: true },
      [{ fact: 'right-or-wrong', from: Number.NEGATIVE_INFINITY }],
      [writing({ latest: Number.POSITIVE_INFINITY })],
    );
    expect(other && leakSaid(other, 'UTC')).toBe(
      'Students see what is right and wrong, while 3 of these questions can stand on papers of “Make-up”, where students may be writing without end. Otherwise it is held back until then.',
    );
    const key = (latest: number) =>
      found({}, { leaks: leaks({ sittingId: 'own', meant: false }, early, [writing({ latest })]) })[0]?.key;
    expect(key(120 * hour)).not.toBe(key(121 * hour));
  });
});

describe('the rules in words', () => {
  const every: FurtherRules = {
    expiry: { kind: 'grace', minutes: 2 },
    between: { kind: 'wait', minutes: [60, 24 * 60] },
    nextPaper: 'same',
    onwardOnly: true,
    minutesPerQuestion: 1.5,
    learning: 'as-they-go',
    tries: { most: 3, cost: 0.25 },
    missedAgain: { most: 2, credit: 0.5 },
    entryCode: 'gull',
    networks: ['10.0.0.0/8'],
    shutDays: ['2026-12-25'],
  };
  const all = rules({ attemptsAllowed: 3, ...every });

  it('say one sentence for each that is set', () => {
    expect(furtherSaid(rules())).toEqual(['When the time is over, what was entered is handed in by itself.']);
    expect(furtherSaid(rules({ timeLimit: null, closes: null }))).toEqual([]);
    expect(furtherSaid(all)).toEqual([
      'When the time is over, nothing more can be entered; it counts only if it is handed in within 2 min.',
      'A wait of 1 h before attempt 2, 24 h before attempt 3 and later ones.',
      'A further attempt goes on with the same paper and the answers given so far.',
      'Students cannot go back to a question they have left; there are 1 min 30 s for each question.',
      'Each question can be checked as students go, and tried 3 times, each further try costing 25 % of the credit.',
      'Up to 2 missed questions come again at the end, for 50 % of the credit.',
      'An entry code has to be typed to start.',
      'It can be taken only from 10.0.0.0/8.',
      'It cannot be started on Fri 25 Dec 2026.',
    ]);
    expect(furtherSaid(all, 'student')).toContain(
      'You cannot go back to a question you have left; there are 1 min 30 s for each question.',
    );
    expect(rulesSaid(all, 'UTC').join(' ')).not.toContain('gull');
  });

  it('leave none out that is set', () => {
    for (const rule of Object.keys(every) as (keyof FurtherRules)[])
      expect(furtherSaid({ ...all, [rule]: noFurtherRules[rule] }), rule).not.toEqual(furtherSaid(all));
  });

  it('leave out what lies between attempts where there is one', () => {
    const one = rules({
      between: { kind: 'let-through' },
      nextPaper: 'same',
      timeLimit: 30 * minute,
      closes: 100 * hour + day,
    });
    expect(furtherSaid(one)).toHaveLength(1);
    expect(furtherSaid({ ...one, attemptsAllowed: null })).toContain(
      'Each further attempt when the instructor lets it through.',
    );
  });
});
