import { and, asc, count, eq, gt, inArray, isNotNull, isNull, max, ne, or, type SQL, sql } from 'drizzle-orm';
import { grouped } from '@/core/base/grouped';
import type { Instant } from '@/core/base/time';
import { designPoints } from '@/core/exam/design';
import {
  bestScores,
  type Computing,
  type GradebookCell,
  type GradebookColumn,
  type GradeGroup,
} from '@/core/gradebook/courseTotal';
import { type GradebookRules, oneGroup } from '@/core/gradebook/gradebookRules';
import { type CellSign, type SittingCell, sittingCell } from '@/core/gradebook/sittingCell';
import type { Db, Tx } from '@/db/client';
import {
  arrangement,
  attempt,
  examRevision,
  gradeColumn,
  gradeEntry,
  gradeGroup,
  membership,
  publication,
  section,
  sitting,
  sittingAudience,
  user,
} from '@/db/schema';
import { keptWhile } from '../house/keptWhile';
import { arrangementOf, isAddressed, rulesOf, type SittingRow } from '../records/audience';
import { gradebookRulesOf } from '../records/bandsHeld';
import { stateStamp } from '../records/stateStamp';

/** A column as it is set. */
export type BookColumn = GradebookColumn & {
  kind: 'sitting' | 'manual';
  /** Null where nothing is set and the sitting's own worth holds. */
  ownWorth: number | null;
  /** What a sitting's column is worth unless something is set. */
  usualWorth: number | null;
  taking: boolean;
};

type BookStudent = {
  userId: string;
  name: string;
  lastName: string;
  email: string | null;
  studentNumber: string | null;
  section: string | null;
};

/** Everything that a gradebook is computed from. */
export type BookData = {
  rules: GradebookRules;
  groups: GradeGroup[];
  /** Groups as they are stored; empty where all columns are one group. */
  ownGroups: GradeGroup[];
  columns: BookColumn[];
  students: BookStudent[];
  /** Who has left the course and has something in it: shown, and counted in nothing that is said of all. */
  former: BookStudent[];
  /** By student, then by column. */
  cells: Map<string, GradebookCell[]>;
  signs: Map<string, CellSign[]>;
  /** Whether the student is done with the sitting of each column; null where it does not say when. */
  done: Map<string, (boolean | null)[]>;
  computing: Computing;
  /** What was entered by hand and stands. */
  entries: StandingEntries;
  /** The last entry it rests on; 0 before the first. */
  lastEntry: number;
};

/** The groups of a course in their order. */
export const groupsOf = (db: Db | Tx, courseId: string): GradeGroup[] =>
  db
    .select()
    .from(gradeGroup)
    .where(eq(gradeGroup.courseId, courseId))
    .orderBy(asc(gradeGroup.position))
    .all()
    .map(({ id, title, weight, counting, drop }) => ({ id, title, weight, counting, drop }));

/**
 * The columns of a course: one for each scheduled sitting that counts, with what is set of it, and the manual ones. What
 * has a place stands there; sittings nobody has placed stand behind, in the order in which they open.
 */
export function columnsOf(db: Db | Tx, courseId: string, grouping: boolean): BookColumn[] {
  const set = db
    .select()
    .from(gradeColumn)
    .where(and(eq(gradeColumn.courseId, courseId), isNull(gradeColumn.removedAt)))
    .orderBy(asc(gradeColumn.position))
    .all();
  const own = new Map(set.map((one) => [one.id, one]));
  const sittings = db
    .select({ id: sitting.id, title: sitting.title, counts: sitting.counts, design: examRevision.design })
    .from(sitting)
    .innerJoin(examRevision, eq(examRevision.id, sitting.revisionId))
    .where(and(eq(sitting.courseId, courseId), ne(sitting.counts, 'no'), eq(sitting.state, 'scheduled')))
    .orderBy(asc(sitting.opens), asc(sitting.createdAt))
    .all();
  const groupId = (id: string | null | undefined) => (grouping ? (id ?? '') : oneGroup.id);
  const fromSittings = sittings.map(({ id, title, counts, design }): [number | null, BookColumn] => {
    const row = own.get(id);
    const usualWorth = design.worth ?? designPoints(design);
    return [
      row?.position ?? null,
      {
        id,
        title,
        kind: 'sitting',
        worth: row?.worth ?? usualWorth,
        ownWorth: row?.worth ?? null,
        usualWorth,
        groupId: groupId(row?.groupId),
        extraCredit: row?.extraCredit ?? false,
        curve: row?.curve ?? null,
        late: row?.late ?? null,
        taking: counts === 'taking-part',
      },
    ];
  });
  const manual = set
    .filter((one) => one.sittingId === null)
    .map((row): [number | null, BookColumn] => [
      row.position,
      {
        id: row.id,
        title: row.title,
        kind: 'manual',
        worth: row.worth ?? 0,
        ownWorth: row.worth,
        usualWorth: null,
        groupId: groupId(row.groupId),
        extraCredit: row.extraCredit,
        curve: row.curve,
        late: null,
        taking: false,
      },
    ]);
  return [...fromSittings, ...manual]
    .sort(([a], [b]) => (a ?? Number.POSITIVE_INFINITY) - (b ?? Number.POSITIVE_INFINITY) || 0)
    .map(([, column]) => column);
}

const studentsWhere = (db: Db | Tx, courseId: string, which: SQL | undefined): BookStudent[] =>
  db
    .select({
      userId: user.id,
      name: user.name,
      lastName: user.lastName,
      email: user.email,
      studentNumber: membership.studentNumber,
      section: section.name,
    })
    .from(membership)
    .innerJoin(user, eq(user.id, membership.userId))
    .leftJoin(section, eq(section.id, membership.sectionId))
    .where(
      and(eq(membership.courseId, courseId), eq(membership.role, 'student'), isNull(membership.onlySitting), which),
    )
    .orderBy(asc(user.name))
    .all();

/** The students of a course by name. */
export const studentsOf = (db: Db | Tx, courseId: string): BookStudent[] =>
  studentsWhere(db, courseId, isNull(membership.removedAt));

/** Students who have left a course in which they took something, or were given something by hand. */
const formerStudentsOf = (db: Db | Tx, courseId: string): BookStudent[] =>
  studentsWhere(
    db,
    courseId,
    and(
      isNotNull(membership.removedAt),
      or(
        sql`exists (select 1 from ${attempt} join ${sitting} on ${sitting.id} = ${attempt.sittingId} where ${sitting.courseId} = ${courseId} and ${attempt.userId} = ${membership.userId} and ${attempt.state} <> 'voided')`,
        sql`exists (select 1 from ${gradeEntry} where ${gradeEntry.courseId} = ${courseId} and ${gradeEntry.userId} = ${membership.userId} and ${gradeEntry.takenBackAt} is null)`,
      ),
    ),
  );

const keyOf = (userId: string, columnId: string) => `${userId}/${columnId}`;

/** What was entered into a cell, and stands. */
type StandingEntry = Pick<typeof gradeEntry.$inferSelect, 'id' | 'points' | 'excused'>;

/** What was entered last and was not taken back, by student, then by column. */
type StandingEntries = ReadonlyMap<string, ReadonlyMap<string, StandingEntry>>;

/** The entries of a course up to one of them, while so many of the course were taken back. */
type EntriesRead = { last: number; takenBack: number; entries: StandingEntries };

const keptEntries = keptWhile<EntriesRead>();

/**
 * What was entered last into each cell, and was not taken back. Entries are only ever added and taken back, and a course
 * has tens of thousands of them: while nothing more is taken back, what was read once stands, and only newer ones are read.
 */
function entriesOf(db: Db | Tx, courseId: string): EntriesRead {
  const inCourse = eq(gradeEntry.courseId, courseId);
  const last = (from: Db | Tx) =>
    from
      .select({ last: max(gradeEntry.id) })
      .from(gradeEntry)
      .get()?.last ?? 0;
  const takenBack = (from: Db | Tx) =>
    from
      .select({ count: count() })
      .from(gradeEntry)
      .where(and(inCourse, isNotNull(gradeEntry.takenBackAt)))
      .get()?.count ?? 0;
  return keptEntries(
    db,
    courseId,
    (stamped) => `${last(stamped)}/${takenBack(stamped)}`,
    (before): EntriesRead => {
      const now = { last: last(db), takenBack: takenBack(db) };
      const known = before?.takenBack === now.takenBack ? before : null;
      const rows = db
        .select({
          id: gradeEntry.id,
          userId: gradeEntry.userId,
          columnId: gradeEntry.columnId,
          points: gradeEntry.points,
          excused: gradeEntry.excused,
        })
        .from(gradeEntry)
        .where(and(inCourse, isNull(gradeEntry.takenBackAt), gt(gradeEntry.id, known?.last ?? 0)))
        .orderBy(asc(gradeEntry.id))
        .all();
      const entries = new Map(known?.entries);
      for (const [userId, own] of grouped(rows, (row) => row.userId))
        entries.set(
          userId,
          new Map([
            ...(entries.get(userId) ?? []),
            ...own.map(({ columnId, id, points, excused }) => [columnId, { id, points, excused }] as const),
          ]),
        );
      return { ...now, entries };
    },
  );
}

/** Everything a course's gradebook is computed from, in as many statements for 500 students as for one. */
export function bookData(db: Db | Tx, courseId: string, now: Instant): BookData {
  const rules = gradebookRulesOf(db, courseId);
  const ownGroups = groupsOf(db, courseId);
  const groups = ownGroups.length ? ownGroups : [oneGroup];
  const columns = columnsOf(db, courseId, ownGroups.length > 0);
  const students = studentsOf(db, courseId);
  const former = formerStudentsOf(db, courseId);
  const { entries, last: lastEntry } = entriesOf(db, courseId);
  const cellOf = sittingCells(
    db,
    courseId,
    columns.filter((one) => one.kind === 'sitting'),
    now,
  );
  const cells = new Map<string, GradebookCell[]>();
  const signs = new Map<string, CellSign[]>();
  const done = new Map<string, (boolean | null)[]>();
  for (const student of [...students, ...former]) {
    const entered = entries.get(student.userId);
    const own = columns.map((column): SittingCell => {
      const entry = entered?.get(column.id);
      if (entry?.excused) return { cell: { kind: 'excused' }, sign: 'excused', done: null };
      if (column.kind === 'sitting') return cellOf(student.userId, column);
      if (entry?.points == null) return { cell: { kind: 'empty' }, sign: 'none', done: null };
      return {
        cell: { kind: 'score', earned: entry.points, possible: column.worth },
        sign: 'entered',
        done: null,
      };
    });
    cells.set(
      student.userId,
      own.map((one) => one.cell),
    );
    signs.set(
      student.userId,
      own.map((one) => one.sign),
    );
    done.set(
      student.userId,
      own.map((one) => one.done),
    );
  }
  const best = bestScores(
    columns,
    students.map(({ userId }) => cells.get(userId) ?? []),
  );
  return {
    rules,
    groups,
    ownGroups,
    columns,
    students,
    former,
    cells,
    signs,
    done,
    computing: { columns, groups, missing: rules.missing, best },
    entries,
    lastEntry,
  };
}

type CellOf = (userId: string, column: BookColumn) => SittingCell;

/** What stands in the cells of sittings: from publications, and where there is none, why. */
function sittingCells(db: Db | Tx, courseId: string, columns: readonly BookColumn[], now: Instant): CellOf {
  const ids = columns.map((one) => one.id);
  const facts = keptFacts(
    db,
    courseId,
    (stamped) => [stateStamp(stamped), ...ids].join('/'),
    () => cellFacts(db, courseId, ids),
  );
  const { rows, rulesById, standing, joined, arranged, given, attempts, published } = facts;
  return (userId, column) => {
    const key = keyOf(userId, column.id);
    const row = rows.get(column.id) as SittingRow;
    return sittingCell(
      {
        rules: rulesById.get(column.id) as ReturnType<typeof rulesOf>,
        arrangement: arrangementOf(standing.get(userId) ?? null, arranged.get(key) ?? null),
        completion: row.completion,
        scheduled: row.state === 'scheduled',
        taking: column.taking,
        given: given.has(key),
        joined: joined.get(userId) ?? Number.NEGATIVE_INFINITY,
        attempts: attempts.get(key) ?? [],
        published: published.get(key) ?? null,
      },
      now,
    );
  };
}

const keptFacts = keptWhile<ReturnType<typeof cellFacts>>();

/** All that cells of sittings rest on, but for the moment. */
function cellFacts(db: Db | Tx, courseId: string, ids: readonly string[]) {
  const rows = new Map(
    db
      .select()
      .from(sitting)
      .where(inArray(sitting.id, [...ids]))
      .all()
      .map((row) => [row.id, row]),
  );
  type Standing = Pick<
    typeof publication.$inferSelect,
    'userId' | 'sittingId' | 'earned' | 'possible' | 'waiting' | 'preliminary' | 'attemptIds'
  >;
  const published = new Map<string, Standing>();
  for (const one of db
    .select({
      userId: publication.userId,
      sittingId: publication.sittingId,
      earned: publication.earned,
      possible: publication.possible,
      waiting: publication.waiting,
      preliminary: publication.preliminary,
      attemptIds: publication.attemptIds,
    })
    .from(publication)
    .where(and(inArray(publication.sittingId, [...ids]), isNull(publication.withdrawnAt)))
    .orderBy(asc(publication.id))
    .all()) {
    const key = keyOf(one.userId, one.sittingId);
    // What was published comes before what a moment of the plan showed.
    if (!published.has(key) || !one.preliminary) published.set(key, one);
  }
  const attempts = grouped(
    db
      .select({
        id: attempt.id,
        sittingId: attempt.sittingId,
        userId: attempt.userId,
        state: attempt.state,
        startedAt: attempt.startedAt,
        endedAt: attempt.endedAt,
        added: attempt.added,
      })
      .from(attempt)
      .where(and(inArray(attempt.sittingId, [...ids]), ne(attempt.state, 'voided')))
      .all(),
    (one) => keyOf(one.userId, one.sittingId),
  );
  const arranged = new Map(
    db
      .select()
      .from(arrangement)
      .where(inArray(arrangement.sittingId, [...ids]))
      .all()
      .map((one) => [keyOf(one.userId, one.sittingId), one]),
  );
  const given = new Set<string>();
  const standing = new Map<string, (typeof membership.$inferSelect)['standing']>();
  const joined = new Map<string, Instant>();
  const addressed = db
    .selectDistinct({
      sittingId: sittingAudience.sittingId,
      userId: membership.userId,
      standing: membership.standing,
      addedAt: membership.addedAt,
    })
    .from(sittingAudience)
    .innerJoin(membership, and(eq(membership.courseId, courseId), isAddressed))
    .where(
      and(inArray(sittingAudience.sittingId, [...ids]), eq(membership.role, 'student'), isNull(membership.removedAt)),
    )
    .all();
  for (const one of addressed) {
    given.add(keyOf(one.userId, one.sittingId));
    standing.set(one.userId, one.standing);
    joined.set(one.userId, one.addedAt);
  }
  const rulesById = new Map([...rows].map(([id, row]) => [id, rulesOf(row)]));
  return { rows, rulesById, standing, joined, arranged, given, attempts, published };
}
