import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { doorCodeLength, doorCodeShown, doorCodeSpoken, doorSigns, newDoorCode, readDoorCode } from './doorCode';

const code = fc.array(fc.nat(doorSigns.length - 1), { minLength: doorCodeLength, maxLength: doorCodeLength });
const made = (places: number[]) => {
  const left = [...places];
  return newDoorCode(() => left.shift() ?? 0);
};

describe('a door code', () => {
  it('has no two signs that are taken for one another, and no vowel', () => {
    expect(new Set(doorSigns).size).toBe(doorSigns.length);
    for (const alike of ['0O', '1IL', '2Z', '5S', '8B', 'UV', 'MN', 'AJK', 'CDEGPT'])
      expect([...alike].filter((sign) => doorSigns.includes(sign)).length, alike).toBeLessThanOrEqual(
        // J and K are told apart by their words when they are said.
        alike === 'AJK' ? 2 : 1,
      );
    expect(doorSigns).not.toMatch(/[AEIOU]/);
  });

  it('is read as it is shown, in any case, with whatever stands between', () => {
    fc.assert(
      fc.property(code, fc.constantFrom(' ', '-', '.', '', ' – '), (places, between) => {
        const own = made(places);
        expect(readDoorCode(own.toLowerCase().split('').join(between))).toBe(own);
        expect(readDoorCode(doorCodeShown(own))).toBe(own);
      }),
    );
  });

  it.each(['', 'KRT34', 'KRT3467', 'KRT3 O6', 'krt34a', '<b>KRT346</b>', 'x'.repeat(5_000)])('%j is none', (typed) => {
    expect(readDoorCode(typed)).toBeNull();
  });

  it('is said sign by sign, each as a word', () => {
    expect(doorCodeSpoken('KRT346')).toBe('Kilo, Romeo, Tango, three, four, six');
    for (const sign of doorSigns) expect(doorCodeSpoken(sign).length).toBeGreaterThan(1);
  });

  it('comes as often as any other', () => {
    const asked: number[] = [];
    newDoorCode((count) => {
      asked.push(count);
      return 0;
    });
    expect(asked).toEqual(Array.from({ length: 6 }, () => 15));
  });
});
