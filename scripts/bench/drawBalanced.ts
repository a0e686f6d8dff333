import { planDraw } from '../../src/core/exam/drawPlan';
import { hardnessOf, selectEquallyHard } from '../../src/core/exam/equalHardness';
import { selectPaper } from '../../src/core/exam/selectPaper';
import { snapshotOf } from '../../src/core/exam/snapshot';
import { exampleDesign, exampleDraw, exampleEntry } from '../../src/core/testing/exampleExam';
import { inTurn, report } from './measure';

const papers = 2_000;
const none = new Set<string>();

/**
 * draw.balanced: 2,000 papers of 40 questions as in draw.papers, with expected credits from 0.2 to 0.95 and papers held
 * within 2 points of 100 of the mean, and within 0.2, where nearly every paper must be adjusted. Baseline: as many plain
 * draws of the same plan and seeds.
 */
export function drawBalanced(): void {
  const lines = Array.from({ length: 8 }, (_, i) => exampleDraw(`line-${i}`, 5, [`band-${i}`, `band-${i + 1}`]));
  const snapshot = snapshotOf(
    Array.from({ length: 1_000 }, (_, n) =>
      exampleEntry(n, [`band-${Math.floor(n / 100)}`], { expected: 0.2 + ((n * 37) % 100) * 0.0075 }),
    ),
  );
  const design = exampleDesign(lines);
  const plan = planDraw(design, snapshot);
  hardnessOf(design, snapshot, plan);
  const balanced = (within: number) => () => {
    for (let p = 0; p < papers; p++)
      if (!selectEquallyHard(design, snapshot, plan, `paper ${p}`, none, within)) throw new Error('No paper');
  };
  const plain = () => {
    for (let p = 0; p < papers; p++) if (!selectPaper(plan, snapshot, `paper ${p}`, none)) throw new Error('No paper');
  };
  for (const within of [0.02, 0.002]) {
    const times = inTurn(3, papers, balanced(within), plain);
    report({
      name: 'draw.balanced',
      value: times.work * papers,
      unit: 'ms per 2,000 papers',
      baseline: times.baseline * papers,
      ratio: times.work / times.baseline,
      within: within * 100,
    });
  }
}
