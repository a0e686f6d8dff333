import type { Random } from '../../base/random';
import type { Formula, Values } from './formula';
import { compiled, type Variable, type Variation, variableNames } from './variation';

/** What a variation draws from, made ready once: the free variables with their values, and what follows from them. */
type ValuePlan = {
  free: { name: string; values: { count: number; at: (place: number) => number } }[];
  /** In order of declaration. */
  derived: { name: string; formula: Formula }[];
  constraints: Formula[];
  /** How many combinations the free variables have; Infinity beyond what a number holds exactly. */
  combinations: number;
};

/** A sum of binary fractions as a person would write it: 0.1 + 2 × 0.1 is 0.3. */
const tidy = (value: number): number => Number(value.toPrecision(12));

/**
 * Counts are held within what can be stored, so that drawing ends also for a range that is still being typed: with a step
 * of 0, or one that ends before it begins.
 */
const countable = (count: number): number => Math.min(1e6 + 1, Math.max(1, Number.isNaN(count) ? 1 : count));

function valuesOf(source: Variable['source']): ValuePlan['free'][number]['values'] | null {
  switch (source.kind) {
    case 'range': {
      const count = Math.floor((source.to - source.from) / source.step + 1e-9) + 1;
      return { count: countable(count), at: (place) => tidy(source.from + place * source.step) };
    }
    case 'list': {
      const different = [...new Set(source.values)];
      return { count: countable(different.length), at: (place) => different[place] ?? Number.NaN };
    }
    case 'formula':
      return null;
  }
}

const plans = new WeakMap<Variation, ValuePlan>();

/** The plan of a variation, made once for each: all papers of a question draw from the same. */
export function planValues(variation: Variation): ValuePlan {
  const made = plans.get(variation) ?? makePlan(variation);
  plans.set(variation, made);
  return made;
}

function makePlan(variation: Variation): ValuePlan {
  const known = variableNames(variation);
  const plan: ValuePlan = { free: [], derived: [], constraints: [], combinations: 1 };
  for (const { name, source } of variation.variables ?? []) {
    const values = valuesOf(source);
    if (values) {
      plan.free.push({ name, values });
      plan.combinations *= values.count;
    } else if (source.kind === 'formula') plan.derived.push({ name, formula: compiled(source.formula, known) });
  }
  plan.constraints = (variation.constraints ?? []).map((constraint) => compiled(constraint, known));
  return plan;
}

/** The values that belong to one choice of the free variables. */
function complete(plan: ValuePlan, free: number[]): Record<string, number> {
  const values: Record<string, number> = {};
  plan.free.forEach((variable, i) => {
    values[variable.name] = free[i] as number;
  });
  for (const { name, formula } of plan.derived) values[name] = formula.value(values);
  return values;
}

/** Whether all constraints hold and every variable has a finite value. */
export const admits = (plan: ValuePlan, values: Values): boolean =>
  plan.derived.every(({ name }) => Number.isFinite(values[name])) &&
  plan.constraints.every((constraint) => {
    const held = constraint.value(values);
    return held !== 0 && !Number.isNaN(held);
  });

/** One combination at random, whether or not the constraints hold. */
export const sample = (plan: ValuePlan, random: Random): Record<string, number> =>
  complete(
    plan,
    plan.free.map(({ values }) => values.at(random.below(values.count))),
  );

/** The most combinations that are gone through one by one. */
export const listable = 20_000;

/** Every combination in turn; only for a plan with at most {@link listable} of them. */
export function* everyCombination(plan: ValuePlan): Generator<Record<string, number>> {
  const places = plan.free.map(() => 0);
  for (;;) {
    yield complete(
      plan,
      plan.free.map(({ values }, i) => values.at(places[i] as number)),
    );
    let i = places.length - 1;
    while (i >= 0 && (places[i] as number) + 1 === plan.free[i]?.values.count) places[i--] = 0;
    if (i < 0) return;
    places[i] = (places[i] as number) + 1;
  }
}

const listed = new WeakMap<ValuePlan, Record<string, number>[]>();

/** The combinations that are admitted, gone through once for each plan; only for one that is {@link listable}. */
function everyAdmissible(plan: ValuePlan): readonly Record<string, number>[] {
  const admissible = listed.get(plan) ?? [...everyCombination(plan)].filter((values) => admits(plan, values));
  listed.set(plan, admissible);
  return admissible;
}

/** How many samples are drawn before a rare constraint is met by listing, and before it is given up. */
export const sampleLimits = { beforeListing: 200, most: 20_000 };

/**
 * Values for one paper, every admissible combination equally likely: by rejection, and where most are rejected by listing
 * all of them, if they are few enough. It always ends.
 *
 * @returns null when no admissible combination was found
 */
export function drawValues(plan: ValuePlan, random: Random): Record<string, number> | null {
  const few = plan.combinations <= listable;
  for (let tried = 0; tried < (few ? sampleLimits.beforeListing : sampleLimits.most); tried++) {
    const values = sample(plan, random);
    if (admits(plan, values)) return values;
  }
  if (!few) return null;
  const admissible = everyAdmissible(plan);
  return admissible.length ? { ...admissible[random.below(admissible.length)] } : null;
}
