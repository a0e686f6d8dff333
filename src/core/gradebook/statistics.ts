/** What is said of the scores of a column. */
export type ColumnStatistics = {
  n: number;
  mean: number;
  median: number;
  /** The standard deviation of a population, ÷ n: these are all scores there are, not a sample. */
  deviation: number;
  least: number;
  most: number;
};

/** @returns null where there is nothing to say */
export function statisticsOf(values: readonly number[]): ColumnStatistics | null {
  if (values.length === 0) return null;
  const ordered = Float64Array.from(values).sort();
  const n = ordered.length;
  const mean = ordered.reduce((sum, value) => sum + value, 0) / n;
  const at = (i: number) => ordered[i] as number;
  return {
    n,
    mean,
    median: n % 2 ? at((n - 1) / 2) : (at(n / 2 - 1) + at(n / 2)) / 2,
    deviation: Math.sqrt(ordered.reduce((sum, value) => sum + (value - mean) ** 2, 0) / n),
    least: at(0),
    most: at(n - 1),
  };
}

/**
 * How many values lie in each of so many equal steps from 0 to 100; the last step holds 100 too, and what lies above it.
 *
 * @param percents from 0 up
 */
export function distribution(percents: readonly number[], steps: number): number[] {
  const counts = Array.from({ length: steps }, () => 0);
  for (const percent of percents) {
    const step = Math.max(0, Math.min(steps - 1, Math.floor((percent / 100) * steps + 1e-9)));
    counts[step] = (counts[step] ?? 0) + 1;
  }
  return counts;
}
