import { seededRandom } from '../../src/core/base/random';
import {
  bestScores,
  courseTotal,
  type GradebookCell,
  type GradebookColumn,
  type GradeGroup,
} from '../../src/core/gradebook/courseTotal';
import { inTurn, report } from './measure';

const students = 1_000;
const width = 60;

/**
 * gradebook.compute: the totals of 1,000 students over 60 columns in four groups with drops, curves, late deductions and
 * excuses, each with its explanation. Baseline: a bare sum over the same numbers.
 */
export function gradebookCompute(): void {
  const random = seededRandom('gradebook.compute');
  const groups: GradeGroup[] = Array.from({ length: 4 }, (_, i) => ({
    id: `g${i}`,
    title: `Group ${i}`,
    weight: 10 + 10 * i,
    counting: i % 2 ? 'equal' : 'points',
    drop: i,
  }));
  const columns: GradebookColumn[] = Array.from({ length: width }, (_, i) => ({
    id: `c${i}`,
    title: `Column ${i}`,
    worth: 5 + (i % 7) * 5,
    groupId: `g${i % 4}`,
    extraCredit: i % 17 === 16,
    curve: i % 9 === 4 ? { kind: 'to-maximum' } : i % 9 === 8 ? { kind: 'add', points: 1 } : null,
    late: i % 3 ? null : { perDay: 0.1, floor: 0.4 },
  }));
  const cell = (): GradebookCell => {
    const kind = random.below(20);
    if (kind === 0) return { kind: 'excused' };
    if (kind === 1) return { kind: 'missing' };
    return { kind: 'score', earned: random.below(40), possible: 40, daysLate: kind === 2 ? 2 : 0 };
  };
  const rows = Array.from({ length: students }, () => columns.map(cell));
  let counted = 0;
  let sum = 0;
  const times = inTurn(
    5,
    1,
    () => {
      const computing = { columns, groups, missing: 'zero' as const, best: bestScores(columns, rows) };
      counted = 0;
      for (const cells of rows) if (courseTotal(computing, cells).percent !== null) counted += 1;
    },
    () => {
      sum = 0;
      for (const cells of rows) for (const one of cells) if (one.kind === 'score') sum += one.earned;
    },
  );
  report({
    name: 'gradebook.compute',
    value: times.work,
    unit: 'ms for 1,000 students and 60 columns',
    baseline: times.baseline,
    ratio: times.work / times.baseline,
    counted,
    sum,
  });
}
