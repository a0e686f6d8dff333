/** A statement takes only so many values at once; more are asked for in slices. */
const most = 500;

/** Runs a query over ids in slices, and gives all rows together. */
export function inSlices<Row>(ids: readonly string[], run: (slice: string[]) => Row[]): Row[] {
  const all: Row[] = [];
  for (let i = 0; i < ids.length; i += most) for (const one of run(ids.slice(i, i + most))) all.push(one);
  return all;
}
