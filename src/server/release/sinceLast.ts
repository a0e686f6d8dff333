import { and, desc, eq, inArray, lt } from 'drizzle-orm';
import { type Instant, momentText } from '@/core/base/time';
import { bandTold } from '@/core/gradebook/bands';
import { type ScoreChange, scoreChangeSaid } from '@/core/marking/scoreChange';
import { whyPoints } from '@/core/marking/whyPoints';
import type { Db, Tx } from '@/db/client';
import { attempt, publication } from '@/db/schema';
import { type MarkedSlot, markedSlots, paperAdjustments } from '../marking/markedSlots';
import type { SittingRow } from '../records/audience';
import { bandsFor } from '../records/bandsHeld';
import type { Published } from '../records/published';

type Told = typeof publication.$inferSelect;

/** What a student was told of a sitting before what stands published now; null where that is the first. */
export const toldBefore = (db: Db | Tx, row: SittingRow, userId: string, { id }: Pick<Published, 'id'>): Told | null =>
  db
    .select()
    .from(publication)
    .where(
      and(
        eq(publication.sittingId, row.id),
        eq(publication.userId, userId),
        eq(publication.preliminary, false),
        lt(publication.id, id),
      ),
    )
    .orderBy(desc(publication.id))
    .limit(1)
    .get() ?? null;

/** When what was published last to a student was taken back, where nothing stands published since; else null. */
export function takenBackAt(db: Db | Tx, sittingId: string, userId: string, at: Instant): Instant | null {
  const last = db
    .select()
    .from(publication)
    .where(
      and(
        eq(publication.sittingId, sittingId),
        eq(publication.userId, userId),
        eq(publication.preliminary, false),
        lt(publication.publishedAt, at + 1),
      ),
    )
    .orderBy(desc(publication.id))
    .limit(1)
    .get();
  return last?.withdrawnAt != null && last.withdrawnAt <= at ? last.withdrawnAt : null;
}

/**
 * What has changed for a student between what was published before and what stands published now, and why: in sentences for
 * the student, from the marks as they were at either moment.
 *
 * @param byQuestion whether the student sees what single questions brought
 * @returns nothing where it is the first time, or both say the same
 */
export function sinceLast(
  db: Db | Tx,
  row: SittingRow,
  userId: string,
  published: Published,
  zone: string,
  byQuestion: boolean,
): string[] {
  if (published.preliminary) return [];
  const before = toldBefore(db, row, userId, published);
  return before ? scoreChangeSaid(changeOf(db, row, before, published, zone), byQuestion) : [];
}

function changeOf(db: Db | Tx, row: SittingRow, before: Told, now: Published, zone: string): ScoreChange {
  const asOf = ({ attemptIds, publishedAt }: Pick<Published, 'attemptIds' | 'publishedAt'>) =>
    new Map(attemptIds.map((id) => [id, publishedAt] as const));
  const held = bandsFor(db, row);
  const isTold = before.told !== null && now.told !== null;
  const told = (one: Pick<Published, 'earned' | 'possible' | 'told'>) => ({
    earned: one.earned,
    possible: one.possible,
    band: isTold ? ((one.told ?? bandTold(held, one)).band?.label ?? null) : null,
  });
  const counted = new Set(before.attemptIds);
  const others = now.attemptIds.filter((id) => !counted.has(id));
  const kept = now.attemptIds.filter((id) => counted.has(id));
  const then = [...markedSlots(db, kept, asOf(before)).values()].flat();
  const pointsThen = new Map(then.map((one) => [one.slot.id, countedPoints(one)]));
  const papersThen = paperAdjustments(db, kept, asOf(before));
  const papersNow = paperAdjustments(db, kept, asOf(now));
  return {
    before: { ...told(before), until: momentText(now.publishedAt, zone) },
    now: told(now),
    otherAttempts: others.length
      ? db
          .select({ number: attempt.number })
          .from(attempt)
          .where(inArray(attempt.id, others))
          .all()
          .map((one) => one.number)
          .sort((a, b) => a - b)
      : [],
    questions: [...markedSlots(db, kept, asOf(now)).values()].flat().flatMap((one) => {
      const [from, to] = [pointsThen.get(one.slot.id) ?? null, countedPoints(one)];
      return from === to
        ? []
        : [{ number: one.slot.position + 1, from, to, why: one.newest && whyPoints(one.newest, one.anew) }];
    }),
    papers: kept.flatMap((id) => {
      const [from, to] = [papersThen.get(id)?.points ?? 0, papersNow.get(id)?.points ?? 0];
      return from === to ? [] : [{ from, to, reason: papersNow.get(id)?.reason ?? '' }];
    }),
  };
}

/** The points with which a place counts; null where it does not count, or not yet. */
const countedPoints = ({ newest }: MarkedSlot): number | null =>
  newest === null || newest.kind === 'left-out' ? null : newest.points;
