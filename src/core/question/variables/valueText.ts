import { roundHalfUp } from '../../base/rounding';

/** A value as it stands in a text: with so many decimals, or with the digits it has (12 significant at most). */
export function valueText(value: number, decimals: number | null): string {
  if (!Number.isFinite(value)) return '?';
  const text = decimals === null ? String(Number(value.toPrecision(12))) : roundHalfUp(value, decimals);
  return text.replace(/^-/, '\u2212');
}
