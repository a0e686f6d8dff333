import { seededRandom } from '../../src/core/base/random';
import { planDraw } from '../../src/core/exam/drawPlan';
import { rehearse } from '../../src/core/exam/rehearsal';
import { snapshotOf } from '../../src/core/exam/snapshot';
import { exampleDesign, exampleDraw, exampleEntry } from '../../src/core/testing/exampleExam';
import { inTurn, report } from './measure';
import { plainShuffles } from './plainShuffles';

const students = 200;
const attempts = 2;

/**
 * rehearsal.run: 200 students × 2 attempts × 40 questions from 2,000, drawn plainly and equally hard within 2 of 100, with
 * all figures of the report: papers a second. Baseline: as many plain partial shuffles of the same pools, which know no
 * earlier attempt and count nothing.
 */
export function rehearsalRun(): void {
  const design = exampleDesign(Array.from({ length: 8 }, (_, i) => exampleDraw(`line-${i}`, 5, [`topic-${i}`])));
  const snapshot = snapshotOf(
    Array.from({ length: 2_000 }, (_, n) =>
      exampleEntry(n, [`topic-${n % 8}`], { expected: 0.2 + ((n * 37) % 100) * 0.0075 }),
    ),
  );
  const plan = planDraw(design, snapshot);
  const papers = 2 * students * attempts;
  const random = seededRandom('bench');
  const shuffles = () => plainShuffles(plan, papers, random);
  const times = inTurn(
    5,
    papers,
    () => {
      if (!rehearse({ design, snapshot, students, attempts, seed: 'bench' })) throw new Error('No paper');
    },
    shuffles,
  );
  report({
    name: 'rehearsal.run',
    value: 1_000 / times.work,
    unit: 'papers per second',
    baseline: 1_000 / times.baseline,
    ratio: times.work / times.baseline,
  });
}
