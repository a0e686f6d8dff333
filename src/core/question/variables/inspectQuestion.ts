import type { Problem } from '../../base/result';
import { richText } from '../../base/rich';
import { definitionOf, type QuestionContent } from '../definitions';
import { readNumber } from '../types/numeric/readNumber';
import { fillIn } from './fillIn';
import { type Inspected, inspectVariation, type VariationReport } from './inspectVariation';
import { namesInTex } from './mathValues';
import { variationOf } from './variation';

/** Whether papers of this question have values of their own. */
export const varies = (content: QuestionContent): boolean => Boolean(variationOf(content).variables?.length);

/** Inspects the variables of a question together with its formulas and the choices they stand in; null without any. */
export function inspectQuestion(content: QuestionContent): VariationReport | null {
  const { varying } = definitionOf(content.type);
  const variation = variationOf(content);
  if (!varying || !variation.variables?.length) return null;
  const { variables } = variation;
  const answers = varying.formulas(content).filter(({ formula }) => formula.trim() !== '' && !readNumber(formula).ok);
  const lists = varying.lists(content);
  const choices: Inspected['choices'] = (values) =>
    lists.map((texts) => texts.map((text) => richText(fillIn(text, variables, values))));
  const report = inspectVariation(variation, { answers, choices });
  if (varying.fixedKey && answers.length === 0)
    report.problems.push({ severity: 'warning', message: varying.fixedKey });
  return report;
}

/** Whether some text of a question holds a value that none of its variables gives. */
function holdsUndeclared(content: QuestionContent): boolean {
  const { variables = [] } = variationOf(content);
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
