import { mapInline, type Rich, type RichInline } from '../../base/rich';
import { fillTex } from './mathValues';
import { valueText } from './valueText';
import type { Variable } from './variation';

/** Rich content with the values of a paper in the places of its variables. A place without a variable shows `?`. */
export function fillIn(rich: Rich, variables: readonly Variable[], values: Readonly<Record<string, number>>): Rich {
  const names = new Map(variables.map((variable) => [variable.id, variable.name]));
  return mapInline(rich, (inline): RichInline => {
    if (inline.type === 'math') {
      const tex = fillTex(inline.attrs.tex, values);
      return tex === inline.attrs.tex ? inline : { type: 'math', attrs: { tex, display: inline.attrs.display } };
    }
    if (inline.type !== 'variable') return inline;
    const value = values[names.get(inline.attrs.id) ?? ''];
    return { type: 'text', text: value === undefined ? '?' : valueText(value, inline.attrs.decimals) };
  });
}
