import { eq } from 'drizzle-orm';
import { grouped } from '@/core/base/grouped';
import { type SittingResult, sittingResult } from '@/core/marking/sittingResult';
import type { Db } from '@/db/client';
import { sitting } from '@/db/schema';
import type { Context } from '../house/context';
import { keptWhile } from '../house/keptWhile';
import { type BandsHeld, bandsOf, gradebookRulesOf } from '../records/bandsHeld';
import { scoredAttempts } from '../records/newestMarks';
import { coursePublications, tellsAnew } from '../records/published';
import { stateStamp } from '../records/stateStamp';
import { resultsOf } from './results';

/** Results of a course that are ready: those not published, and those that differ from what was. */
type ChangedSince = {
  /** How many are ready and not published, by sitting. */
  ready: Map<string, number>;
  /** By sitting, the students whose result has changed since it was published. */
  changed: Map<string, Set<string>>;
};

/** A course has tens of thousands of marks, and its desk is the page people come back to. */
const looked = keptWhile<ChangedSince>();

/** What could be published in a course, and what has changed since it was. Asked for by those who were admitted before. */
export const changedSince = ({ db }: Context, courseId: string): ChangedSince =>
  looked(db, courseId, stateStamp, () => publishable(db, courseId));

function publishable(db: Db, courseId: string): ChangedSince {
  const rows = db.select().from(sitting).where(eq(sitting.courseId, courseId)).all();
  const attempts = grouped(scoredAttempts(db, { courseId }), (one) => `${one.sittingId}/${one.userId}`);
  const published = new Map(coursePublications(db, courseId).map((row) => [`${row.sittingId}/${row.userId}`, row]));
  const found: ChangedSince = { ready: new Map(), changed: new Map() };
  const rules = gradebookRulesOf(db, courseId);
  const held = new Map(rows.map((row) => [row.id, bandsOf(row, rules)]));
  const counts = new Map(rows.map((row) => [row.id, row.attemptCounts]));
  const tally = (sittingId: string, userId: string, result: SittingResult | null) => {
    if (!result?.ready) return;
    const before = published.get(`${sittingId}/${userId}`);
    if (!before) found.ready.set(sittingId, (found.ready.get(sittingId) ?? 0) + 1);
    else if (tellsAnew(before, result, held.get(sittingId) as BandsHeld))
      found.changed.set(sittingId, (found.changed.get(sittingId) ?? new Set()).add(userId));
  };
  for (const own of attempts.values()) {
    const { sittingId, userId } = own[0] as (typeof own)[number];
    tally(sittingId, userId, sittingResult(own, counts.get(sittingId) ?? 'best'));
  }
  for (const row of rows)
    if (row.counts === 'taking-part' && (!row.scored || row.anonymous))
      for (const [userId, { result }] of resultsOf(db, row)) tally(row.id, userId, result);
  return found;
}
