import { pointsText, roundHalfUp } from '../base/rounding';
import { withoutEnd } from '../base/withoutEnd';
import { counted, pointsSaid } from '../base/words';
import { type Band, bandOf } from './bands';

/** What is done to all scores of a column: nothing, points added up to the worth, or the best score made the worth. */
export type Curve = { kind: 'add'; points: number } | { kind: 'to-maximum' };

/** What each started day after due costs, and what stays at least; both as shares of the column's worth, in [0, 1]. */
export type LateRule = { perDay: number; floor: number };

/** Within a group, a point is a point, or each column weighs the same. */
export type GroupCounting = 'points' | 'equal';

/** A weighted group of columns. */
export type GradeGroup = {
  id: string;
  title: string;
  /** Relative to the other groups' weights; at least 0. */
  weight: number;
  counting: GroupCounting;
  /** How many of a student's cells are dropped; at least one is always kept. */
  drop: number;
};

/** A column of the gradebook: what it is worth there, whatever its points sum to. */
export type GradebookColumn = {
  id: string;
  title: string;
  /** Points in the gradebook; at least 0. */
  worth: number;
  groupId: string;
  /** Whether it is filled by a sitting or by hand; a sitting unless it is said. */
  kind?: 'sitting' | 'manual';
  /** Its points are earned without being asked for. */
  extraCredit?: boolean;
  curve?: Curve | null;
  late?: LateRule | null;
};

/** What stands in a cell of one student. */
export type GradebookCell =
  | { kind: 'score'; earned: number; possible: number; daysLate?: number }
  /** Leaves the computation. */
  | { kind: 'excused' }
  /** It is over, and nothing came. */
  | { kind: 'missing' }
  /** Nothing is published, or nothing is over yet. */
  | { kind: 'empty' };

/** All that a course total is computed from besides the student's own cells. */
export type Computing = {
  columns: readonly GradebookColumn[];
  /** In the order in which they are shown. Every column's group is among them. */
  groups: readonly GradeGroup[];
  /** Whether a missing cell counts as 0, or does not count yet. */
  missing: 'zero' | 'not-yet';
  /** By column, the best score of all students, scaled to worth; asked for where a column is curved to its maximum. */
  best: ReadonlyMap<string, number>;
};

/** What became of one cell. All points are scaled to the column's worth and unrounded. */
type CellStep = {
  columnId: string;
  worth: number;
  /** As it was scaled; null where the cell does not count. */
  scaled: number | null;
  curved: number | null;
  /** After the late deduction: what the total rests on. */
  counted: number | null;
  daysLate: number;
  /** Whether a score stands in it, dropped or kept: what is missing is none, though it may count as 0. */
  isScore: boolean;
  /** Why a cell does not count, or that it counts as 0. */
  as: 'score' | 'excused' | 'missing-as-zero' | 'missing' | 'empty' | 'dropped' | 'extra' | 'extra-without-group';
  /** How many of the total's percent points come from this cell. */
  brings: number;
};

type GroupStep = {
  groupId: string;
  /** Its share of the total, in [0, 1]: its weight among those of the groups that count; null where nothing counts in it. */
  share: number | null;
  earned: number;
  possible: number;
  /** What the kept cells earned of what they were worth, in [0, 1] or above it by a curve; null where nothing counts. */
  result: number | null;
  kept: number;
  dropped: number;
  /** Percent points of the total, extra credit left out. */
  brings: number;
  /** Percent points that extra credit brings. */
  extra: number;
};

/** A student's total with its explanation: the parts it was computed from, whose sum it is. */
type CourseTotal = {
  cells: CellStep[];
  groups: GroupStep[];
  /** Unrounded; null while nothing counts. Extra credit can bring it above 100. */
  percent: number | null;
};

/** earned / possible × worth, unrounded. A paper without points earns 0. */
const scaleToWorth = (cell: { earned: number; possible: number }, worth: number): number =>
  cell.possible > 0 ? (cell.earned / cell.possible) * worth : 0;

/** A scaled score after the curve of its column. A curve takes nobody above the worth, and takes nothing from anybody. */
export function curved(score: number, worth: number, curve: Curve | null | undefined, best: number): number {
  if (!curve) return score;
  if (curve.kind === 'add') return Math.max(score, Math.min(worth, score + curve.points));
  return best > 0 ? Math.max(score, (score * worth) / best) : score;
}

/** max(score − r·worth·days, min(score, floor·worth)): the floor takes nothing from a score below it. */
export function afterLate(score: number, worth: number, late: LateRule | null | undefined, days: number): number {
  if (!late || days <= 0) return score;
  return Math.max(score - late.perDay * worth * days, Math.min(score, late.floor * worth));
}

type Kept = { earned: number; worth: number };

/**
 * Which cells of a group are kept when `drop` are dropped, so that the group's result is the highest possible; at least one
 * is kept. With equal weights the lowest percents go. By points, Σ earned / Σ worth is a ratio, whose best subset is not
 * that of the lowest percents: it is found by Dinkelbach's method, which for a ratio λ keeps the cells with the greatest
 * earned − λ·worth and raises λ until nothing changes.
 *
 * @returns the indices of the kept cells, rising
 * @see Dinkelbach, On Nonlinear Fractional Programming, Management Science 13 (1967)
 */
export function keptCells(cells: readonly Kept[], drop: number, counting: GroupCounting): number[] {
  const keep = Math.max(1, cells.length - Math.max(0, drop));
  const all = cells.map((_, i) => i);
  if (keep >= cells.length) return all;
  const best = (value: (cell: Kept) => number): number[] =>
    [...all]
      .sort((a, b) => value(cells[b] as Kept) - value(cells[a] as Kept) || a - b)
      .slice(0, keep)
      .sort((a, b) => a - b);
  const ratio = (kept: readonly number[]) => {
    const worth = kept.reduce((sum, i) => sum + (cells[i] as Kept).worth, 0);
    return worth > 0 ? kept.reduce((sum, i) => sum + (cells[i] as Kept).earned, 0) / worth : 0;
  };
  let kept = best(({ earned, worth }) => (worth > 0 ? earned / worth : 0));
  if (counting === 'equal') return kept;
  for (let lambda = ratio(kept); ; ) {
    const next = best(({ earned, worth }) => earned - lambda * worth);
    const better = ratio(next);
    if (better <= lambda) return kept;
    kept = next;
    lambda = better;
  }
}

/**
 * A student's total, in this order: scale to worth, curve, late deduction, drop, group, weights (renormalised over the
 * groups in which something counts), extra credit. Nothing is rounded. Extra credit brings what the same points would
 * bring in its group if they were asked for there, and is asked for nowhere; in a group in which nothing counts yet it
 * brings nothing yet.
 *
 * @param cells one for each column, in the order of the columns
 */
export function courseTotal(computing: Computing, cells: readonly GradebookCell[]): CourseTotal {
  const { columns, groups, best } = computing;
  const steps = columns.map((column, i) => cellStep(column, cells[i] ?? { kind: 'empty' }, computing.missing, best));
  const counting = groups.map((group): GroupStep => {
    const own = steps.filter(
      (step, i) =>
        (columns[i] as GradebookColumn).groupId === group.id &&
        !(columns[i] as GradebookColumn).extraCredit &&
        step.counted !== null &&
        step.worth > 0,
    );
    const kept = keptCells(
      own.map((step) => ({ earned: step.counted ?? 0, worth: step.worth })),
      group.drop,
      group.counting,
    );
    own.forEach((step, i) => {
      if (!kept.includes(i)) step.as = 'dropped';
    });
    const used = kept.map((i) => own[i] as CellStep);
    const earned = used.reduce((sum, step) => sum + (step.counted ?? 0), 0);
    const possible = used.reduce((sum, step) => sum + step.worth, 0);
    const mean = used.reduce((sum, step) => sum + (step.counted ?? 0) / step.worth, 0) / Math.max(1, used.length);
    const result = used.length === 0 ? null : group.counting === 'points' ? earned / possible : mean;
    return {
      groupId: group.id,
      share: null,
      earned,
      possible,
      result,
      kept: used.length,
      dropped: own.length - used.length,
      brings: 0,
      extra: 0,
    };
  });
  const weights = groups.reduce((sum, group, i) => sum + (counting[i]?.result == null ? 0 : group.weight), 0);
  groups.forEach((group, i) => {
    const step = counting[i] as GroupStep;
    if (step.result === null || weights <= 0) return;
    step.share = group.weight / weights;
    /** What one point of a column of that worth brings. */
    const perPoint = (worth: number) =>
      ((step.share ?? 0) * 100) / (group.counting === 'points' ? step.possible : worth * step.kept);
    steps.forEach((cell, at) => {
      const column = columns[at] as GradebookColumn;
      if (column.groupId !== group.id || cell.counted === null || cell.worth <= 0 || cell.as === 'dropped') return;
      cell.brings = cell.counted * perPoint(cell.worth);
      if (column.extraCredit) {
        cell.as = 'extra';
        step.extra += cell.brings;
      }
    });
    step.brings = step.share * step.result * 100;
  });
  const percent = weights > 0 ? counting.reduce((sum, step) => sum + step.brings + step.extra, 0) : null;
  return { cells: steps, groups: counting, percent };
}

function cellStep(
  column: GradebookColumn,
  cell: GradebookCell,
  missing: Computing['missing'],
  best: Computing['best'],
): CellStep {
  const step: CellStep = {
    columnId: column.id,
    worth: column.worth,
    scaled: null,
    curved: null,
    counted: null,
    daysLate: 0,
    isScore: cell.kind === 'score',
    as: 'empty',
    brings: 0,
  };
  if (cell.kind === 'score') {
    step.scaled = scaleToWorth(cell, column.worth);
    step.curved = curved(step.scaled, column.worth, column.curve, best.get(column.id) ?? 0);
    step.daysLate = cell.daysLate ?? 0;
    step.counted = afterLate(step.curved, column.worth, column.late, step.daysLate);
    step.as = column.extraCredit ? 'extra-without-group' : 'score';
    return step;
  }
  // Extra credit that nobody asked for cannot be missing.
  if (cell.kind === 'missing' && missing === 'zero' && !column.extraCredit)
    return { ...step, scaled: 0, curved: 0, counted: 0, as: 'missing-as-zero' };
  return { ...step, as: cell.kind };
}

/** The best scaled score of each column, over all students. */
export function bestScores(
  columns: readonly GradebookColumn[],
  rows: readonly (readonly GradebookCell[])[],
): Map<string, number> {
  return new Map(
    columns.map((column, i) => [
      column.id,
      Math.max(
        0,
        ...rows.map((cells) => {
          const cell = cells[i];
          return cell?.kind === 'score' ? scaleToWorth(cell, column.worth) : 0;
        }),
      ),
    ]),
  );
}

/** The total as it is displayed, and the band that applies to what is displayed. */
export function displayedTotal(
  percent: number | null,
  bands: readonly Band[],
  decimals: number,
): { text: string; band: Band | null } {
  if (percent === null) return { text: '', band: null };
  return { text: roundHalfUp(percent, decimals), band: bandOf(bands, percent, decimals) };
}

const percentOf = (value: number, decimals = 2) => {
  const text = roundHalfUp(value, decimals);
  return `${text.includes('.') ? withoutEnd(withoutEnd(text, '0'), '.') : text} %`;
};

/**
 * How a total was computed, in sentences with all its numbers, for whoever asks: one for each cell, one for each group, and
 * the sum.
 *
 * @param emptySaid what is said of a column in which nothing stands yet; null leaves it out
 */
export function totalSaid(
  { columns, groups, missing }: Pick<Computing, 'columns' | 'groups' | 'missing'>,
  total: CourseTotal,
  emptySaid: (column: GradebookColumn) => string | null = usualEmptySaid,
): { heading: string; lines: string[] }[] {
  const parts = groups.flatMap((group, i) => {
    const step = total.groups[i] as GroupStep;
    const lines = columns.flatMap((column, at) => {
      if (column.groupId !== group.id) return [];
      const cell = total.cells[at] as CellStep;
      if (cell.as !== 'empty') return [cellSaid(column, cell, missing)];
      const empty = emptySaid(column);
      return empty === null ? [] : [`${column.title}: ${empty}`];
    });
    if (lines.length === 0) return [];
    return [{ heading: group.title, lines: [...lines, groupSaid(group, step)] }];
  });
  if (total.percent === null) return [...parts, { heading: 'Total', lines: ['Nothing counts yet.'] }];
  const bring = total.groups.flatMap((step, i) => {
    const title = groups[i]?.title ?? '';
    return [
      ...(step.result === null ? [] : [`${title} ${percentOf(step.brings)}`]),
      ...(step.extra === 0 ? [] : [`extra credit of ${title} ${percentOf(step.extra)}`]),
    ];
  });
  return [...parts, { heading: 'Total', lines: [`${bring.join(' + ')} = ${percentOf(total.percent)}`] }];
}

const usualEmptySaid = ({ kind }: GradebookColumn): string =>
  kind === 'manual' ? 'nothing entered yet, does not count.' : 'nothing published yet, does not count.';

function cellSaid(column: GradebookColumn, step: CellStep, missing: Computing['missing']): string {
  const of = `of ${pointsText(step.worth)}`;
  switch (step.as) {
    case 'excused':
      return `${column.title}: excused, does not count.`;
    case 'missing':
      return column.extraCredit
        ? `${column.title}: nothing handed in; extra credit, costs nothing.`
        : `${column.title}: nothing handed in, does not count yet.`;
    case 'missing-as-zero':
      return `${column.title}: nothing handed in, counts as 0 ${of}${missing === 'zero' ? '' : ' (tried)'}.`;
  }
  const way = [`${pointsText(step.scaled ?? 0)} ${of}`];
  if (step.curved !== step.scaled) way.push(`${pointsText(step.curved ?? 0)} after the curve`);
  if (step.counted !== step.curved)
    way.push(`${pointsText(step.counted ?? 0)} after ${counted(step.daysLate, 'day')} late`);
  const end =
    step.as === 'dropped'
      ? '; dropped'
      : step.as === 'extra'
        ? `; extra credit, brings ${percentOf(step.brings)}`
        : step.as === 'extra-without-group'
          ? '; extra credit, brings nothing until something of its group counts'
          : '';
  return `${column.title}: ${way.join(', ')}${end}.`;
}

function groupSaid(group: GradeGroup, step: GroupStep): string {
  if (step.result === null || step.share === null) return 'Nothing of this group counts yet.';
  const result =
    group.counting === 'points'
      ? `${pointsText(step.earned)} of ${pointsSaid(step.possible)}`
      : `the mean of ${counted(step.kept, 'column')}`;
  const dropped = step.dropped > 0 ? `, ${counted(step.dropped, 'lowest', 'lowest')} dropped` : '';
  return `Together: ${result}${dropped} = ${percentOf(step.result * 100)}, with a weight of ${percentOf(step.share * 100)}: brings ${percentOf(step.brings)}.`;
}
