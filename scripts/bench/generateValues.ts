import { seededRandom } from '../../src/core/base/random';
import { drawValues, planValues } from '../../src/core/question/variables/drawValues';
import { inTurn, report } from './measure';

const papers = 2_000;

/**
 * variables.generate: values for 10,000 papers of a question with three free variables, two derived ones and a condition
 * that four of ten combinations meet. Baseline: drawing three numbers for each from the same seeded generator.
 */
export function generateValues(): void {
  const plan = planValues({
    variables: [
      { id: 'v0', name: 'd', source: { kind: 'range', from: 4, to: 24, step: 0.5 } },
      { id: 'v1', name: 'v', source: { kind: 'list', values: [4, 5, 6, 8, 10] } },
      { id: 'v2', name: 's', source: { kind: 'range', from: 0, to: 3, step: 0.5 } },
      { id: 'v3', name: 'g', source: { kind: 'formula', formula: 'v - s' } },
      { id: 'v4', name: 't', source: { kind: 'formula', formula: 'round(60 * d / g, 1)' } },
    ],
    constraints: ['t > 60 and t < 200 and g > 2'],
  });
  let sum = 0;
  const times = inTurn(
    5,
    papers,
    () => {
      for (let i = 0; i < papers; i++) sum += drawValues(plan, seededRandom(`paper ${i}`))?.t ?? 0;
    },
    () => {
      for (let i = 0; i < papers; i++) {
        const random = seededRandom(`paper ${i}`);
        sum += random.below(41) + random.below(5) + random.below(7);
      }
    },
  );
  if (sum === 0) throw new Error('No values were drawn');
  report({
    name: 'variables.generate',
    value: times.work * 10_000,
    unit: 'ms per 10,000 papers',
    baseline: times.baseline * 10_000,
    ratio: times.work / times.baseline,
  });
}
