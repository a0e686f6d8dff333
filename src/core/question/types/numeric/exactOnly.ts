import type { AcceptedNumber } from './content';
import { readNumber } from './readNumber';

/** So many decimals can still be expected of a student who was not told how many to give. */
const mostDecimals = 6;

/**
 * Warns of a value without tolerance that nobody reaches by calculating: 12/7 is 1.714285…, and however many of its digits
 * somebody types, it is wrong.
 *
 * @returns what is wrong, in words; null where the value can be reached
 * @example exactOnly({ value: '12/7', tolerance: { kind: 'absolute', amount: 0 }, credit: 1 })?.slice(0, 9) // '1.714286…'
 */
export function exactOnly({ value, tolerance }: AcceptedNumber): string | null {
  const read = readNumber(value);
  if (!read.ok || tolerance.kind === 'significant' || tolerance.amount !== 0) return null;
  const shown = read.value.toFixed(mostDecimals);
  if (Math.abs(Number(shown) - read.value) <= 1e-12 * Math.max(1, Math.abs(read.value))) return null;
  return `${shown}… is right only to its last digit: give a tolerance.`;
}
