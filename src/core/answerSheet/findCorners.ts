import type { GreyPicture } from './greyPicture';
import type { Place } from './sheetLayout';

/** A dark spot that can be a corner mark: its middle, the side of the square it would be, whether it is open inside. */
export type Spot = Place & { side: number; open: boolean };

/** A pixel is dark where it is this part of what lies around it, or less. */
const darkBelow = 0.72;

/**
 * Finds dark squares of the size of corner marks. Their second moments tell a square from letters and lines at any turn:
 * of a filled square with area A the moments about both axes sum up to A²/6, of one open inside to more.
 *
 * @param smallest the least side in pixels
 * @param largest the greatest side in pixels
 */
export function findSpots(picture: GreyPicture, smallest: number, largest: number): Spot[] {
  const { width, height } = picture;
  const dark = darkPixels(picture, Math.max(8, Math.round(largest * 1.6)));
  const spots: Spot[] = [];
  const stack = new Int32Array(width * height);
  const most = largest * largest * 1.6;
  for (let start = 0; start < dark.length; start++) {
    if (dark[start] !== 1) continue;
    let depth = 0;
    stack[depth++] = start;
    dark[start] = 2;
    let [n, sumX, sumY, sumXX, sumYY] = [0, 0, 0, 0, 0];
    while (depth > 0) {
      const at = stack[--depth] as number;
      const y = (at / width) | 0;
      const x = at - y * width;
      n += 1;
      sumX += x;
      sumY += y;
      sumXX += x * x;
      sumYY += y * y;
      if (x > 0 && dark[at - 1] === 1) {
        dark[at - 1] = 2;
        stack[depth++] = at - 1;
      }
      if (x < width - 1 && dark[at + 1] === 1) {
        dark[at + 1] = 2;
        stack[depth++] = at + 1;
      }
      if (y > 0 && dark[at - width] === 1) {
        dark[at - width] = 2;
        stack[depth++] = at - width;
      }
      if (y < height - 1 && dark[at + width] === 1) {
        dark[at + width] = 2;
        stack[depth++] = at + width;
      }
    }
    if (n < smallest * smallest * 0.5 || n > most) continue;
    const x = sumX / n;
    const y = sumY / n;
    const moment = (sumXX / n - x * x + (sumYY / n - y * y)) * 6;
    // 1 for a filled square; (1 + q²)/(1 − q²) for one with an open square of q times its side inside.
    const spread = moment / n;
    if (spread > 2.2) continue;
    const open = spread > 1.22;
    const side = Math.sqrt(moment / (open ? 1 + openPart * openPart : 1));
    if (side < smallest || side > largest) continue;
    // An open mark is light in its middle; a filled one is dark.
    const isDark = dark[Math.round(y) * width + Math.round(x)] !== 0;
    if (isDark === open) continue;
    spots.push({ x, y, side, open });
  }
  return spots;
}

/** The side of the open square inside the upper left corner mark, as part of the whole. */
export const openPart = 0.45;

/**
 * 1 for every pixel that is dark beside the mean of those within `reach` around it, as far as they lie on the picture. The
 * sums of a window's columns go down with it row by row, and its sum goes along from column to column.
 */
function darkPixels({ width, height, data }: GreyPicture, reach: number): Uint8Array {
  const dark = new Uint8Array(width * height);
  const columns = new Int32Array(width);
  const change = (y: number, sign: 1 | -1) => {
    for (let x = 0, at = y * width; x < width; x++, at++)
      columns[x] = (columns[x] as number) + sign * (data[at] as number);
  };
  for (let y = 0; y < Math.min(reach, height); y++) change(y, 1);
  for (let y = 0; y < height; y++) {
    if (y + reach < height) change(y + reach, 1);
    if (y > reach) change(y - reach - 1, -1);
    const high = Math.min(height, y + reach + 1) - Math.max(0, y - reach);
    let sum = 0;
    for (let x = 0; x < Math.min(reach, width); x++) sum += columns[x] as number;
    let wide = Math.min(reach, width);
    for (let x = 0, at = y * width; x < width; x++, at++) {
      if (x + reach < width) {
        sum += columns[x + reach] as number;
        wide++;
      }
      if (x > reach) {
        sum -= columns[x - reach - 1] as number;
        wide--;
      }
      if ((data[at] as number) * wide * high < sum * darkBelow) dark[at] = 1;
    }
  }
  return dark;
}
