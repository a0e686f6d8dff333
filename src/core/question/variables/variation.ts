import { z } from 'zod';
import { innerId } from '../choices';
import { type Formula, longestFormula, readFormula, reservedNames } from './formula';

const variableName = z
  .string()
  .regex(/^[a-zA-Z][a-zA-Z0-9_]{0,19}$/, 'A name is letters, digits and _, beginning with a letter.')
  .refine((name) => !reservedNames.has(name) && !(name in {}), 'This name has another meaning in formulas.');

/** Whether a formula can hold this name. */
export const isVariableName = (name: string): boolean => variableName.safeParse(name).success;

const finite = z.number({ message: 'Give a number.' }).finite();

/** Where a variable's values come from. */
const variableSourceSchema = z.discriminatedUnion('kind', [
  z
    .object({ kind: z.literal('range'), from: finite, to: finite, step: finite.positive('A step is more than 0.') })
    .refine((range) => range.from <= range.to, { message: 'The range ends before it begins.', path: ['to'] })
    .refine((range) => (range.to - range.from) / range.step <= 1e6, {
      message: 'At most a million steps.',
      path: ['step'],
    }),
  z.object({ kind: z.literal('list'), values: z.array(finite).min(1, 'List at least one value.').max(200) }),
  z.object({ kind: z.literal('formula'), formula: z.string().max(longestFormula) }),
]);

/** A variable: a name that formulas use, and where its values come from. */
export const variableSchema = z.object({ id: innerId, name: variableName, source: variableSourceSchema });

/** A valid variable. */
export type Variable = z.output<typeof variableSchema>;

/** The fields of every type whose questions may vary from paper to paper. */
export const variationFields = {
  variables: z.array(variableSchema).max(20, 'At most 20 variables.').optional(),
  /** Conditions that the values must meet, as formulas. */
  constraints: z.array(z.string().trim().min(1, 'Write the condition.').max(longestFormula)).max(10).optional(),
};

/** The variables of a question, in the order of their declaration, and the conditions on them. */
export type Variation = { variables?: Variable[]; constraints?: string[] };

/** The variables and conditions of a question; none for a type that has none. */
export const variationOf = (content: object): Variation => content;

/** Names that a formula may use. */
export const variableNames = (variation: Variation): Set<string> =>
  new Set((variation.variables ?? []).map((variable) => variable.name));

/**
 * Reports names given twice, formulas that cannot be read, and formulas on variables that come later: a variable may use
 * only those declared above it.
 */
export function checkVariation(variation: Variation, context: z.RefinementCtx): void {
  const problem = (path: (string | number)[], message: string) => context.addIssue({ code: 'custom', path, message });
  const above = new Set<string>();
  (variation.variables ?? []).forEach((variable, i) => {
    if (above.has(variable.name)) problem(['variables', i, 'name'], 'There is a variable of this name already.');
    if (variable.source.kind === 'formula') {
      const read = readFormula(variable.source.formula, above);
      if (!read.ok) problem(['variables', i, 'source', 'formula'], read.message);
    }
    above.add(variable.name);
  });
  (variation.constraints ?? []).forEach((constraint, i) => {
    const read = readFormula(constraint, above);
    if (!read.ok) problem(['constraints', i], read.message);
  });
}

/** A formula that is known to be readable; one that is not has no value anywhere. */
export function compiled(text: string, known: ReadonlySet<string>): Formula {
  const read = readFormula(text, known);
  return read.ok ? read : { ok: true, names: [], value: () => Number.NaN };
}

const read = new WeakMap<Variation, Map<string, Formula>>();

/** A formula of a key on the variables of its question, read once for each question: every paper asks for the same. */
export function keyFormula(variation: Variation, text: string): Formula {
  const known = read.get(variation) ?? new Map<string, Formula>();
  read.set(variation, known);
  const formula = known.get(text) ?? compiled(text, variableNames(variation));
  known.set(text, formula);
  return formula;
}
