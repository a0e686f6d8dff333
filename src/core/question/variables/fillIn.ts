import { mapInline, type Rich, type RichInline } from '../../base/rich';
import { roundHalfUp } from '../../base/rounding';
import type { Variable } from './variation';

/** A value as it stands in a text: with so many decimals, or with the digits it has (12 significant at most). */
export function valueText(value: number, decimals: number | null): string {
  if (!Number.isFinite(value)) return '?';
  const text = decimals === null ? String(Number(value.toPrecision(12))) : roundHalfUp(value, decimals);
  return text.replace(/^-/, '\u2212');
}

/** Rich content with the values of a paper in the places of its variables. A place without a variable shows `?`. */
export function fillIn(rich: Rich, variables: readonly Variable[], values: Readonly<Record<string, number>>): Rich {
  const names = new Map(variables.map((variable) => [variable.id, variable.name]));
  return mapInline(rich, (inline): RichInline => {
    if (inline.type !== 'variable') return inline;
    const value = values[names.get(inline.attrs.id) ?? ''];
    return { type: 'text', text: value === undefined ? '?' : valueText(value, inline.attrs.decimals) };
  });
}
