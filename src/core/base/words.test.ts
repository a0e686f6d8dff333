import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { day, durationText, hour, minute, second } from './time';
import { counted, listed, oneOrMany, pointsSaid, shortened } from './words';

describe('counts in words', () => {
  it('take the one word for one, and the other for none and for many', () => {
    expect([0, 1, 2].map((n) => counted(n, 'question'))).toEqual(['0 questions', '1 question', '2 questions']);
    expect([1, 2].map((n) => counted(n, 'category', 'categories'))).toEqual(['1 category', '2 categories']);
    expect([1, 3].map((n) => oneOrMany(n, 'is', 'are'))).toEqual(['is', 'are']);
    expect([0.5, 1, 2.5].map(pointsSaid)).toEqual(['0.5 points', '1 point', '2.5 points']);
  });
});

describe('names one after the other', () => {
  it('are all said, or the first of very many and how many more there are', () => {
    expect(listed([])).toBe('');
    expect(listed(['A', 'B'], 2)).toBe('A, B');
    expect(listed(['A', 'B', 'C', 'D'], 2, ' · ')).toBe('A · B and 2 more');
  });
});

describe('a length of time in words', () => {
  it('has its minutes below two days, and days and hours from then on', () => {
    expect(durationText(90 * minute)).toBe('1 h 30 min');
    expect([hour, 45 * minute, 0].map(durationText)).toEqual(['1 h', '45 min', '0 min']);
    expect(durationText(40 * second)).toBe('40 s');
    expect(durationText(2 * day - minute)).toBe('47 h 59 min');
    expect(durationText(2 * day)).toBe('2 days');
    expect(durationText(7 * day + 5 * hour + 59 * minute)).toBe('7 days 5 h');
  });
});

describe('a shortened text', () => {
  it('ends with a whole word', () => {
    expect(shortened('Turn to starboard', 17)).toBe('Turn to starboard');
    expect(shortened('Turn to starboard', 16)).toBe('Turn to…');
    expect(shortened('Turn to starboard at once', 18)).toBe('Turn to starboard…');
    expect(shortened('Donaudampfschifffahrt', 8)).toBe('Donauda…');
    expect(shortened('One line\nand another', 12)).toBe('One line…');
    expect(shortened('12345🚢🚢🚢', 7)).toBe('12345…');
  });

  it('is never longer than it may be, and a beginning of what it shortens', () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 40 }), fc.integer({ min: 2, max: 30 }), (text, most) => {
        const short = shortened(text, most);
        expect(short.length).toBeLessThanOrEqual(most);
        if (short !== text) expect(text.startsWith(short.slice(0, -1))).toBe(true);
      }),
    );
  });
});
