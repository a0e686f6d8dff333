import { creditOf, type Scored } from '../../scored';
import type { AcceptedNumber, NumericContent } from './content';
import { readNumber } from './readNumber';
import { readQuantity } from './readQuantity';
import type { NumericResponse } from './student';
import { findUnit, type Units } from './units';

/** A question or a gap that is answered by a number. */
export type NumberKey = { accepted: readonly AcceptedNumber[]; units?: Units };

/**
 * The greatest distance from the value a that is accepted: the absolute tolerance, the relative one times |a|, or half a
 * unit of the s-th significant digit of a.
 */
function toleranceOf(tolerance: AcceptedNumber['tolerance'], a: number): number {
  if (tolerance.kind === 'absolute') return tolerance.amount;
  if (tolerance.kind === 'relative') return tolerance.amount * Math.abs(a);
  if (a === 0) return 0;
  const leading = Number(Math.abs(a).toExponential().split('e')[1]);
  return Number(`0.5e${leading - tolerance.amount + 1}`);
}

/**
 * Whether x is accepted: |x − a| ≤ t + s, inclusive. s = 1e-12·max(1, |a|) absorbs binary rounding, so that 0.3 is found
 * in 0.1 + 0.2 with tolerance 0.
 */
export function accepts(accepted: AcceptedNumber, x: number): boolean {
  const read = readNumber(accepted.value);
  if (!read.ok) return false;
  const a = read.value;
  return Math.abs(x - a) <= toleranceOf(accepted.tolerance, a) + 1e-12 * Math.max(1, Math.abs(a));
}

/** What an answer was understood as: its value in the base unit, or why there is none. */
type Understood = { ok: true; value: number; readAs: string } | { ok: false; message: string };

/** Reads an answer by the key's own rules for units. */
export function understand(key: NumberKey, response: NumericResponse): Understood {
  if (!key.units) return readNumber(response.text);
  const read = readQuantity(response.text);
  if (!read.ok) return read;
  const name = read.unit || response.unit || '';
  if (read.unit && response.unit && read.unit !== response.unit && key.units.entry === 'list')
    return { ok: false, message: `Two units: ${read.unit} and ${response.unit}.` };
  const base = key.units.list[0]?.name ?? '';
  if (name === '')
    return key.units.missing === 'assume'
      ? { ok: true, value: read.value, readAs: `${read.readAs} ${base}` }
      : { ok: false, message: 'The unit is missing.' };
  const unit = findUnit(key.units, name);
  if (!unit) return { ok: false, message: `The unit “${name}” is not known here.` };
  return { ok: true, value: read.value * unit.factor, readAs: `${read.readAs} ${unit.name}` };
}

/** The accepted value with the best credit that matches, the first of equals; -1 when none does. */
export function matchNumber(key: NumberKey, response: NumericResponse): number {
  const read = understand(key, response);
  if (!read.ok) return -1;
  let best = -1;
  key.accepted.forEach((accepted, i) => {
    const better = best < 0 || accepted.credit > (key.accepted[best] as AcceptedNumber).credit;
    if (better && accepts(accepted, read.value)) best = i;
  });
  return best;
}

/** The best credit among the accepted answers that match; what cannot be read as one number earns 0. */
export const scoreNumber = (key: NumberKey, response: NumericResponse): Scored =>
  creditOf(key.accepted[matchNumber(key, response)]?.credit ?? 0);

/** The first value of full credit, with the base unit where units count. */
export function rightNumber(key: NumberKey): NumericResponse {
  const text = key.accepted.find((accepted) => accepted.credit === 1)?.value ?? '';
  const base = key.units?.list[0]?.name;
  if (!base) return { text };
  return key.units?.entry === 'list' ? { text, unit: base } : { text: `${text} ${base}` };
}

/** The credit of a numeric question; see {@link scoreNumber}. */
export const scoreNumeric = (content: NumericContent, response: NumericResponse): Scored =>
  scoreNumber(content, response);

/** The number as it was typed, with the unit that was picked beside it. */
export const numericResponseText = (response: NumericResponse): string =>
  response.unit ? `${response.text} ${response.unit}` : response.text;
