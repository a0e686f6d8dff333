import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { day, hour } from '../base/time';
import { type OnLine, sameDays, termLine } from './termLine';

/** Wed 4 March 2026, 12:00. */
const now = Date.UTC(2026, 2, 4, 12);
const on = (title: string, from: number | null, until: number | null, more: Partial<OnLine> = {}): OnLine => ({
  id: title,
  title,
  opens: from === null ? null : now + from,
  due: null,
  closes: until === null ? null : now + until,
  results: null,
  ...more,
});
const term = {
  firstDay: '2026-02-04',
  freeDays: [
    { from: '2026-02-23', to: '2026-03-01', name: 'Winter week' },
    { from: '2026-03-20', to: '2026-03-20', name: '' },
  ],
};

describe('a term on one line', () => {
  it('begins with its first week and numbers the weeks of teaching', () => {
    const line = termLine(term, [], 'UTC', now);
    expect(line?.weeks.map((one) => [one.monday, one.week])).toEqual([
      ['2026-02-02', 1],
      ['2026-02-09', 2],
      ['2026-02-16', 3],
      ['2026-02-23', null],
      ['2026-03-02', 4],
      ['2026-03-09', 5],
      ['2026-03-16', 6],
    ]);
    // 30.5 of 49 days.
    expect(line?.now).toBeCloseTo((30.5 / 49) * 100, 9);
    expect(line?.free.map((one) => [Math.round(one.from * 0.49), Math.round(one.until * 0.49), one.name])).toEqual([
      [21, 28, 'Winter week'],
      [46, 47, ''],
    ]);
  });

  it('reaches to the last sitting and its results, and says where each lies', () => {
    const quiz = on('Quiz', -6 * day, -5 * day, { due: now - 5.5 * day, results: now + 20 * day });
    const line = termLine(term, [quiz, on('Open for ever', -20 * day, null)], 'UTC', now);
    expect(line?.weeks.at(-1)?.monday).toBe('2026-03-23');
    const bar = line?.bars.find((one) => one.title === 'Quiz');
    const places = [bar?.from, bar?.dueAt, bar?.until, bar?.resultsAt].map((at) => ((at ?? 0) / 100) * 56);
    expect(places.map((at) => Math.round(at * 10) / 10)).toEqual([24.5, 25, 25.5, 50.5]);
    expect(line?.bars.find((one) => one.title === 'Open for ever')?.until).toBe(100);
  });

  it('is nothing where neither a term nor a date is set, and has weeks without numbers where only a date is', () => {
    expect(termLine(null, [on('Draft', null, null)], 'UTC', now)).toBeNull();
    expect(termLine(null, [on('Quiz', day, 2 * day)], 'UTC', now)?.weeks.every((one) => one.week === null)).toBe(true);
  });

  it('follows the clock of the zone over its change', () => {
    const line = termLine(term, [on('Quiz', 33 * day, 33 * day + hour)], 'Europe/Oslo', now);
    expect(line?.weeks.map((one) => one.monday)).toContain('2026-03-30');
    // The week of the change has one hour less.
    const [a, b, c] = (line?.weeks ?? []).slice(-3).map((one) => one.at);
    expect(((b ?? 0) - (a ?? 0)) / ((c ?? 0) - (b ?? 0))).not.toBe(1);
  });

  it('puts no two sittings and no title over another, whatever stands on it', () => {
    const one = fc.record({
      from: fc.integer({ min: -60, max: 60 }),
      long: fc.integer({ min: 0, max: 30 }),
      title: fc.string({ minLength: 1, maxLength: 30 }),
      results: fc.option(fc.integer({ min: -60, max: 90 })),
    });
    fc.assert(
      fc.property(fc.array(one, { maxLength: 25 }), (some) => {
        const all = some.map(({ from, long, title, results }, i) => ({
          ...on(title, from * day, (from + long) * day + hour),
          id: String(i),
          results: results === null ? null : now + results * day,
        }));
        const line = termLine(term, all, 'UTC', now);
        const bars = line?.bars ?? [];
        expect(bars).toHaveLength(all.length);
        for (const bar of bars) {
          expect(bar.from).toBeLessThanOrEqual(bar.until);
          for (const place of [bar.from, bar.until, bar.resultsAt ?? 0]) {
            expect(place).toBeGreaterThanOrEqual(0);
            expect(place).toBeLessThanOrEqual(100);
          }
          const others = bars.filter((two) => two.id !== bar.id && two.row === bar.row);
          for (const two of others) expect(bar.until <= two.from || two.until <= bar.from).toBe(true);
        }
        expect(line?.rows).toBe(bars.length ? Math.max(...bars.map((bar) => bar.row)) + 1 : 0);
      }),
    );
  });
});

describe('two exams on one day', () => {
  it('are said, of what is written within a day and is not over', () => {
    const at = (text: string, hours: number) => ({
      opens: Date.parse(`${text}Z`),
      closes: Date.parse(`${text}Z`) + hours * hour,
    });
    const some = [
      { ...on('Theory', 0, 0), ...at('2026-03-11T09:00', 2) },
      { ...on('Weather', 0, 0), ...at('2026-03-11T14:00', 3) },
      { ...on('Week-long', 0, 0), ...at('2026-03-11T08:00', 100) },
      { ...on('Alone', 0, 0), ...at('2026-03-12T08:00', 2) },
      { ...on('Past', 0, 0), ...at('2026-03-03T08:00', 2) },
      { ...on('Past too', 0, 0), ...at('2026-03-03T12:00', 2) },
      { ...on('Until midnight', 0, 0), ...at('2026-03-12T20:00', 4) },
    ];
    expect(sameDays(some, 'UTC', now)).toEqual([
      { day: 'Wed 11 Mar', titles: ['Theory', 'Weather'] },
      { day: 'Thu 12 Mar', titles: ['Alone', 'Until midnight'] },
    ]);
    expect(sameDays([], 'UTC', now)).toEqual([]);
  });
});
