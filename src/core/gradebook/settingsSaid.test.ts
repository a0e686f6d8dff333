import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { GradebookColumn, GradeGroup } from './courseTotal';
import { usualGradebookRules } from './gradebookRules';
import { type BookSettings, curveSaid, lateSaid, settingsChanged } from './settingsSaid';

const group = (id: string, more: Partial<GradeGroup> = {}): GradeGroup => ({
  id,
  title: id,
  weight: 50,
  counting: 'points',
  drop: 0,
  ...more,
});
const column = (id: string, more: Partial<GradebookColumn> = {}): GradebookColumn => ({
  id,
  title: id,
  worth: 10,
  groupId: 'Quizzes',
  ...more,
});
const settings: BookSettings = {
  rules: usualGradebookRules,
  groups: [group('Quizzes'), group('Exams')],
  columns: [column('Quiz 1'), column('Final', { groupId: 'Exams', worth: 40 })],
};

describe('what was changed in the settings of a gradebook', () => {
  it('is nothing where all is as it was', () => {
    expect(settingsChanged(settings, structuredClone(settings))).toEqual([]);
  });

  it('is said for the whole course: what is missing, decimals, total, bands', () => {
    expect(
      settingsChanged(settings, {
        ...settings,
        rules: {
          missing: 'zero',
          decimals: 0,
          showsTotal: true,
          bands: [
            { label: 'A', from: 87.5, comment: '' },
            { label: 'B', from: 0, comment: '' },
          ],
        },
      }),
    ).toEqual([
      'What was not handed in: counts as 0, before does not count yet.',
      'Points and percent: no decimals, before 1 decimal.',
      'Students see: their own total, before no total of the course.',
      'Bands: A from 87.5 %, B from 0 %, before none.',
    ]);
    const banded = (comment: string): BookSettings => ({
      ...settings,
      rules: { ...settings.rules, bands: [{ label: 'A', from: 0, comment }] },
    });
    expect(settingsChanged(banded('Good.'), banded('Very good.'))).toEqual([
      'What goes to students with their band is worded anew.',
    ]);
  });

  it('is said of groups and columns by what they were called', () => {
    expect(
      settingsChanged(settings, {
        rules: settings.rules,
        groups: [group('Quizzes', { title: 'Short tests', weight: 30, drop: 1 }), group('Labs', { weight: 20 })],
        columns: [
          column('Final', { groupId: '', worth: 40, late: { perDay: 0.1, floor: 0.5 } }),
          column('Quiz 1', { curve: { kind: 'add', points: 1 }, extraCredit: true }),
          column('Logbook', { worth: 5 }),
        ],
      }),
    ).toEqual([
      'Group “Quizzes”, weight: 30, before 50.',
      'Group “Quizzes”, dropping: the weakest, before nothing.',
      'Group “Quizzes”, title: Short tests, before Quizzes.',
      'Group “Labs” added: weight 20.',
      'Group “Exams” taken out.',
      'Column “Final”, group: none, before Exams.',
      'Column “Final”, late deduction: 10 % off for each day late, down to 50 %, before nothing off for being late.',
      'Column “Quiz 1”, extra credit: yes, before no.',
      'Column “Quiz 1”, curve: 1 point added, before no curve.',
      'Column “Logbook” added: worth 5 points.',
      'Columns stand in another order.',
    ]);
  });

  it('is said exactly where something is otherwise', () => {
    const columns = fc.uniqueArray(
      fc.record({
        id: fc.constantFrom('a', 'b', 'c', 'd'),
        title: fc.constantFrom('x', 'y'),
        worth: fc.integer({ min: 0, max: 3 }),
        groupId: fc.constantFrom('Quizzes', 'Exams'),
        extraCredit: fc.boolean(),
      }),
      { selector: (one) => one.id, maxLength: 4 },
    );
    fc.assert(
      fc.property(columns, columns, (before, after) => {
        const said = settingsChanged({ ...settings, columns: before }, { ...settings, columns: after });
        expect(said.length === 0).toBe(JSON.stringify(before) === JSON.stringify(after));
      }),
    );
  });

  it('names a curve and a deduction', () => {
    expect([curveSaid(null), curveSaid({ kind: 'to-maximum' }), curveSaid({ kind: 'add', points: 2.5 })]).toEqual([
      'no curve',
      'the best score made full',
      '2.5 points added',
    ]);
    expect(lateSaid(null)).toBe('nothing off for being late');
  });
});
