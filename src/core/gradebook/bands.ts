import { roundHalfUp } from '../base/rounding';

/** A named range of percent: from its boundary up to the next. */
export type Band = {
  label: string;
  /** In percent of what can be earned, 0 to 100; the lowest band begins at 0. */
  from: number;
  /** What goes to the student with the result; empty for nothing. */
  comment: string;
};

type BandProblem = { index: number; field: 'label' | 'from'; message: string };

const shown = (percent: number) => `${percent} %`;

/**
 * What is wrong with bands, listed from the highest to the lowest: boundaries out of order or the same, outside 0 to 100,
 * without a label, or leaving the lowest results without a band.
 */
export function bandProblems(bands: readonly Band[]): BandProblem[] {
  const found: BandProblem[] = [];
  bands.forEach((band, index) => {
    const problem = (field: BandProblem['field'], message: string) => found.push({ index, field, message });
    const above = bands[index - 1];
    if (band.label.trim() === '') problem('label', 'A band needs a label.');
    else if (bands.findIndex((one) => one.label.trim() === band.label.trim()) < index)
      problem('label', `“${band.label.trim()}” is there twice.`);
    if (!Number.isFinite(band.from) || band.from < 0 || band.from > 100)
      problem('from', 'A boundary lies between 0 and 100 %.');
    else if (above && band.from === above.from)
      problem('from', `“${band.label}” and “${above.label}” begin at the same boundary of ${shown(band.from)}.`);
    else if (above && band.from > above.from)
      problem(
        'from',
        `“${band.label}” begins at ${shown(band.from)}, above “${above.label}” with ${shown(above.from)}.`,
      );
  });
  const lowest = bands.at(-1);
  if (lowest && Number.isFinite(lowest.from) && lowest.from > 0)
    found.push({
      index: bands.length - 1,
      field: 'from',
      message: `Results below ${shown(lowest.from)} have no band: the lowest begins at 0 %.`,
    });
  return found;
}

/**
 * The band of a result. It applies to the percent as it is displayed, so that nobody is shown 70.0 % and the band below 70.
 *
 * @param bands from the highest to the lowest
 * @param decimals with which the percent is displayed
 * @returns null where there are no bands
 */
export function bandOf(bands: readonly Band[], percent: number, decimals: number): Band | null {
  const displayed = Number(roundHalfUp(percent, decimals));
  return bands.find((band) => displayed >= band.from) ?? bands.at(-1) ?? null;
}

/** What a student was told with a result besides its points: the band, null for none, and the decimals of its percent. */
export type BandTold = { band: Band | null; decimals: number };

/** What a result is told with by the bands of a moment. A paper without points has no band. */
export const bandTold = (
  { bands, decimals }: { bands: readonly Band[]; decimals: number },
  { earned, possible }: { earned: number; possible: number },
): BandTold => ({ band: possible > 0 ? bandOf(bands, (earned / possible) * 100, decimals) : null, decimals });

/** Whether a student reads the same in both: the label and the comment of the band, wherever its boundary lies. */
export const readsAlike = (one: BandTold, other: BandTold): boolean =>
  (one.band?.label ?? null) === (other.band?.label ?? null) &&
  (one.band?.comment ?? '') === (other.band?.comment ?? '');

/** A student whose band changes: their percent, and the bands before and after by label. */
export type Crossing = { userId: string; percent: number; from: string; to: string };

/** Who gets another band when boundaries move: those below come to stand higher, or the other way round. */
export function crossings(
  before: readonly Band[],
  after: readonly Band[],
  results: readonly { userId: string; percent: number }[],
  decimals: number,
): Crossing[] {
  return results.flatMap(({ userId, percent }) => {
    const from = bandOf(before, percent, decimals)?.label ?? '';
    const to = bandOf(after, percent, decimals)?.label ?? '';
    return from === to ? [] : [{ userId, percent, from, to }];
  });
}

type NearBoundary = { userId: string; percent: number; band: string; boundary: number; apart: number };

/**
 * Whose result lies within one standard error of measurement of a boundary, on either side: chance alone could have put
 * them on the other. The boundary at 0 is none.
 *
 * @param error in percent
 */
export function nearBoundaries(
  bands: readonly Band[],
  results: readonly { userId: string; percent: number }[],
  error: number,
  decimals: number,
): NearBoundary[] {
  const boundaries = bands.filter((band) => band.from > 0);
  return results.flatMap(({ userId, percent }) => {
    const closest = [...boundaries].sort((a, b) => Math.abs(a.from - percent) - Math.abs(b.from - percent))[0];
    if (!closest || Math.abs(closest.from - percent) > error) return [];
    const band = bandOf(bands, percent, decimals)?.label ?? '';
    return [{ userId, percent, band, boundary: closest.from, apart: percent - closest.from }];
  });
}

/** How many results lie in each band, in the order of the bands. */
export function bandCounts(bands: readonly Band[], percents: readonly number[], decimals: number): number[] {
  const labels = percents.map((percent) => bandOf(bands, percent, decimals)?.label);
  return bands.map((band) => labels.filter((label) => label === band.label).length);
}
