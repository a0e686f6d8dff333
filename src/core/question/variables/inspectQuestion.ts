import type { Problem } from '../../base/result';
import { richText } from '../../base/rich';
import type { QuestionContent } from '../content';
import { readNumber } from '../types/numeric/readNumber';
import { fillIn } from './fillIn';
import { type Inspected, inspectVariation, type VariationReport } from './inspectVariation';
import { namesInTex } from './mathValues';

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
  const answers = numbers.filter(({ formula }) => formula.trim() !== '' && !readNumber(formula).ok);
  const picks =
    content.type === 'gap-fill' ? content.gaps.flatMap((gap) => (gap.kind === 'pick' ? [gap.options] : [])) : [];
  const choices: Inspected['choices'] = (values) =>
    picks.map((options) => options.map((option) => richText(fillIn(option.content, variables, values))));
  const report = inspectVariation(content, { answers, choices });
  if (content.type === 'numeric' && answers.length === 0)
    report.problems.push({ severity: 'warning', message: 'The accepted values do not depend on the variables.' });
  return report;
}

/** Whether some text of a question holds a value that none of its variables gives. */
function holdsUndeclared(content: QuestionContent): boolean {
  const variables = ('variables' in content && content.variables) || [];
  const ids = new Set(variables.map((variable) => variable.id));
  const names = new Set(variables.map((variable) => variable.name));
  const look = (value: unknown): boolean => {
    if (Array.isArray(value)) return value.some(look);
    if (typeof value !== 'object' || value === null) return false;
    const { type, attrs } = value as { type?: unknown; attrs?: { id?: unknown; tex?: unknown } };
    if (type === 'variable' && typeof attrs?.id === 'string') return !ids.has(attrs.id);
    if (type === 'math' && typeof attrs?.tex === 'string')
      return namesInTex(attrs.tex).some((name) => !names.has(name));
    return Object.values(value).some(look);
  };
  return look(content);
}

/** What keeps a varied question from being saved: papers that could not be drawn, or answers without a value. */
export const variationProblems = (content: QuestionContent): Problem[] => [
  ...(holdsUndeclared(content)
    ? [
        {
          code: 'bad-input' as const,
          field: 'content.stem',
          message: 'A text of this question holds a value that is not declared: take it out, or declare it.',
        },
      ]
    : []),
  ...(inspectQuestion(content)?.problems ?? [])
    .filter((problem) => problem.severity === 'error')
    .map((problem) => ({ code: 'bad-input' as const, field: 'content.variables', message: problem.message })),
];
