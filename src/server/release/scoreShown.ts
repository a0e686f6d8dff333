import { eq } from 'drizzle-orm';
import type { Instant } from '@/core/base/time';
import { type Band, bandOf } from '@/core/gradebook/bands';
import { isDone } from '@/core/gradebook/completion';
import { type GradebookRules, usualGradebookRules } from '@/core/gradebook/gradebookRules';
import type { Fact } from '@/core/release/plan';
import type { Db } from '@/db/client';
import { course } from '@/db/schema';
import type { SittingRow } from '../records/audience';
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

type BandsHeld = { bands: readonly Band[]; decimals: number };

/** The bands that hold for a sitting's results, its own or its course's, and with how many decimals percent are shown. */
export function bandsOf(row: SittingRow, gradebook: GradebookRules | null): BandsHeld {
  const rules = gradebook ?? usualGradebookRules;
  return { bands: row.bands ?? rules.bands, decimals: rules.decimals };
}

export const bandsFor = (db: Db, row: SittingRow): BandsHeld =>
  bandsOf(
    row,
    db.select({ gradebook: course.gradebook }).from(course).where(eq(course.id, row.courseId)).get()?.gradebook ?? null,
  );

/** What of a publication a student sees: the score with its band, and whether they are done with the sitting. */
export function scoreShown(
  row: SittingRow,
  published: Omit<Published, 'id' | 'attemptIds'> | null,
  visible: ReadonlySet<Fact>,
  { bands, decimals }: BandsHeld,
): { score: ReviewScore | null; done: boolean | null } {
  const shown = visible.has('score') ? published : null;
  const done = isDone(row.completion, shown && !shown.preliminary ? shown : null);
  if (!shown) return { score: null, done };
  const { earned, possible, preliminary, marked, waiting, publishedAt: at } = shown;
  return {
    score: {
      earned,
      possible,
      preliminary,
      marked: marked ?? possible,
      waiting,
      publishedAt: at,
      // A band is the last word on a result; a preliminary score has none.
      band: preliminary || possible <= 0 ? null : bandOf(bands, (earned / possible) * 100, decimals),
      decimals,
    },
    done,
  };
}
