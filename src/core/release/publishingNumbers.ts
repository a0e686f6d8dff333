/** What publishing would do, in numbers, before it does. Everyone is in exactly one of them but `changed` and `published`. */
export type PublishingNumbers = {
  /** Published, and as it stands now. */
  standing: number;
  /** Completely marked and not published as they stand now. */
  ready: number;
  /** Of the ready ones, those that differ from what was published before. */
  changed: number;
  stillToMark: number;
  notHandedIn: number;
  running: number;
  excused: number;
  /** All that stands published, changed since or not. */
  published: number;
};

/** Counts the rows of a results page for the publish sentence. */
export function publishingNumbers(
  rows: readonly { state: string; result: { ready: boolean } | null; published: unknown; changed: boolean }[],
): PublishingNumbers {
  const numbers = {
    standing: 0,
    ready: 0,
    changed: 0,
    stillToMark: 0,
    notHandedIn: 0,
    running: 0,
    excused: 0,
    published: 0,
  };
  for (const row of rows) {
    if (row.published) numbers.published += 1;
    if (row.published && !row.changed) numbers.standing += 1;
    else if (row.result?.ready) {
      numbers.ready += 1;
      if (row.changed) numbers.changed += 1;
    } else if (row.state === 'running') numbers.running += 1;
    else if (row.result) numbers.stillToMark += 1;
    else if (row.state === 'excused') numbers.excused += 1;
    else numbers.notHandedIn += 1;
  }
  return numbers;
}
