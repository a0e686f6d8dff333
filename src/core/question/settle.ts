import type { Rich } from '../base/rich';
import type { QuestionContent } from './content';
import type { Feedback } from './feedback';
import type { Presentation } from './presentation';
import type { AcceptedNumber } from './types/numeric/content';
import { readNumber } from './types/numeric/readNumber';
import { fillIn } from './variables/fillIn';
import { compiled, variableNames } from './variables/variation';

/**
 * A question with the values of one paper in it: every variable in a text is its value, every formula of the key its
 * number. Afterwards it is scored, shown and explained like a question without variables. A formula without a value
 * accepts nothing.
 */
export function settle(content: QuestionContent, presentation: Presentation): QuestionContent {
  if ((content.type !== 'numeric' && content.type !== 'gap-fill') || !content.variables?.length) return content;
  const variables = content.variables;
  const values = presentation.values ?? {};
  const known = variableNames(content);
  const fill = (rich: Rich) => fillIn(rich, variables, values);
  const number = (accepted: AcceptedNumber): AcceptedNumber => {
    const settled = accepted.feedback ? { ...accepted, feedback: fill(accepted.feedback) } : { ...accepted };
    if (readNumber(accepted.value).ok) return settled;
    const value = compiled(accepted.value, known).value(values);
    return { ...settled, value: Number.isFinite(value) ? String(value) : '' };
  };
  const common = {
    stem: fill(content.stem),
    feedback: Object.fromEntries(
      Object.entries(content.feedback).map(([part, rich]) => [part, rich && fill(rich)]),
    ) as Feedback,
    variables: undefined,
    constraints: undefined,
  };
  if (content.type === 'numeric') return { ...content, ...common, accepted: content.accepted.map(number) };
  return {
    ...content,
    ...common,
    gaps: content.gaps.map((gap) => {
      if (gap.kind === 'number') return { ...gap, accepted: gap.accepted.map(number) };
      if (gap.kind === 'text') return gap;
      return { ...gap, options: gap.options.map((option) => ({ ...option, content: fill(option.content) })) };
    }),
  };
}
