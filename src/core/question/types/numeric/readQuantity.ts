import { type ReadNumber, readNumber } from './readNumber';

/** A number with what stands behind it. */
type ReadQuantity = Extract<ReadNumber, { ok: false }> | { ok: true; value: number; readAs: string; unit: string };

/**
 * Reads a number and the unit behind it. The longest beginning that is a number is the number, if what follows can be a
 * unit; which units are known is not asked here.
 *
 * @example readQuantity('5,5 nm') // { ok: true, value: 5.5, readAs: '5.5', unit: 'nm' }
 */
export function readQuantity(text: string): ReadQuantity {
  const whole = readNumber(text);
  if (whole.ok) return { ...whole, unit: '' };
  if (text.length > 120) return whole;
  for (let end = text.length - 1; end > 0; end--) {
    const unit = text.slice(end).trim();
    if (!/^[\p{L}\p{S}°%'"′″µ(/]/u.test(unit) || /^[+^×·=<>]/.test(unit)) continue;
    const number = readNumber(text.slice(0, end));
    if (number.ok) return { ...number, unit };
    if (number.why === 'ambiguous') return number;
  }
  return whole;
}
