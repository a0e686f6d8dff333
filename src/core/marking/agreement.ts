/** How far two markers agree over the answers that both have marked. */
export type Agreement = {
  answers: number;
  /** Shares of the answers, in [0, 1]: the same points; at most one point apart. */
  exact: number;
  withinOne: number;
  /**
   * Quadratic weighted kappa, at most 1; 0 is what chance alone would give. Null where both gave everyone the same, so that
   * nothing can be said.
   */
  kappa: number | null;
};

/**
 * Compares pairs of marks of the same answers.
 *
 * Kappa = 1 − Σ (aᵢ − bᵢ)² / n  ÷  Σᵢⱼ (aᵢ − bⱼ)² / n²: the mean squared difference of the pairs over that of all
 * combinations (Cohen 1968, with quadratic weights; written without categories, so that halves and thirds of points count
 * as what they are).
 */
export function agreement(pairs: readonly (readonly [number, number])[]): Agreement {
  const n = pairs.length;
  if (n === 0) return { answers: 0, exact: 0, withinOne: 0, kappa: null };
  const mean = (of: (a: number, b: number) => number) => pairs.reduce((sum, [a, b]) => sum + of(a, b), 0) / n;
  const apart = mean((a, b) => (a - b) ** 2);
  const [meanA, meanB] = [mean((a) => a), mean((_, b) => b)];
  // Σᵢⱼ (aᵢ − bⱼ)² / n² = var a + var b + (ā − b̄)²
  const byChance = mean((a) => (a - meanA) ** 2) + mean((_, b) => (b - meanB) ** 2) + (meanA - meanB) ** 2;
  const close = 1e-9;
  return {
    answers: n,
    exact: mean((a, b) => (Math.abs(a - b) <= close ? 1 : 0)),
    withinOne: mean((a, b) => (Math.abs(a - b) <= 1 + close ? 1 : 0)),
    kappa: byChance <= close ? null : 1 - apart / byChance,
  };
}

/** Whether two marks are so far apart that they have to be settled. */
export const differTooMuch = (first: number, second: number, threshold: number): boolean =>
  Math.abs(first - second) > threshold + 1e-9;
