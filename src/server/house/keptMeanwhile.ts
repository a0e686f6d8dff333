import { merged } from '@/core/base/merge';
import { ok, type Problem, type Result } from '@/core/base/result';

/** Says that others kept something else since a page was opened, so that nothing of theirs was overwritten. */
export const keptMeanwhile = (what: string): Problem => ({
  code: 'conflict',
  message: `Somebody else has kept other ${what} since this page was opened, and nothing was overwritten. Look at both, and save again.`,
});

/**
 * What was changed on a page, joined with what others have kept since: refused where both changed the same place.
 *
 * @param seen what stood on the page; undefined where what is sent holds as it is
 * @param what how it is called, for the refusal
 */
export function joinedWithKept<T>(seen: T | undefined, changed: T, now: T, what: string): Result<T> {
  if (seen === undefined) return ok(changed);
  const { value, clashes } = merged(seen, changed, now);
  return clashes.length ? { ok: false, problems: [keptMeanwhile(what)] } : ok(value);
}
