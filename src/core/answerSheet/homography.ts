import type { Place } from './sheetLayout';

/** How a flat sheet stands in a picture: maps millimetres on the sheet to pixels. Nine numbers, row by row. */
export type Homography = readonly number[];

/**
 * The projective map that takes four places to four others, by the direct linear transformation (Hartley and Zisserman,
 * “Multiple View Geometry in Computer Vision”, 2nd ed., section 4.1) with the last element fixed to 1.
 *
 * @returns null where three of the places lie on a line
 */
export function homographyOf(from: readonly Place[], to: readonly Place[]): Homography | null {
  const rows: number[][] = [];
  for (let i = 0; i < 4; i++) {
    const { x, y } = from[i] as Place;
    const { x: u, y: v } = to[i] as Place;
    rows.push([x, y, 1, 0, 0, 0, -u * x, -u * y, u]);
    rows.push([0, 0, 0, x, y, 1, -v * x, -v * y, v]);
  }
  const solved = solve(rows);
  return solved && [...solved, 1];
}

/** Gaussian elimination with partial pivoting; each row holds its right side at the end. */
function solve(rows: number[][]): number[] | null {
  const n = rows.length;
  for (let column = 0; column < n; column++) {
    let best = column;
    for (let row = column + 1; row < n; row++)
      if (Math.abs(rows[row]?.[column] as number) > Math.abs(rows[best]?.[column] as number)) best = row;
    const pivot = rows[best] as number[];
    if (Math.abs(pivot[column] as number) < 1e-9) return null;
    rows[best] = rows[column] as number[];
    rows[column] = pivot;
    for (let row = 0; row < n; row++) {
      const one = rows[row] as number[];
      if (row === column || one[column] === 0) continue;
      const factor = (one[column] as number) / (pivot[column] as number);
      for (let k = column; k <= n; k++) one[k] = (one[k] as number) - factor * (pivot[k] as number);
    }
  }
  return rows.map((row, i) => (row[n] as number) / (row[i] as number));
}

/** Where a place of the sheet is in the picture. */
export function mapped(h: Homography, { x, y }: Place): Place {
  const w = (h[6] as number) * x + (h[7] as number) * y + (h[8] as number);
  return {
    x: ((h[0] as number) * x + (h[1] as number) * y + (h[2] as number)) / w,
    y: ((h[3] as number) * x + (h[4] as number) * y + (h[5] as number)) / w,
  };
}

/** How far two places lie apart. */
export const apart = (a: Place, b: Place): number => Math.hypot(a.x - b.x, a.y - b.y);
