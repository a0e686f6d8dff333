import { quickRandom } from '../../base/random';
import { admits, drawValues, everyCombination, listable, planValues, sample } from './drawValues';
import type { Values } from './formula';
import { compiled, type Variation, variableNames } from './variation';

/** What a variation is inspected for besides its own sense: the formulas of the key, and texts that must differ. */
export type Inspected = {
  answers: { label: string; formula: string }[];
  /** Groups of texts that a student chooses between, as they stand for given values. */
  choices: (values: Values) => string[][];
};

/** What an inspection of variables has shown. */
export type VariationReport = {
  /** Papers as students could get them, with the answers that belong to each. */
  samples: { values: Values; answers: number[] }[];
  /** How many different papers there are: exactly, or more than so many. */
  variants: { exact: boolean; count: number };
  /** How many combinations were tried and how many of them met all constraints. */
  tried: number;
  met: number;
  problems: { severity: 'error' | 'warning'; message: string }[];
};

const inspectionSamples = 2_000;
/** A constraint met by fewer than one combination in so many is refused: papers could not be drawn reliably. */
const rarest = 1_000;

/**
 * Goes through all combinations of a variation where they are few, else through samples of a fixed seed, and reports
 * what an author should know. It always ends: a constraint that is never met is reported with the number tried.
 */
export function inspectVariation(variation: Variation, inspected: Inspected, rows = 8): VariationReport {
  const plan = planValues(variation);
  const known = variableNames(variation);
  const answers = inspected.answers.map((answer) => ({ ...answer, value: compiled(answer.formula, known).value }));
  const random = quickRandom('inspection');
  const exact = plan.combinations <= listable;

  let tried = 0;
  let met = 0;
  let noValue = 0;
  const different = new Set<string>();
  const first: (number | null)[] = answers.map(() => null);
  const varies = answers.map(() => false);
  const without = answers.map(() => 0);
  const withoutExample: (Values | null)[] = answers.map(() => null);
  let coinciding: { values: Values; text: string } | null = null;
  let coincidences = 0;
  let looked = 0;

  const look = (values: Values) => {
    tried++;
    if (plan.derived.some(({ name }) => !Number.isFinite(values[name]))) noValue++;
    if (!admits(plan, values)) return;
    met++;
    different.add(plan.free.map(({ name }) => values[name]).join('|'));
    answers.forEach(({ value }, i) => {
      const answer = value(values);
      if (!Number.isFinite(answer)) {
        without[i] = (without[i] as number) + 1;
        withoutExample[i] ??= values;
      } else if (first[i] === null) first[i] = answer;
      else if (Math.abs(answer - (first[i] as number)) > 1e-9 * Math.max(1, Math.abs(answer))) varies[i] = true;
    });
    if (looked++ < 500) {
      const twice = inspected.choices(values).map((texts) => texts.find((text, i) => texts.indexOf(text) !== i));
      const text = twice.find((one) => one !== undefined);
      if (text !== undefined) {
        coincidences++;
        coinciding ??= { values, text };
      }
    }
  };
  if (exact) for (const values of everyCombination(plan)) look(values);
  else {
    for (let i = 0; i < inspectionSamples; i++) look(sample(plan, random));
    // Where constraints are met rarely, look longer before saying that they never are.
    while (met < 20 && tried < 20 * inspectionSamples) look(sample(plan, random));
  }

  const problems: VariationReport['problems'] = [];
  const error = (message: string) => problems.push({ severity: 'error', message });
  const warning = (message: string) => problems.push({ severity: 'warning', message });
  const said = `${tried} ${exact ? 'combinations, all there are' : 'samples'}`;
  if (met === 0) error(`The conditions were met by none of ${said}: no paper could be drawn.`);
  else if (!exact && met * rarest < tried)
    error(`The conditions were met by only ${met} of ${said}: papers could not be drawn reliably.`);
  if (noValue > 0 && met > 0)
    warning(`A formula has no value (a division by zero?) in ${noValue} of ${said}; those are not used.`);
  answers.forEach(({ label }, i) => {
    if (without[i])
      error(
        `${label} has no value (a division by zero?) in ${without[i]} of ${met} cases, such as ${valuesText(withoutExample[i] as Values)}.`,
      );
    else if (met > 1 && !varies[i] && plan.free.length > 0) warning(`${label} is the same for everyone: ${first[i]}.`);
  });
  if (coinciding) {
    const { values, text } = coinciding as { values: Values; text: string };
    error(
      `Two choices read the same (“${text}”) in ${coincidences} of ${looked} cases looked at, such as ${valuesText(values)}.`,
    );
  }

  const samples: VariationReport['samples'] = [];
  const drawn = quickRandom('samples');
  const shown = new Set<string>();
  for (let tries = 0; met > 0 && samples.length < rows && tries < rows * 5; tries++) {
    const values = drawValues(plan, drawn);
    if (!values) break;
    const row = JSON.stringify(values);
    if (shown.has(row)) continue;
    shown.add(row);
    samples.push({ values, answers: answers.map(({ value }) => value(values)) });
  }
  return {
    samples,
    variants: exact ? { exact: true, count: different.size } : { exact: false, count: Math.max(0, different.size - 1) },
    tried,
    met,
    problems,
  };
}

const valuesText = (values: Values) =>
  Object.entries(values)
    .map(([name, value]) => `${name} = ${Number(value.toPrecision(6))}`)
    .join(', ');
