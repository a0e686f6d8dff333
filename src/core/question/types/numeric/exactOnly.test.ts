import { describe, expect, it } from 'vitest';
import type { AcceptedNumber } from './content';
import { exactOnly } from './exactOnly';

const accepted = (value: string, kind: AcceptedNumber['tolerance']['kind'], amount: number): AcceptedNumber => ({
  value,
  tolerance: { kind, amount },
  credit: 1,
});

describe('a value that only its last digit makes right', () => {
  it.each(['12/7', '1/3', '-2/3', '3.14159265', '1e-9'])('%s without a tolerance is warned of', (value) => {
    expect(exactOnly(accepted(value, 'absolute', 0))).toContain('give a tolerance');
    expect(exactOnly(accepted(value, 'relative', 0))).toContain('give a tolerance');
  });

  it.each(['12', '3/4', '1.5', '0.333333', '-1/8', 'nonsense', ''])('%s is not', (value) => {
    expect(exactOnly(accepted(value, 'absolute', 0))).toBeNull();
  });

  it('nor is any with a tolerance, or by significant digits', () => {
    expect(exactOnly(accepted('12/7', 'absolute', 0.001))).toBeNull();
    expect(exactOnly(accepted('12/7', 'significant', 3))).toBeNull();
  });
});
