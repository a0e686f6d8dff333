/** A student's published score in one column; null where nothing is published. */
export type GradebookCell = { earned: number; possible: number } | null;

/** A column of the gradebook: what it is worth there, whatever its points sum to. */
export type GradebookColumn = { id: string; worth: number };

export type CourseTotal = {
  /** Points scaled to the columns' worth, unrounded; null where a cell is empty. */
  scaled: (number | null)[];
  earned: number;
  possible: number;
  /** 0 to 100, unrounded; null while nothing counts. */
  percent: number | null;
};

/** earned / possible × worth, unrounded. A paper without points earns 0. */
export const scaleToWorth = (cell: { earned: number; possible: number }, worth: number): number =>
  cell.possible > 0 ? (cell.earned / cell.possible) * worth : 0;

/**
 * A student's total: the sum of the scaled scores over the sum of the worths of the columns that have a published score.
 * A column without one leaves the computation ("not yet").
 */
export function courseTotal(columns: readonly GradebookColumn[], cells: readonly GradebookCell[]): CourseTotal {
  const scaled = columns.map((column, i) => {
    const cell = cells[i];
    return cell ? scaleToWorth(cell, column.worth) : null;
  });
  let earned = 0;
  let possible = 0;
  columns.forEach((column, i) => {
    const own = scaled[i];
    if (own === null || own === undefined) return;
    earned += own;
    possible += column.worth;
  });
  return { scaled, earned, possible, percent: possible > 0 ? (earned / possible) * 100 : null };
}
