import { and, asc, eq, inArray, isNull, max, ne, or } from 'drizzle-orm';
import { grouped } from '@/core/base/grouped';
import type { Instant } from '@/core/base/time';
import { heldBack, leakKey } from '@/core/release/leakCheck';
import { type Fact, keyFacts, type ReleasePlan } from '@/core/release/plan';
import { openableOnce, opensOnce, type ReleaseFacts, type Views, visibleTo } from '@/core/release/visibleTo';
import { closesFor, doneAt, overForEveryone, soFarOf } from '@/core/sitting/clock';
import type { Arrangement } from '@/core/sitting/rules';
import type { Db, Tx } from '@/db/client';
import { arrangement, attempt, audit, course, membership, publication, releaseView, sitting } from '@/db/schema';
import { keptWhile } from '../house/keptWhile';
import { arrangementOf, hasTaken, planOf, rulesOf, type SittingRow } from '../records/audience';
import { pinnedDesign } from '../records/pinnedDesign';
import { leakSitting, leaksOf, writingsOf } from '../sitting/leaksOf';
import { standingsOf } from '../sitting/standings';

/** A student of a sitting, with what is arranged for them. */
export type Whom = { userId: string; arrangement: Arrangement };

/**
 * A student in sittings of courses they are in, with what is arranged for them in each. Whoever left a section, or the
 * course, keeps what they took; of the rest of it whoever left the course knows nothing.
 */
export function whomInAll(
  db: Db | Tx,
  rows: readonly SittingRow[],
  userId: string,
): Map<string, Whom & { timeZone: string }> {
  const found = db
    .select({ id: sitting.id, standing: membership.standing, own: arrangement, timeZone: course.timeZone })
    .from(sitting)
    .innerJoin(course, eq(course.id, sitting.courseId))
    .innerJoin(membership, and(eq(membership.courseId, course.id), eq(membership.userId, userId)))
    .leftJoin(arrangement, and(eq(arrangement.sittingId, sitting.id), eq(arrangement.userId, membership.userId)))
    .where(
      and(
        inArray(
          sitting.id,
          rows.map((row) => row.id),
        ),
        eq(sitting.state, 'scheduled'),
        eq(membership.role, 'student'),
        or(isNull(membership.removedAt), hasTaken),
        // Whoever came by the link of one sitting knows of no other.
        or(isNull(membership.onlySitting), eq(membership.onlySitting, sitting.id)),
      ),
    )
    .all();
  return new Map(
    found.map(({ id, standing, own, timeZone }) => [
      id,
      { userId, arrangement: arrangementOf(standing, own), timeZone },
    ]),
  );
}

/** The same for one sitting; null for anyone who is no student of its course. */
export const whomIn = (db: Db | Tx, row: SittingRow, userId: string): (Whom & { timeZone: string }) | null =>
  whomInAll(db, [row], userId).get(row.id) ?? null;

type Rows = {
  attempts: Pick<
    typeof attempt.$inferSelect,
    'sittingId' | 'userId' | 'state' | 'startedAt' | 'endedAt' | 'added' | 'number'
  >[];
  publications: Pick<
    typeof publication.$inferSelect,
    'sittingId' | 'userId' | 'publishedAt' | 'withdrawnAt' | 'preliminary'
  >[];
  views: (typeof releaseView.$inferSelect)[];
};

/** @param userId only this student's rows; everyone's where it is null */
function rowsOf(db: Db | Tx, sittingIds: readonly string[], userId: string | null): Rows {
  const which = (table: typeof attempt | typeof publication | typeof releaseView) =>
    and(inArray(table.sittingId, [...sittingIds]), userId === null ? undefined : eq(table.userId, userId));
  return {
    attempts: db
      .select({
        sittingId: attempt.sittingId,
        userId: attempt.userId,
        state: attempt.state,
        startedAt: attempt.startedAt,
        endedAt: attempt.endedAt,
        added: attempt.added,
        number: attempt.number,
      })
      .from(attempt)
      .where(and(which(attempt), ne(attempt.state, 'voided')))
      .orderBy(asc(attempt.number))
      .all(),
    publications: db
      .select({
        sittingId: publication.sittingId,
        userId: publication.userId,
        publishedAt: publication.publishedAt,
        withdrawnAt: publication.withdrawnAt,
        preliminary: publication.preliminary,
      })
      .from(publication)
      .where(which(publication))
      .orderBy(asc(publication.id))
      .all(),
    views: db.select().from(releaseView).where(which(releaseView)).all(),
  };
}

/**
 * What lies between one student and a sitting at a moment, which may be another than now: what came later is left out, as
 * if it had not happened.
 */
function factsAt(row: SittingRow, whom: Whom, rows: Rows, overAt: Instant | null, at: Instant): ReleaseFacts {
  const rules = rulesOf(row);
  const isOwn = (one: { sittingId: string; userId: string }) => one.sittingId === row.id && one.userId === whom.userId;
  const own = rows.attempts
    .filter((one) => isOwn(one) && one.startedAt <= at)
    .map((one) =>
      one.endedAt !== null && one.endedAt > at ? { ...one, state: 'running' as const, endedAt: null } : one,
    );
  return {
    attempts: {
      handedIn: own.flatMap((one) => (one.state === 'handed-in' && one.endedAt !== null ? [one.endedAt] : [])),
      doneAt: doneAt(rules, whom.arrangement, soFarOf(own)),
      closes: closesFor(rules, whom.arrangement),
    },
    audience: { closes: row.closes, overAt },
    publications: rows.publications
      .filter((one) => isOwn(one) && one.publishedAt <= at)
      .map((one) => (one.withdrawnAt !== null && one.withdrawnAt > at ? { ...one, withdrawnAt: null } : one)),
    views: Object.fromEntries(
      rows.views.flatMap((one) => (isOwn(one) && one.openedAt <= at ? [[one.fact, one.openedAt]] : [])),
    ) as Views,
  };
}

const needsOver = (plan: ReleasePlan): boolean =>
  Object.values(plan).some((windows) => windows.some((window) => window.begins.kind === 'over-for-everyone'));

/** When a sitting is over for everyone, asked only where its plan waits for it. */
function overAtOf(db: Db | Tx, row: SittingRow, plan: ReleasePlan, zone: string, now: Instant): Instant | null {
  return needsOver(plan) ? overForEveryone(rulesOf(row), zone, standingsOf(db, row), now) : null;
}

/** What lies between one student and a sitting; see {@link factsAt}. */
export function releaseFactsFor(
  db: Db | Tx,
  row: SittingRow,
  whom: Whom,
  zone: string,
  now: Instant,
  at: Instant = now,
): ReleaseFacts {
  const overAt = overAtOf(db, row, planOf(row), zone, now);
  return factsAt(row, whom, rowsOf(db, [row.id], whom.userId), overAt, at);
}

/** The same for one student in many sittings, in as many statements as for one. */
export function releaseFactsInAll(
  db: Db | Tx,
  sittings: readonly SittingRow[],
  whoms: ReadonlyMap<string, Whom & { timeZone: string }>,
  userId: string,
  now: Instant,
): Map<string, ReleaseFacts> {
  const rows = rowsOf(
    db,
    sittings.map((row) => row.id),
    userId,
  );
  return new Map(
    sittings.flatMap((row) => {
      const whom = whoms.get(row.id);
      if (!whom) return [];
      return [[row.id, factsAt(row, whom, rows, overAtOf(db, row, planOf(row), whom.timeZone, now), now)] as const];
    }),
  );
}

/** The same for everyone of a sitting, in as many statements as for one. */
export function releaseFactsForAll(
  db: Db | Tx,
  row: SittingRow,
  students: readonly Whom[],
  zone: string,
  now: Instant,
): Map<string, ReleaseFacts> {
  const rows = rowsOf(db, [row.id], null);
  const overAt = overAtOf(db, row, planOf(row), zone, now);
  const attempts = grouped(rows.attempts, (one) => one.userId);
  const publications = grouped(rows.publications, (one) => one.userId);
  const views = grouped(rows.views, (one) => one.userId);
  return new Map(
    students.map((whom) => [
      whom.userId,
      factsAt(
        row,
        whom,
        {
          attempts: attempts.get(whom.userId) ?? [],
          publications: publications.get(whom.userId) ?? [],
          views: views.get(whom.userId) ?? [],
        },
        overAt,
        now,
      ),
    ]),
  );
}

const keptWritings = keptWhile<ReturnType<typeof writingsOf>>();

/** What anybody does that moves a deadline is in the log; the passing of time is looked at with the writings. */
const stampOf = (db: Db, now: Instant): string => {
  const log = db
    .select({ last: max(audit.id) })
    .from(audit)
    .get();
  return `${log?.last}/${Math.floor(now / 20_000)}`;
};

/** How late anyone may still be writing the questions of a sitting; kept for as long as nothing moves, and a little while. */
export const writingsNow = (db: Db, row: SittingRow, now: Instant): ReturnType<typeof writingsOf> =>
  keptWritings(
    db,
    row.id,
    () => stampOf(db, now),
    () => writingsOf(db, row, pinnedDesign(db, row.revisionId), now),
  );

export type Shown = {
  /** What the student may see now. */
  visible: Set<Fact>;
  /** What the plan shows and is held back since someone may still be writing the same questions, and until when. */
  held: Map<Fact, Instant>;
};

/** Of some facts those that are held back now, and until when. */
function heldOf(db: Db, row: SittingRow, some: ReadonlySet<Fact>, now: Instant): Shown['held'] {
  if (keyFacts.every((fact) => !some.has(fact))) return new Map();
  const taken = (row.acknowledged ?? []).flatMap((one) => one.leak ?? []);
  return heldBack(leakSitting(row), some, writingsNow(db, row, now), taken, now);
}

/**
 * Until when a fact of a sitting that is shown at a moment is held back for others who may be writing then; null where it
 * is not. Of what lies ahead, as things stand now.
 */
export function heldAt(db: Db, row: SittingRow, now: Instant): (fact: Fact, at: Instant) => Instant | null {
  const taken = (row.acknowledged ?? []).flatMap((one) => one.leak ?? []);
  return (fact, at) =>
    keyFacts.includes(fact)
      ? (heldBack(leakSitting(row), new Set([fact]), writingsNow(db, row, now), taken, at).get(fact) ?? null)
      : null;
}

/** What a student may see of a sitting: what its plan shows, without what would give away keys to those still writing. */
export function shownTo(db: Db, row: SittingRow, released: ReleaseFacts, now: Instant): Shown {
  const visible = visibleTo(planOf(row), released, now);
  const held = heldOf(db, row, visible, now);
  for (const fact of held.keys()) visible.delete(fact);
  return { visible, held };
}

/**
 * What a student can open once now, and what of it is held back; see {@link openableOnce}.
 */
export function onceTo(
  db: Db,
  row: SittingRow,
  released: ReleaseFacts,
  now: Instant,
): { once: ReturnType<typeof opensOnce>; held: Shown['held'] } {
  const all = opensOnce(planOf(row), released, now);
  const held = heldOf(db, row, new Set(all.map((one) => one.fact)), now);
  return { once: openableOnce(all, held.size > 0), held };
}

const keptHeld = keptWhile<{ until: Instant | null }>();

/**
 * Until when something that the plan of a sitting promises is held back for everyone, because others may still be writing
 * the same questions and nobody has taken that on; null where nothing is, ∞ where nothing ends it.
 */
export const heldUntil = (db: Db, row: SittingRow, now: Instant): Instant | null =>
  keptHeld(
    db,
    row.id,
    () => stampOf(db, now),
    () => {
      const known = new Set((row.acknowledged ?? []).map((one) => one.key));
      const open = leaksOf(db, row, pinnedDesign(db, row.revisionId), now).filter((leak) => !known.has(leakKey(leak)));
      return { until: open.length ? Math.max(...open.map((leak) => leak.latest)) : null };
    },
  ).until;
