import { type RubricLevels, rubricPoints } from '../marking/marks';
import type { Rubric } from '../question/types/written/content';
import { pointsRead } from './judgeMarks';
import { boxLabels, type SheetRow } from './sheetRow';

type RubricRow = Omit<Extract<SheetRow, { kind: 'rubric' }>, 'label'>;
type Criterion = Rubric['criteria'][number];

const longestValue = 4;
const canStand = (values: readonly number[]): boolean =>
  new Set(values).size === values.length && values.every((value) => String(value).length <= longestValue);

/**
 * What stands beside the boxes of a criterion: its levels' names where these are numbers, else the points that each of them
 * earns, else their places from 1. In the order of the levels, and each of them once.
 *
 * @param points what the criterion carries
 */
function valuesOf({ levels }: Criterion, points: number): number[] {
  const named = levels.map(({ name }) =>
    /^\d{1,3}(?:[.,]\d)?$/.test(name) ? Number(name.replace(',', '.')) : Number.NaN,
  );
  if (named.every((value) => !Number.isNaN(value)) && canStand(named)) return named;
  const earned = levels.map(({ share }) => Math.round(points * share * 100) / 100);
  return canStand(earned) ? earned : levels.map((_, i) => i + 1);
}

/**
 * The rows on which whoever marks fills in the levels of a rubric: one for each criterion, without labels.
 *
 * @param points what the question carries
 */
export function rubricRows({ criteria }: Rubric, points: number): RubricRow[] {
  const weights = criteria.reduce((sum, { weight }) => sum + weight, 0);
  return criteria.map((criterion) => ({
    kind: 'rubric',
    values: valuesOf(criterion, (points * criterion.weight) / weights),
    weight: Math.min(100, criterion.weight),
  }));
}

/**
 * What the rows that a marker fills in say: points, with the levels of a rubric where it was one; or that the question waits,
 * and why, where it was not merely left out.
 */
export type MarkSaid = { points: number; rubric: RubricLevels | null } | { waits: string | null };

/**
 * Reads the mark of a question from the rows that whoever marks fills in.
 *
 * @param rows its rows, as they were printed
 * @param filled for each row the signs of the boxes that are filled
 * @param rubric of the question as it is on the paper; null where it has none
 * @param outOf points that the question carries
 */
export function markOnSheet(
  rows: readonly SheetRow[],
  filled: readonly (readonly string[])[],
  rubric: Rubric | null,
  outOf: number,
): MarkSaid {
  if (rows[0]?.kind !== 'rubric') {
    const points = pointsRead(filled[0] ?? []);
    return points === null ? { waits: null } : { points, rubric: null };
  }
  const criteria = rubric?.criteria ?? [];
  const levels: RubricLevels = {};
  for (const [i, row] of rows.entries()) {
    const sign = filled[i]?.[0];
    if (row.kind !== 'rubric' || sign === undefined) continue;
    const criterion = criteria[i];
    const level = criterion?.levels[boxLabels(row).indexOf(sign)];
    if (!criterion || !level || criterion.levels.length !== row.values.length)
      return { waits: 'its rubric is another one than was printed.' };
    levels[criterion.id] = level.id;
  }
  if (Object.keys(levels).length === 0) return { waits: null };
  const points = rubric && rows.length === criteria.length ? rubricPoints(rubric, levels, outOf) : null;
  return points === null ? { waits: 'not every criterion has a level.' } : { points, rubric: levels };
}
