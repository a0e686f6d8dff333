/** What was seen of a sheet on one picture of a camera that goes on. */
export type SeenSheet = {
  /** Its code. */
  code: string;
  /** Rows in doubt on this picture; null where the sheet could not be read on it. */
  doubts: number | null;
};

/** A sheet before the camera: on how many pictures it was read, and the best of them. */
export type HeldSheet<Seen extends SeenSheet> = { read: number; best: Seen };

/** A sheet with doubts is looked at on so many pictures before the best of them is taken: a hand may have moved. */
export const mostLooks = 4;

/**
 * Looks at one more picture of a sheet.
 *
 * @param held what was seen of it before
 * @returns the picture that is taken, once it is good enough; else what is known of the sheet now
 */
export function looked<Seen extends SeenSheet>(
  held: HeldSheet<Seen> | undefined,
  seen: Seen,
): { take: Seen } | { held: HeldSheet<Seen> | undefined } {
  if (seen.doubts === null) return { held };
  const best = held && (held.best.doubts as number) <= seen.doubts ? held.best : seen;
  const read = (held?.read ?? 0) + 1;
  // What has no doubt is nevertheless seen twice: on the first picture the sheet may still be coming in.
  return (best.doubts === 0 && read >= 2) || read >= mostLooks ? { take: best } : { held: { read, best } };
}
