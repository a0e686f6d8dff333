import { pointsText } from '@/core/base/rounding';
import type { MarkKind } from '@/core/marking/marks';

export const kindSaid: Record<MarkKind, string> = {
  automatic: 'by the key',
  hand: 'by hand',
  adjusted: 'adjusted',
  settled: 'settled',
  'left-out': 'out of the total',
};

/** @example creditSaid(1.5, 2) // '75 %' */
export const creditSaid = (points: number, outOf: number): string =>
  outOf > 0 ? `${pointsText((100 * points) / outOf)} %` : '–';

/** What an answer earned, in words. */
export const earnedSaid = (points: number | null, kind: MarkKind | null, outOf: number): string =>
  kind === 'left-out'
    ? 'out of the total'
    : points === null
      ? 'waits'
      : `${pointsText(points)} of ${pointsText(outOf)}`;
