/** What publishing would do, in numbers, before it does. */
export type PublishingNumbers = {
  /** Completely marked and not published as they stand now. */
  ready: number;
  /** Of the ready ones, those that differ from what was published before. */
  changed: number;
  stillToMark: number;
  notHandedIn: number;
  running: number;
  published: number;
};

/** Counts the rows of a results page for the publish sentence. */
export function publishingNumbers(
  rows: readonly { state: string; result: { ready: boolean } | null; published: unknown; changed: boolean }[],
): PublishingNumbers {
  const numbers = { ready: 0, changed: 0, stillToMark: 0, notHandedIn: 0, running: 0, published: 0 };
  for (const row of rows) {
    if (row.published) numbers.published += 1;
    if (row.state === 'running') numbers.running += 1;
    if (row.state === 'not-started') numbers.notHandedIn += 1;
    if (!row.result) continue;
    if (!row.result.ready) numbers.stillToMark += 1;
    else if (!row.published || row.changed) {
      numbers.ready += 1;
      if (row.changed) numbers.changed += 1;
    }
  }
  return numbers;
}
