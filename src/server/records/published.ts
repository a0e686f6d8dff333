import { and, asc, desc, eq, gt, isNull, lte, or } from 'drizzle-orm';
import type { Instant } from '@/core/base/time';
import { type BandTold, bandTold, readsAlike } from '@/core/gradebook/bands';
import type { SittingResult } from '@/core/marking/sittingResult';
import type { Db, Tx } from '@/db/client';
import { publication, sitting } from '@/db/schema';
import type { BandsHeld } from './bandsHeld';

/** What was published last and stands, not withdrawn. */
export type Published = {
  id: number;
  earned: number;
  possible: number;
  marked: number | null;
  waiting: number;
  preliminary: boolean;
  attemptIds: string[];
  told: BandTold | null;
  publishedAt: Instant;
};

/**
 * What stands published of a sitting, by student.
 *
 * @param preliminary whether scores that a moment of the plan showed before publishing are among it; what was published
 * comes before them; `at` asks for what stood at another moment
 */
export function standingPublications(
  db: Db | Tx,
  sittingId: string,
  { preliminary = false, userId, at }: { preliminary?: boolean; userId?: string; at?: Instant } = {},
): Map<string, Published> {
  const rows = db
    .select()
    .from(publication)
    .where(
      and(
        eq(publication.sittingId, sittingId),
        at === undefined
          ? isNull(publication.withdrawnAt)
          : and(lte(publication.publishedAt, at), or(isNull(publication.withdrawnAt), gt(publication.withdrawnAt, at))),
        preliminary ? undefined : eq(publication.preliminary, false),
        userId === undefined ? undefined : eq(publication.userId, userId),
      ),
    )
    .orderBy(desc(publication.preliminary), asc(publication.id))
    .all();
  return new Map(rows.map(({ userId: of, sittingId: _, publishedBy: __, withdrawnAt: ___, ...row }) => [of, row]));
}

type Points = { earned: number; possible: number };

/** Whether two results are of the same points. */
export const samePoints = (one: Points, other: Points): boolean =>
  Math.abs(one.earned - other.earned) <= 1e-9 && Math.abs(one.possible - other.possible) <= 1e-9;

/** Whether the result that stands now is another one than was published: of other points, or resting on other attempts. */
export const differs = (published: Points & { attemptIds: readonly string[] }, result: SittingResult): boolean =>
  !samePoints(published, result) || published.attemptIds.join() !== result.from.join();

/**
 * Whether publishing again would tell a student anything new: other points, another attempt that counts, or by the bands of
 * today another band. What was published before bands were kept with it is told by those of today anyway.
 */
export const tellsAnew = (
  published: Points & { attemptIds: readonly string[]; told: BandTold | null },
  result: SittingResult,
  held: BandsHeld,
): boolean =>
  differs(published, result) || (published.told !== null && !readsAlike(published.told, bandTold(held, result)));

/** All publications of a course's gradebook sittings that stand, newest last. */
export function coursePublications(db: Db, courseId: string) {
  return db
    .select({
      sittingId: publication.sittingId,
      userId: publication.userId,
      earned: publication.earned,
      possible: publication.possible,
      publishedAt: publication.publishedAt,
      waiting: publication.waiting,
      attemptIds: publication.attemptIds,
      told: publication.told,
      id: publication.id,
    })
    .from(publication)
    .innerJoin(sitting, eq(sitting.id, publication.sittingId))
    .where(and(eq(sitting.courseId, courseId), isNull(publication.withdrawnAt), eq(publication.preliminary, false)))
    .orderBy(desc(publication.id))
    .all();
}
