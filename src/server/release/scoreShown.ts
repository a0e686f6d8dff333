import type { Instant } from '@/core/base/time';
import { type Band, bandTold } from '@/core/gradebook/bands';
import { isDone } from '@/core/gradebook/completion';
import type { Fact } from '@/core/release/plan';
import type { SittingRow } from '../records/audience';
import type { BandsHeld } from '../records/bandsHeld';
import type { Published } from '../records/published';

export type ReviewScore = {
  earned: number;
  possible: number;
  preliminary: boolean;
  /** What of a preliminary score is marked: points of the questions that have a mark, and how many have none. */
  marked: number;
  waiting: number;
  publishedAt: Instant;
  band: Band | null;
  decimals: number;
};

/**
 * What of a publication a student sees: the score with its band, and whether they are done with the sitting.
 *
 * @param held the bands as they are now, for what was published before bands were kept with it
 */
export function scoreShown(
  row: SittingRow,
  published: Omit<Published, 'id' | 'attemptIds'> | null,
  visible: ReadonlySet<Fact>,
  held: BandsHeld,
): { score: ReviewScore | null; done: boolean | null } {
  const shown = visible.has('score') ? published : null;
  const done = isDone(row.completion, shown && !shown.preliminary ? shown : null);
  if (!shown) return { score: null, done };
  const { earned, possible, preliminary, marked, waiting, publishedAt: at } = shown;
  const { band, decimals } = shown.told ?? bandTold(held, shown);
  return {
    score: {
      earned,
      possible,
      preliminary,
      marked: marked ?? possible,
      waiting,
      publishedAt: at,
      // A band is the last word on a result; a preliminary score has none.
      band: preliminary ? null : band,
      decimals,
    },
    done,
  };
}
