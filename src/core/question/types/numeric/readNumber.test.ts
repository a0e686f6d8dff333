import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { countWords } from '../written/student';
import { readNumber } from './readNumber';
import { readQuantity } from './readQuantity';
import { accepts } from './score';

describe('reading a number', () => {
  it.each([
    ['12', 12],
    [' -3 ', -3],
    ['\u22123', -3],
    ['+4', 4],
    ['1.5', 1.5],
    ['1,5', 1.5],
    ['.5', 0.5],
    [',25', 0.25],
    ['3/4', 0.75],
    ['-3 / 4', -0.75],
    ['1 3/4', 1.75],
    ['-1 1/2', -1.5],
    ['1½', 1.5],
    ['¾', 0.75],
    ['１２', 12],
    ['1.2e3', 1200],
    ['1,2E-3', 0.0012],
    ['2×10^3', 2000],
    ['2 x 10^-2', 0.02],
    ['1,234', 1.234],
  ])('%s', (text, value) => {
    const read = readNumber(text);
    expect(read.ok ? read.value : null).toBe(value);
  });

  it.each([
    ['1.234,5', 'ambiguous'],
    ['1,234,567', 'ambiguous'],
    ['12 345', 'ambiguous'],
    ['', 'empty'],
    ['three', 'not-a-number'],
    ['1/0', 'not-a-number'],
    ['1e999', 'not-a-number'],
    ['5 kn', 'not-a-number'],
    ['--5', 'not-a-number'],
    ['10²', 'not-a-number'],
    ['2×10³', 'not-a-number'],
    ['Infinity', 'not-a-number'],
  ])('%s is not guessed', (text, why) => {
    expect(readNumber(text)).toMatchObject({ ok: false, why });
  });

  it('reads back whatever it says it has read', () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 12 }), (text) => {
        const read = readNumber(text);
        if (read.ok) expect(readNumber(read.readAs)).toMatchObject({ ok: true, value: read.value });
      }),
      { seed: 1, numRuns: 1000 },
    );
  });
});

describe('a tolerance', () => {
  const within = (value: string, kind: 'absolute' | 'relative', amount: number) => (x: number) =>
    accepts({ value, tolerance: { kind, amount }, credit: 1 }, x);

  it('is inclusive, absolute or as a share of the value', () => {
    const absolute = within('10', 'absolute', 0.5);
    expect([9.5, 10.5, 9.4999, 10.5001].map(absolute)).toEqual([true, true, false, false]);
    const relative = within('-200', 'relative', 0.02);
    expect([-204, -196, -204.1, -195.9].map(relative)).toEqual([true, true, false, false]);
  });

  it('absorbs binary rounding and nothing more', () => {
    expect(within('0.3', 'absolute', 0)(0.1 + 0.2)).toBe(true);
    expect(within('0.3', 'absolute', 0)(0.3000001)).toBe(false);
    expect(within('1.1', 'absolute', 0.1)(1.2)).toBe(true);
  });
});

it('counts words as a person does', () => {
  expect(['', 'one', "don't stop", 'well-known  facts, 3 of them.', 'Trần Bảo ужин'].map(countWords)).toEqual([
    0, 1, 2, 5, 3,
  ]);
});

describe('reading a number with a unit', () => {
  it.each([
    ['5.5 nm', 5.5, 'nm'],
    ['5,5nm', 5.5, 'nm'],
    ['2e3 m', 2000, 'm'],
    ['3/4 h', 0.75, 'h'],
    ['12', 12, ''],
    ['12°', 12, '°'],
    ['9.81 m/s2', 9.81, 'm/s2'],
    ['5 %', 5, '%'],
    ['5 e', 5, 'e'],
  ])('%s', (text, value, unit) => {
    expect(readQuantity(text)).toMatchObject({ ok: true, value, unit });
  });

  it.each(['nm', '', '1,234,567 m', '5 + 3', '5 5', '--5 m'])('%s is not guessed', (text) => {
    expect(readQuantity(text).ok).toBe(false);
  });
});
