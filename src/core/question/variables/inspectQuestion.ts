import type { Problem } from '../../base/result';
import { richText } from '../../base/rich';
import type { QuestionContent } from '../content';
import { readNumber } from '../types/numeric/readNumber';
import { fillIn } from './fillIn';
import { type Inspected, inspectVariation, type VariationReport } from './inspectVariation';

/** Whether papers of this question have values of their own. */
export const varies = (
  content: QuestionContent,
): content is Extract<QuestionContent, { type: 'numeric' | 'gap-fill' }> =>
  (content.type === 'numeric' || content.type === 'gap-fill') && Boolean(content.variables?.length);

/** Inspects the variables of a question together with its formulas and the choices they stand in; null without any. */
export function inspectQuestion(content: QuestionContent): VariationReport | null {
  if (!varies(content)) return null;
  const variables = content.variables ?? [];
  const numbers =
    content.type === 'numeric'
      ? content.accepted.map((one, i) => ({ label: i === 0 ? 'The answer' : `Value ${i + 1}`, formula: one.value }))
      : content.gaps.flatMap((gap, g) =>
          gap.kind === 'number'
            ? gap.accepted.map((one, i) => ({
                label: i === 0 ? `Gap ${g + 1}` : `Gap ${g + 1}, value ${i + 1}`,
                formula: one.value,
              }))
            : [],
        );
  const answers = numbers.filter(({ formula }) => !readNumber(formula).ok);
  const picks =
    content.type === 'gap-fill' ? content.gaps.flatMap((gap) => (gap.kind === 'pick' ? [gap.options] : [])) : [];
  const choices: Inspected['choices'] = (values) =>
    picks.map((options) => options.map((option) => richText(fillIn(option.content, variables, values))));
  const report = inspectVariation(content, { answers, choices });
  if (content.type === 'numeric' && answers.length === 0)
    report.problems.push({ severity: 'warning', message: 'The accepted values do not depend on the variables.' });
  return report;
}

/** What keeps a varied question from being saved: papers that could not be drawn, or answers without a value. */
export const variationProblems = (content: QuestionContent): Problem[] =>
  (inspectQuestion(content)?.problems ?? [])
    .filter((problem) => problem.severity === 'error')
    .map((problem) => ({ code: 'bad-input', field: 'content.variables', message: problem.message }));
