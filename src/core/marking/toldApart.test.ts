import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { toldApart } from './toldApart';

describe('texts in a list', () => {
  it('are told by what differs, where they begin alike', () => {
    expect(
      toldApart([
        'Before leaving I report to the harbour office',
        'Before leaving I report to the coast guard',
        'First of all keep calm',
        'Before leaving I report to the coast guard by radio',
      ]),
    ).toEqual([
      'Before leaving I … the harbour office',
      'Before leaving I … coast guard',
      'First of all keep calm',
      'Before leaving I … guard by radio',
    ]);
  });

  it('stay as they are where a few words tell them apart, and where they are the same', () => {
    expect(toldApart(['go left', 'go right', ''])).toEqual(['go left', 'go right', '']);
    expect(toldApart(['one two three four five', 'one two three four five'])).toEqual([
      'one two three four five',
      'one two three four five',
    ]);
    expect(toldApart([])).toEqual([]);
  });

  it('keep their beginning and their end', () => {
    const texts = fc.array(fc.array(fc.constantFrom('a', 'b', 'c'), { minLength: 1, maxLength: 8 }), { maxLength: 8 });
    fc.assert(
      fc.property(texts, (lists) => {
        const all = [...new Set(lists.map((words) => words.join(' ')))];
        const told = toldApart(all);
        expect(told.every((one, i) => all[i]?.endsWith(one.split('… ').at(-1) ?? ''))).toBe(true);
      }),
    );
  });
});
