import { and, asc, eq, inArray, isNull, or, sql } from 'drizzle-orm';
import type { Instant } from '@/core/base/time';
import { planInForce, type ReleasePlan } from '@/core/release/plan';
import {
  type Arrangement,
  mergeArrangements,
  noArrangement,
  noFurtherRules,
  type SittingRules,
} from '@/core/sitting/rules';
import type { Db, Tx } from '@/db/client';
import { preparedOnce } from '@/db/preparedOnce';
import {
  arrangement,
  attempt,
  course,
  handset,
  membership,
  publication,
  section,
  sitting,
  sittingAudience,
  user,
} from '@/db/schema';

export type SittingRow = typeof sitting.$inferSelect;

/** The release plan that holds in a sitting, its rules about learning included. */
export const planOf = (row: SittingRow): ReleasePlan => planInForce(row.releasePlan, rulesOf(row).learning);

/** The rules, as the core takes them. */
export const rulesOf = (row: SittingRow): SittingRules => ({
  opens: row.opens,
  lastStart: row.lastStart,
  due: row.due,
  closes: row.closes,
  timeLimit: row.timeLimit,
  fullTimeOnceStarted: row.fullTimeOnceStarted,
  attemptsAllowed: row.attemptsAllowed,
  attemptCounts: row.attemptCounts,
  ...noFurtherRules,
  ...row.further,
});

/** A sitting of a course; undefined when the two do not belong together. */
export const sittingOf = (db: Db | Tx, courseId: string, sittingId: string): SittingRow | undefined =>
  db
    .select()
    .from(sitting)
    .where(and(eq(sitting.id, sittingId), eq(sitting.courseId, courseId)))
    .get();

type ArrangementRow = typeof arrangement.$inferSelect | null;

/** The standing arrangement and the sitting's own, as one. */
export function arrangementOf(standing: Partial<Arrangement> | null, own: ArrangementRow): Arrangement {
  return mergeArrangements({ ...noArrangement, ...standing }, own ?? noArrangement);
}

/** A student belongs to a sitting by course, section or name, or because they came by its link or in at its door. */
export const isAddressed = or(
  and(eq(sittingAudience.kind, 'course'), isNull(membership.onlySitting)),
  and(inArray(sittingAudience.kind, ['link', 'door']), eq(membership.onlySitting, sittingAudience.sittingId)),
  and(eq(sittingAudience.kind, 'section'), eq(sittingAudience.refId, membership.sectionId)),
  and(eq(sittingAudience.kind, 'student'), eq(sittingAudience.refId, membership.userId)),
);

/**
 * Left out of whoever a sitting is given to: devices that are made up, and those of which it is known by now whose they are.
 */
const standsForItself = sql`not exists (select 1 from ${handset} where ${handset.userId} = ${membership.userId} and (${handset.madeUp} = 1 or ${handset.standsFor} is not null))`;

export type AudienceMember = {
  userId: string;
  name: string;
  lastName: string;
  /** Null where no message reaches them. */
  email: string | null;
  studentNumber: string | null;
  section: string | null;
  arrangement: Arrangement;
};

/** Everyone a sitting is given to, by name. */
export function audienceOf(db: Db | Tx, row: SittingRow): AudienceMember[] {
  const rows = db
    .selectDistinct({
      userId: user.id,
      name: user.name,
      lastName: user.lastName,
      email: user.email,
      studentNumber: membership.studentNumber,
      section: section.name,
      standing: membership.standing,
      own: arrangement,
    })
    .from(sittingAudience)
    .innerJoin(membership, and(eq(membership.courseId, row.courseId), isAddressed))
    .innerJoin(user, eq(user.id, membership.userId))
    .leftJoin(section, eq(section.id, membership.sectionId))
    .leftJoin(arrangement, and(eq(arrangement.sittingId, row.id), eq(arrangement.userId, membership.userId)))
    .where(
      and(
        eq(sittingAudience.sittingId, row.id),
        eq(membership.role, 'student'),
        isNull(membership.removedAt),
        row.isRound ? standsForItself : undefined,
      ),
    )
    .orderBy(asc(user.name))
    .all();
  return rows.map(({ standing, own, ...member }) => ({ ...member, arrangement: arrangementOf(standing, own) }));
}

/** Whether a member of the course has an attempt or a result in the sitting, whatever has become of them since. */
export const hasTaken = or(
  sql`exists (select 1 from ${attempt} where ${attempt.sittingId} = ${sitting.id} and ${attempt.userId} = ${membership.userId} and ${attempt.state} <> 'voided')`,
  sql`exists (select 1 from ${publication} where ${publication.sittingId} = ${sitting.id} and ${publication.userId} = ${membership.userId})`,
);

/** Somebody a sitting is given to, or who took it. */
export type Taker = AudienceMember & {
  /** Whether they have left the course since. */
  hasLeft: boolean;
};

/**
 * Everyone a sitting is given to, by name; then who took it, or has a result in it, and is not among them any more: who
 * went to another section, and who has left the course. Results are theirs.
 */
export function takersOf(db: Db | Tx, row: SittingRow): Taker[] {
  const audience = audienceOf(db, row);
  const given = new Set(audience.map((one) => one.userId));
  const others = db
    .select({
      userId: user.id,
      name: user.name,
      lastName: user.lastName,
      email: user.email,
      studentNumber: membership.studentNumber,
      section: section.name,
      removedAt: membership.removedAt,
      standing: membership.standing,
      own: arrangement,
    })
    .from(sitting)
    .innerJoin(membership, eq(membership.courseId, sitting.courseId))
    .innerJoin(user, eq(user.id, membership.userId))
    .leftJoin(section, eq(section.id, membership.sectionId))
    .leftJoin(arrangement, and(eq(arrangement.sittingId, row.id), eq(arrangement.userId, membership.userId)))
    .where(and(eq(sitting.id, row.id), eq(membership.role, 'student'), hasTaken))
    .orderBy(asc(user.name))
    .all()
    .filter((one) => !given.has(one.userId));
  return [
    ...audience.map((member) => ({ ...member, hasLeft: false })),
    ...others.map(({ standing, own, removedAt, ...member }) => ({
      ...member,
      arrangement: arrangementOf(standing, own),
      hasLeft: removedAt !== null,
    })),
  ];
}

/** How many students each sitting of a course is given to. */
export function audienceSizes(db: Db, courseId: string): Map<string, number> {
  const rows = db
    .select({ sittingId: sittingAudience.sittingId, n: sql<number>`count(distinct ${membership.userId})` })
    .from(sittingAudience)
    .innerJoin(sitting, eq(sitting.id, sittingAudience.sittingId))
    .innerJoin(membership, and(eq(membership.courseId, sitting.courseId), isAddressed))
    .where(
      and(
        eq(sitting.courseId, courseId),
        eq(membership.role, 'student'),
        isNull(membership.removedAt),
        or(isNull(membership.onlySitting), standsForItself),
      ),
    )
    .groupBy(sittingAudience.sittingId)
    .all();
  return new Map(rows.map((row) => [row.sittingId, row.n]));
}

export type StudentSitting = { sitting: SittingRow; arrangement: Arrangement; timeZone: string };

const givenSittings = preparedOnce((db) =>
  db
    .selectDistinct({ sitting, standing: membership.standing, own: arrangement, timeZone: course.timeZone })
    .from(membership)
    .innerJoin(course, eq(course.id, membership.courseId))
    .innerJoin(sitting, eq(sitting.courseId, membership.courseId))
    .innerJoin(sittingAudience, and(eq(sittingAudience.sittingId, sitting.id), isAddressed))
    .leftJoin(arrangement, and(eq(arrangement.sittingId, sitting.id), eq(arrangement.userId, membership.userId)))
    .where(
      and(
        eq(membership.userId, sql.placeholder('userId')),
        eq(membership.role, 'student'),
        isNull(membership.removedAt),
        eq(sitting.state, 'scheduled'),
        or(isNull(sql.placeholder('sittingId')), eq(sitting.id, sql.placeholder('sittingId'))),
      ),
    )
    .prepare(),
);

/** The scheduled sittings given to a student, over all courses; with `sittingId`, only that one. */
export function sittingsFor(db: Db, userId: string, sittingId: string | null = null): StudentSitting[] {
  return givenSittings(db)
    .all({ userId, sittingId })
    .map(({ sitting, standing, own, timeZone }) => ({ sitting, timeZone, arrangement: arrangementOf(standing, own) }));
}

export type RunningAttempt = {
  attempt: typeof attempt.$inferSelect;
  sitting: SittingRow;
  arrangement: Arrangement;
  /** Whether its student is still in the course. */
  isMember: boolean;
};

const isMember = sql<boolean>`${membership.userId} is not null and ${membership.removedAt} is null`.mapWith(Boolean);

const withRules = ({
  standing,
  own,
  ...row
}: Omit<RunningAttempt, 'arrangement'> & { standing: Partial<Arrangement> | null; own: ArrangementRow }) => ({
  ...row,
  arrangement: arrangementOf(standing, own),
});

const attemptJoin = (db: Db | Tx) =>
  db
    .select({ attempt, sitting, standing: membership.standing, own: arrangement, isMember })
    .from(attempt)
    .innerJoin(sitting, eq(sitting.id, attempt.sittingId))
    .leftJoin(membership, and(eq(membership.courseId, sitting.courseId), eq(membership.userId, attempt.userId)))
    .leftJoin(arrangement, and(eq(arrangement.sittingId, sitting.id), eq(arrangement.userId, attempt.userId)));

const attemptById = preparedOnce((db) =>
  attemptJoin(db)
    .where(eq(attempt.id, sql.placeholder('attemptId')))
    .prepare(),
);

const allRunning = preparedOnce((db) => attemptJoin(db).where(eq(attempt.state, 'running')).prepare());

/** An attempt with what decides its deadline. */
export function attemptWithRules(db: Db, attemptId: string): RunningAttempt | null {
  const row = attemptById(db).get({ attemptId });
  return row ? withRules(row) : null;
}

/** Every attempt that runs, over all courses. */
export function runningAttempts(db: Db): RunningAttempt[] {
  return allRunning(db).all().map(withRules);
}

export type SittingPhase = 'draft' | 'cancelled' | 'coming' | 'open' | 'closed';

/** Where a sitting stands for those without an arrangement. */
export function phaseOf(row: SittingRow, now: Instant): SittingPhase {
  if (row.state !== 'scheduled') return row.state;
  if (row.opens !== null && now < row.opens) return 'coming';
  return row.closes !== null && now >= row.closes ? 'closed' : 'open';
}
