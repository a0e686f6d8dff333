import { seededRandom } from '../../src/core/base/random';
import { planDraw } from '../../src/core/exam/drawPlan';
import { drawSelection } from '../../src/core/exam/drawSelection';
import { snapshotOf } from '../../src/core/exam/snapshot';
import { exampleDesign, exampleDraw, exampleEntry } from '../../src/core/testing/exampleExam';
import { inTurn, report } from './measure';
import { plainShuffles } from './plainShuffles';

const papers = 10_000;

/**
 * draw.papers: 10,000 papers of 40 questions from a bank of 1,000 through 8 lines of 5 with overlapping pools: each line
 * draws from 200 questions, half of which it shares with each neighbour. Selection only. Baseline: as many plain partial
 * shuffles of the same pools, which do not care whether a question comes twice.
 */
export function drawPapers(): void {
  const lines = Array.from({ length: 8 }, (_, i) => exampleDraw(`line-${i}`, 5, [`band-${i}`, `band-${i + 1}`]));
  const snapshot = snapshotOf(
    Array.from({ length: 1_000 }, (_, n) => exampleEntry(n, [`band-${Math.floor(n / 100)}`])),
  );
  const plan = planDraw(exampleDesign(lines), snapshot);
  const random = seededRandom('bench');
  const work = () => {
    for (let p = 0; p < papers; p++) if (!drawSelection(plan, random)) throw new Error('No paper');
  };
  const baseline = () => plainShuffles(plan, papers, random);
  const times = inTurn(5, papers, work, baseline);
  report({
    name: 'draw.papers',
    value: times.work * papers,
    unit: 'ms per 10,000 papers',
    baseline: times.baseline * papers,
    ratio: times.work / times.baseline,
  });
}
