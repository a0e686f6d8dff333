/** One line of the bench: a figure beside its baseline from the same run. */
export type Figure = {
  name: string;
  value: number;
  unit: string;
  baseline: number;
  ratio: number;
  [more: string]: unknown;
};

const round = (value: number) => Number(value.toPrecision(4));

export function report(figure: Figure): void {
  const { name, value, unit, baseline, ratio, ...more } = figure;
  console.log(
    JSON.stringify({ name, value: round(value), unit, baseline: round(baseline), ratio: round(ratio), ...more }),
  );
}

export function median(values: readonly number[]): number {
  const sorted = [...values].sort((a, b) => a - b);
  const middle = sorted.length >> 1;
  return sorted.length % 2
    ? (sorted[middle] as number)
    : ((sorted[middle - 1] as number) + (sorted[middle] as number)) / 2;
}

/**
 * Runs a piece of work and its baseline in turn, each for at least a second a time.
 *
 * @param work does `units` units of work once
 * @returns milliseconds a unit, the medians over the rounds
 */
export function inTurn(
  rounds: number,
  units: number,
  work: () => void,
  baseline: () => void,
): { work: number; baseline: number } {
  const times: { work: number[]; baseline: number[] } = { work: [], baseline: [] };
  const timed = (run: () => void) => {
    const start = performance.now();
    let done = 0;
    do {
      run();
      done += units;
    } while (performance.now() - start < 1_000);
    return (performance.now() - start) / done;
  };
  work();
  baseline();
  for (let i = 0; i < rounds; i++) {
    times.work.push(timed(work));
    times.baseline.push(timed(baseline));
  }
  return { work: median(times.work), baseline: median(times.baseline) };
}
