import type { Scored } from '../../scored';
import type { AcceptedNumber, NumericContent } from './content';
import { readNumber } from './readNumber';
import type { NumericResponse } from './student';

/**
 * Whether x is accepted: |x − a| ≤ t + s, inclusive. t is the absolute tolerance or the relative one times |a|;
 * s = 1e-12·max(1, |a|) absorbs binary rounding, so that 0.3 is found in 0.1 + 0.2 with tolerance 0.
 */
export function accepts(accepted: AcceptedNumber, x: number): boolean {
  const read = readNumber(accepted.value);
  if (!read.ok) return false;
  const a = read.value;
  const { kind, amount } = accepted.tolerance;
  const t = kind === 'relative' ? amount * Math.abs(a) : amount;
  return Math.abs(x - a) <= t + 1e-12 * Math.max(1, Math.abs(a));
}

/** The best credit among the accepted answers that match; what cannot be read as one number earns 0. */
export function scoreNumeric(content: NumericContent, response: NumericResponse): Scored {
  const read = readNumber(response.text);
  if (!read.ok) return { kind: 'credit', credit: 0 };
  const matching = content.accepted.filter((accepted) => accepts(accepted, read.value));
  return { kind: 'credit', credit: Math.max(0, ...matching.map((accepted) => accepted.credit)) };
}

export function rightNumeric(content: NumericContent): NumericResponse {
  const best = content.accepted.find((accepted) => accepted.credit === 1);
  return { text: best?.value ?? '' };
}
