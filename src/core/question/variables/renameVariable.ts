import { definitionOf, type QuestionContent } from '../definitions';
import { renameInTex } from './mathValues';
import { variationOf } from './variation';

/** A number or a name of a formula: what looks like a name inside `2e3` is none. */
const word = /\d+(?:\.\d*)?(?:[eE][+-]?\d+)?|\.\d+(?:[eE][+-]?\d+)?|[A-Za-z_]\w*/g;

/** A formula in which a variable goes by another name; everything else stays as it was typed. */
export const renameInFormula = (formula: string, from: string, to: string): string =>
  formula.replace(word, (one) => (one === from ? to : one));

/**
 * Content in which every formula, condition and piece of mathematics calls a variable by its new name. The variable itself
 * and the chips, which know it by id, are left alone.
 */
export function renameUses<Content extends QuestionContent>(content: Content, from: string, to: string): Content {
  const { varying } = definitionOf(content.type);
  if (from === to || !varying) return content;
  const formula = (text: string) => renameInFormula(text, from, to);
  const renamed = varying.mapKey(content, { text: (rich) => rich, formula });
  const variation = variationOf(content);
  const variables = variation.variables?.map((variable) =>
    variable.source.kind === 'formula'
      ? { ...variable, source: { ...variable.source, formula: formula(variable.source.formula) } }
      : variable,
  );
  const all = { ...renamed, variables, constraints: variation.constraints?.map(formula) };
  return inMathematics(all as QuestionContent, (tex) => renameInTex(tex, from, to)) as Content;
}

/** A copy in which every formula of TeX, wherever it stands, has been changed; what does not change stays the same. */
function inMathematics<Value>(value: Value, change: (tex: string) => string): Value {
  if (Array.isArray(value)) {
    const after = value.map((one) => inMathematics(one, change));
    return after.some((one, i) => one !== value[i]) ? (after as Value) : value;
  }
  if (typeof value !== 'object' || value === null) return value;
  const node = value as { type?: unknown; attrs?: { tex?: unknown } };
  if (node.type === 'math' && typeof node.attrs?.tex === 'string') {
    const tex = change(node.attrs.tex);
    return tex === node.attrs.tex ? value : { ...value, attrs: { ...node.attrs, tex } };
  }
  const entries = Object.entries(value);
  const after = entries.map(([name, inner]) => [name, inMathematics(inner, change)] as const);
  return after.some(([, inner], i) => inner !== entries[i]?.[1]) ? (Object.fromEntries(after) as Value) : value;
}
