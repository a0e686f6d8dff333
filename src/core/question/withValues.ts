import type { Rich } from '../base/rich';
import { definitionOf, type QuestionContent } from './definitions';
import type { Feedback } from './feedback';
import type { Presentation } from './presentation';
import { readNumber } from './types/numeric/readNumber';
import { fillIn } from './variables/fillIn';
import { keyFormula, variationOf } from './variables/variation';

/**
 * A computed value as it is shown: with 14 significant digits, so that 4.0 + 1.3 is 5.3 and not 5.300000000000001. The
 * difference is a hundredth of what scoring leaves to binary rounding.
 */
const valueText = (value: number): string => String(Number(value.toPrecision(14)));

/**
 * A question with the values of one paper in it: every variable in a text is its value, every formula of the key its
 * number. Afterwards it is scored, shown and explained like a question without variables. A formula without a value
 * accepts nothing.
 */
export function withValues<Content extends QuestionContent>(content: Content, presentation: Presentation): Content {
  const { varying } = definitionOf(content.type);
  const variation = variationOf(content);
  const { variables = [] } = variation;
  if (!varying || variables.length === 0) return content;
  const values = presentation.values ?? {};
  const text = (rich: Rich) => fillIn(rich, variables, values);
  const formula = (typed: string): string => {
    if (readNumber(typed).ok) return typed;
    const value = keyFormula(variation, typed).value(values);
    return Number.isFinite(value) ? valueText(value) : '';
  };
  return {
    ...varying.mapKey(content, { text, formula }),
    stem: text(content.stem),
    feedback: Object.fromEntries(
      Object.entries(content.feedback).map(([part, rich]) => [part, rich && text(rich)]),
    ) as Feedback,
    variables: undefined,
    constraints: undefined,
  } as Content;
}
