import { describe, expect, it } from 'vitest';
import { day, hour } from '../base/time';
import { noArrangement, noFurtherRules, type SittingRules } from '../sitting/rules';
import { type SittingCellFacts, sittingCell } from './sittingCell';

const rules: SittingRules = {
  ...noFurtherRules,
  opens: 0,
  lastStart: null,
  due: 5 * day,
  closes: 10 * day,
  timeLimit: hour,
  fullTimeOnceStarted: false,
  attemptsAllowed: 2,
  attemptCounts: 'best',
};
const attempt = (id: string, state: string, endedAt: number | null) => ({ id, state, startedAt: 0, endedAt, added: 0 });
const published = { preliminary: false, attemptIds: ['a'], earned: 6, possible: 10, waiting: 0 };
const cell = (change: Partial<SittingCellFacts> = {}, now = day) =>
  sittingCell(
    {
      rules,
      arrangement: noArrangement,
      completion: null,
      scheduled: true,
      taking: false,
      given: true,
      joined: 0,
      attempts: [],
      published: null,
      ...change,
    },
    now,
  );

describe('the cell of a sitting', () => {
  it('holds what was published, as late as the latest attempt it rests on', () => {
    const attempts = [attempt('a', 'handed-in', 6 * day + 1), attempt('b', 'handed-in', 9 * day)];
    expect(cell({ published, attempts })).toEqual({
      cell: { kind: 'score', earned: 6, possible: 10, daysLate: 2 },
      sign: 'published',
      done: null,
    });
    expect(cell({ published: { ...published, attemptIds: ['a', 'b'] }, attempts }).cell).toMatchObject({ daysLate: 4 });
    expect(cell({ published, attempts: [attempt('a', 'handed-in', 5 * day)] }).cell).toMatchObject({ daysLate: 0 });
  });

  it('counts in full where it counts for taking part', () => {
    expect(cell({ published, taking: true }).cell).toMatchObject({ earned: 10, possible: 10 });
  });

  it('rests on publications only: what is preliminary, or waits, is empty', () => {
    expect(cell({ published: { ...published, preliminary: true } })).toMatchObject({
      cell: { kind: 'empty' },
      sign: 'preliminary',
    });
    expect(cell({ attempts: [attempt('a', 'handed-in', 1)] })).toMatchObject({ sign: 'not-published' });
  });

  it('is excused before it is anything but published', () => {
    const arrangement = { ...noArrangement, excused: true };
    expect(cell({ arrangement, attempts: [attempt('a', 'handed-in', 1)] })).toMatchObject({
      cell: { kind: 'excused' },
    });
    expect(cell({ arrangement, published })).toMatchObject({ sign: 'published' });
  });

  it('is not missed by who came when it was over, unless it is given to them anew', () => {
    const late = { joined: 10 * day };
    expect(cell(late, 11 * day)).toEqual({ cell: { kind: 'empty' }, sign: 'before-joining', done: null });
    // Who came a moment before the end could have taken it.
    expect(cell({ joined: 10 * day - 1 }, 11 * day).sign).toBe('missing');
    const madeUp = { ...noArrangement, closes: 12 * day };
    expect(cell({ ...late, arrangement: madeUp }, 11 * day).sign).toBe('none');
    expect(cell({ ...late, arrangement: madeUp }, 12 * day).sign).toBe('missing');
    expect(cell({ ...late, published }, 11 * day).sign).toBe('published');
  });

  it('is missing once it is over for this student, with what is arranged for them, and nothing runs', () => {
    expect(cell({}, 10 * day - 1)).toMatchObject({ cell: { kind: 'empty' }, sign: 'none' });
    expect(cell({}, 10 * day)).toMatchObject({ cell: { kind: 'missing' }, sign: 'missing' });
    const later = { ...noArrangement, closes: 12 * day };
    expect(cell({ arrangement: later }, 11 * day)).toMatchObject({ sign: 'none' });
    expect(cell({ attempts: [attempt('a', 'running', null)] }, 10 * day)).toMatchObject({ sign: 'none' });
    expect(cell({ attempts: [attempt('a', 'not-handed-in', 9 * day)] }, 10 * day)).toMatchObject({ sign: 'missing' });
  });

  it('is missed by nobody to whom it was not given, and by nobody while it is called off', () => {
    expect(cell({ given: false }, 11 * day)).toMatchObject({ sign: 'none', done: null });
    expect(cell({ scheduled: false }, 11 * day)).toMatchObject({ sign: 'none' });
  });
});
