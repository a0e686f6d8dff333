import { describe, expect, it } from 'vitest';
import { personCellText, readPersonCell, sharedNumbers } from './personCells';

describe('a cell of a person', () => {
  it.each([
    ['25', '25'],
    [' +25 % ', '25'],
    ['025%', '25'],
    ['0', ''],
    ['', ''],
    ['300', '300'],
  ])('takes %j for extra time of %j percent', (typed, text) => {
    expect(readPersonCell('extraPercent', typed)).toEqual({ kind: 'text', text });
  });

  it('refuses what is no extra time, and texts that are too long', () => {
    for (const [typed, message] of [
      ['-5', 'Extra time cannot be negative.'],
      ['−5 %', 'Extra time cannot be negative.'],
      ['301', 'At most 300 %.'],
      ['12,5', '“12,5” is no whole number of percent, like 25.'],
      ['a quarter', '“a quarter” is no whole number of percent, like 25.'],
    ] as const)
      expect(readPersonCell('extraPercent', typed)).toEqual({ kind: 'wrong', message });
    expect(readPersonCell('section', 'x'.repeat(81))).toMatchObject({ kind: 'wrong' });
    expect(readPersonCell('section', ` ${'x'.repeat(80)} `)).toEqual({ kind: 'text', text: 'x'.repeat(80) });
    expect(readPersonCell('studentNumber', '1'.repeat(41))).toMatchObject({ kind: 'wrong' });
  });

  it('shows what is kept so that it is read the same again', () => {
    const person = { section: 'Evening', studentNumber: null, extraPercent: 25 };
    expect((['section', 'studentNumber', 'extraPercent'] as const).map((cell) => personCellText(cell, person))).toEqual(
      ['Evening', '', '25'],
    );
    expect(personCellText('extraPercent', { ...person, extraPercent: 0 })).toBe('');
  });

  it('names the other one who has a number', () => {
    const row = (name: string, studentNumber: string | null) => ({ membershipId: name, name, studentNumber });
    expect([
      ...sharedNumbers([row('Ada', '1'), row('Ben', '2'), row('Cy', '1'), row('Dee', null), row('Ede', null)]),
    ]).toEqual([
      ['Ada', 'Cy'],
      ['Cy', 'Ada'],
    ]);
  });
});
