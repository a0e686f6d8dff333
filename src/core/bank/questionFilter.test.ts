import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { difficulties, questionTypes } from '../question/types';
import {
  everyQuestion,
  filterFromQuery,
  filterToQuery,
  fullTextQuery,
  isNarrowed,
  questionSorts,
} from './questionFilter';

const filter = fc.record({
  text: fc.string({ maxLength: 30 }),
  categories: fc.array(fc.stringMatching(/^[a-z0-9]{1,8}$/), { maxLength: 3 }),
  types: fc.subarray([...questionTypes]),
  difficulties: fc.subarray([...difficulties, 'none' as const]),
  objectives: fc.array(fc.stringMatching(/^[a-z0-9]{1,8}$/), { maxLength: 3 }),
  tags: fc.array(fc.string({ minLength: 1, maxLength: 12, unit: 'grapheme-ascii' }), { maxLength: 3 }),
  used: fc.oneof(
    fc.constantFrom('any' as const, 'ever' as const, 'never' as const),
    fc.integer({ min: 1, max: 999 }).map((notWithinDays) => ({ notWithinDays })),
  ),
  success: fc.option(
    fc.tuple(fc.nat({ max: 50 }), fc.integer({ min: 50, max: 100 })).map(([from, to]) => ({ from, to })),
  ),
  passage: fc.boolean(),
  retired: fc.boolean(),
  below: fc.constant(true),
  sort: fc.constantFrom(...questionSorts),
  down: fc.boolean(),
});

describe('a filter in an address', () => {
  it('comes back as it was', () => {
    fc.assert(
      fc.property(filter, (any) => {
        const address = new URLSearchParams(filterToQuery(any)).toString();
        expect(filterFromQuery(Object.fromEntries(new URLSearchParams(address)))).toEqual(any);
      }),
      { seed: 1, numRuns: 300 },
    );
  });

  it('leaves out what an address cannot mean', () => {
    expect(filterFromQuery({ type: 'riddle,numeric', success: '90-10', used: 'sometimes', sort: 'taste' })).toEqual({
      ...everyQuestion,
      types: ['numeric'],
    });
    fc.assert(
      fc.property(
        fc.dictionary(fc.constantFrom('find', 'tag', 'success', 'used', 'category'), fc.string()),
        (query) => {
          expect(filterFromQuery(query)).toBeTruthy();
        },
      ),
      { seed: 2, numRuns: 300 },
    );
  });

  it('is narrowed by anything but the order', () => {
    expect(isNarrowed({ ...everyQuestion, sort: 'name', down: true })).toBe(false);
    expect(isNarrowed({ ...everyQuestion, tags: ['x'] })).toBe(true);
  });
});

describe('a search', () => {
  it.each([
    ['tide height', '"tide"* "height"*'],
    ['  "quoted" OR NOT near(', '"quoted"* "OR"* "NOT"* "near"*'],
    ['12½ 90°', '"12½"* "90"*'],
    ['*', ''],
  ])('%s', (text, query) => {
    expect(fullTextQuery(text)).toBe(query);
  });
});
