import { withoutEnd } from './withoutEnd';
/**
 * Rounds half up (away from zero for negatives) for display, on the decimal text of 12 significant digits, so that
 * 2.675 shown with two decimals is 2.68 although the nearest double lies below it.
 *
 * @param decimals 0 to 9
 * @returns the text to show, with exactly that many decimals
 * @example roundHalfUp(2.675, 2) // '2.68'
 */
export function roundHalfUp(value: number, decimals: number): string {
  if (!Number.isFinite(value)) return '–';
  // Whole numbers, which most scores are, are exact as they stand.
  if (Number.isInteger(value) && Math.abs(value) < 1e11) return value.toFixed(decimals);
  const negative = value < 0;
  const text = toPlainDigits(Math.abs(value));
  const [whole = '0', fraction = ''] = text.split('.');
  const padded = fraction.padEnd(decimals + 1, '0');
  let digits = BigInt(whole + padded.slice(0, decimals));
  if (padded.charCodeAt(decimals) >= 53) digits += 1n;
  const all = digits.toString().padStart(decimals + 1, '0');
  const shown = decimals === 0 ? all : `${all.slice(0, -decimals)}.${all.slice(-decimals)}`;
  return negative && /[1-9]/.test(shown) ? `-${shown}` : shown;
}

/** The value's 12 significant digits without an exponent. */
function toPlainDigits(value: number): string {
  const [mantissa = '0', exponent = '0'] = value.toExponential(11).split('e');
  const digits = mantissa.replace('.', '');
  const point = Number(exponent) + 1;
  if (point <= 0) return `0.${'0'.repeat(-point)}${digits}`;
  if (point >= digits.length) return digits + '0'.repeat(point - digits.length);
  return `${digits.slice(0, point)}.${digits.slice(point)}`;
}

/** Points as people write them: at most two decimals, no trailing zeros. @example pointsText(2.5) // '2.5' */
export function pointsText(value: number): string {
  const text = roundHalfUp(value, 2);
  return text.includes('.') ? withoutEnd(withoutEnd(text, '0'), '.') : text;
}
