import { planCheck } from '../../src/core/exam/planCheck';
import { inPool, snapshotOf } from '../../src/core/exam/snapshot';
import { exampleDesign, exampleDraw, exampleEntry } from '../../src/core/testing/exampleExam';
import { inTurn, report } from './measure';

/**
 * exam.plancheck: the plan check of an exam of 200 draws over 5,000 questions in 100 categories, each draw from two of
 * them, so that all lines hang together; with equally hard papers. Baseline: only finding each line's pool.
 */
export function examPlanCheck(): void {
  const categories = 100;
  const lines = Array.from({ length: 200 }, (_, i) =>
    exampleDraw(`line-${i}`, 2, [`band-${i % categories}`, `band-${(i + 1) % categories}`]),
  );
  const snapshot = snapshotOf(
    Array.from({ length: 5_000 }, (_, n) =>
      exampleEntry(n, [`band-${n % categories}`], { expected: 0.2 + ((n * 37) % 100) * 0.0075 }),
    ),
  );
  const names = new Map(Array.from({ length: categories }, (_, i) => [`band-${i}`, `Band ${i}`]));
  const design = { ...exampleDesign(lines), equalHardness: { within: 2 } };
  const check = () => {
    if (planCheck(design, snapshot, names).problems.length) throw new Error('It can be drawn.');
  };
  const pools = () => {
    for (const line of lines) snapshot.entries.filter((entry) => inPool(entry, line.pool));
  };
  const times = inTurn(3, 1, check, pools);
  report({
    name: 'exam.plancheck',
    value: times.work,
    unit: 'ms for 200 lines over 5,000 questions',
    baseline: times.baseline,
    ratio: times.work / times.baseline,
  });
}
