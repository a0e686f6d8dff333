import { and, asc, desc, eq, inArray, isNull } from 'drizzle-orm';
import { z } from 'zod';
import { id } from '@/core/base/id';
import { mostPasted } from '@/core/base/pastedText';
import { notFound, ok, type Result, refused } from '@/core/base/result';
import { pointsText } from '@/core/base/rounding';
import type { Instant } from '@/core/base/time';
import { counted, listed } from '@/core/base/words';
import { aboveWorth } from '@/core/gradebook/typedScores';
import type { Db, Tx } from '@/db/client';
import { gradeColumn, gradeEntry, membership, publication, user } from '@/db/schema';
import { type Context, newId } from '../house/context';
import { undoable } from '../house/undoable';
import { command, query } from '../house/useCase';
import { toCourse } from '../people/toCourse';
import { sittingOf } from '../records/audience';

const entryInput = z.strictObject({
  points: z
    .number({ message: 'Give the points as a number.' })
    .min(0, 'Points cannot be negative.')
    .max(1_000_000)
    .nullable(),
  excused: z.boolean().default(false),
  reason: z.string().trim().max(500, 'At most 500 characters.').default(''),
  /** Whether more than the column is worth is meant. */
  above: z.boolean().default(false),
  /** What the cell held when it was looked at; 0 for nothing. */
  before: z.int().min(0),
});

/** Whether a column can be entered into, and what its cells take. */
function enterable(
  db: Db | Tx,
  courseId: string,
  columnId: string,
): Result<{ kind: 'manual' | 'sitting'; worth: number }> {
  const row = db
    .select()
    .from(gradeColumn)
    .where(and(eq(gradeColumn.id, columnId), eq(gradeColumn.courseId, courseId), isNull(gradeColumn.removedAt)))
    .get();
  if (row && row.sittingId === null) return ok({ kind: 'manual', worth: row.worth ?? 0 });
  return sittingOf(db, courseId, columnId) ? ok({ kind: 'sitting', worth: 0 }) : notFound('column');
}

/** The entry that holds in a cell; null where nothing was entered. */
export const entryOf = (db: Db | Tx, columnId: string, userId: string) =>
  db
    .select()
    .from(gradeEntry)
    .where(and(eq(gradeEntry.columnId, columnId), eq(gradeEntry.userId, userId), isNull(gradeEntry.takenBackAt)))
    .orderBy(desc(gradeEntry.id))
    .get() ?? null;

/**
 * Enters a score into a manual column, or excuses a student from a column of any kind. What was there stays in the cell's
 * history. Whoever comes after somebody else is told what is there now, and nothing is overwritten.
 */
export const enterCell = command({
  admits: toCourse('gradebook.change'),
  takes: [id('column'), id('user'), entryInput],
  logs: 'gradebook.enter',
  does({ tx, courseId, record, context }, columnId, userId, { before, above, ...entry }): Result<{ entryId: number }> {
    const column = enterable(tx, courseId, columnId);
    if (!column.ok) return column;
    if (column.value.kind === 'sitting' && entry.points !== null)
      return refused('bad-input', 'Scores of a sitting come from its marks: adjust a mark instead.', 'points');
    const tooMuch = aboveWorth(entry.points, column.value.worth);
    if (tooMuch && !above) return refused('bad-input', tooMuch, 'above');
    if (!isStudent(tx, courseId, userId)) return notFound('student');
    const last = entryOf(tx, columnId, userId);
    if ((last?.id ?? 0) !== before) {
      const by = last && tx.select({ name: user.name }).from(user).where(eq(user.id, last.by)).get()?.name;
      return refused(
        'conflict',
        last
          ? `${by} has entered ${last.excused ? '“excused”' : last.points === null ? 'nothing' : pointsText(last.points)} meanwhile. Look again.`
          : 'What was here has been taken back meanwhile. Look again.',
        'points',
      );
    }
    const { id: entryId } = tx
      .insert(gradeEntry)
      .values({ courseId, columnId, userId, ...entry, at: context.now, by: context.actor.userId })
      .returning({ id: gradeEntry.id })
      .get();
    record({ subjectId: columnId, detail: { userId, points: entry.points, excused: entry.excused } });
    return ok({ entryId });
  },
});

const typedInput = z.strictObject({
  cells: z
    .array(
      z.strictObject({
        columnId: id('column'),
        userId: id('user'),
        points: entryInput.shape.points,
        before: entryInput.shape.before,
      }),
    )
    .min(1)
    .max(mostPasted, `At most ${mostPasted} scores at once.`),
  above: entryInput.shape.above,
});

type KeptScores = { courseId: string; batch: string };
const takingBack = {
  action: 'gradebook.change' as const,
  says: (_kept: KeptScores, { entered, column }: Readonly<Record<string, unknown>>) =>
    `${counted(Number(entered), 'score')} entered into ${String(column)}`,
  apply: (tx: Tx, { now }: Context, { courseId, batch }: KeptScores) => takeBackEntries(tx, now, courseId, batch),
};

/** A score was typed into the grid; what was entered on top of it stays. */
export const scoreTyped = undoable<KeptScores>('gradebook.type', { ...takingBack, isListed: false });
/** Scores were pasted into the grid: all of them go, and what was entered on top of them stays. */
export const scoresPasted = undoable<KeptScores>('gradebook.paste', takingBack);

/** Takes back what one act entered. */
export function takeBackEntries(tx: Tx, now: Instant, courseId: string, batch: string): void {
  tx.update(gradeEntry)
    .set({ takenBackAt: now })
    .where(and(eq(gradeEntry.courseId, courseId), eq(gradeEntry.batch, batch), isNull(gradeEntry.takenBackAt)))
    .run();
}

/**
 * Enters scores as they are typed or pasted into the grid, all or nothing; points of null empty a cell. Where somebody else
 * has entered something meanwhile, or a score is more than its column is worth and that is not said to be meant, nothing is
 * entered, and it is said of which cell.
 *
 * @returns the ids of the entries, in the order of the cells
 */
export const enterCells = command({
  admits: toCourse('gradebook.change'),
  takes: [typedInput],
  logs: 'gradebook.type',
  does({ tx, courseId, record, context }, { cells, above }): Result<{ auditId: number; entryIds: number[] }> {
    const columns = new Map(
      tx
        .select()
        .from(gradeColumn)
        .where(and(eq(gradeColumn.courseId, courseId), isNull(gradeColumn.sittingId), isNull(gradeColumn.removedAt)))
        .all()
        .map((row) => [row.id, { title: row.title ?? '', worth: row.worth ?? 0 }]),
    );
    const names = new Map(
      tx
        .select({ id: user.id, name: user.name })
        .from(membership)
        .innerJoin(user, eq(user.id, membership.userId))
        .where(and(eq(membership.courseId, courseId), eq(membership.role, 'student')))
        .all()
        .map((row) => [row.id, row.name]),
    );
    const standing = standingIn(tx, courseId, cells);
    for (const { columnId, userId, points, before } of cells) {
      const column = columns.get(columnId);
      const name = names.get(userId);
      if (!column) return notFound('column that is filled by hand');
      if (name === undefined) return notFound('student');
      const tooMuch = aboveWorth(points, column.worth);
      if (tooMuch && !above) return refused('bad-input', `${name}, ${column.title}: ${tooMuch}`, 'above');
      if ((standing.get(userId)?.get(columnId) ?? 0) !== before)
        return refused('conflict', `${name}, ${column.title}: this cell has been changed meanwhile. Look again.`);
    }
    const batch = newId();
    const entryIds: number[] = [];
    for (let i = 0; i < cells.length; i += 200)
      entryIds.push(
        ...tx
          .insert(gradeEntry)
          .values(
            cells.slice(i, i + 200).map(({ columnId, userId, points }) => ({
              courseId,
              columnId,
              userId,
              points,
              batch,
              at: context.now,
              by: context.actor.userId,
            })),
          )
          .returning({ id: gradeEntry.id })
          .all()
          .map((row) => row.id),
      );
    const into = [...new Set(cells.map((one) => columns.get(one.columnId)?.title ?? ''))];
    const auditId = record({
      subjectId: courseId,
      detail: { entered: cells.length, column: listed(into, 3), batch },
      undo: (cells.length > 1 ? scoresPasted : scoreTyped).of({ courseId, batch }),
    });
    return ok({ auditId, entryIds });
  },
});

/** The ids of the entries that stand in some cells, by student, then by column. */
function standingIn(
  tx: Tx,
  courseId: string,
  cells: readonly { columnId: string; userId: string }[],
): Map<string, Map<string, number>> {
  const found = new Map<string, Map<string, number>>();
  const columnIds = [...new Set(cells.map((one) => one.columnId))];
  const userIds = [...new Set(cells.map((one) => one.userId))];
  for (const { id, userId, columnId } of tx
    .select({ id: gradeEntry.id, userId: gradeEntry.userId, columnId: gradeEntry.columnId })
    .from(gradeEntry)
    .where(
      and(
        eq(gradeEntry.courseId, courseId),
        inArray(gradeEntry.columnId, columnIds),
        inArray(gradeEntry.userId, userIds),
        isNull(gradeEntry.takenBackAt),
      ),
    )
    .orderBy(asc(gradeEntry.id))
    .all())
    found.set(userId, (found.get(userId) ?? new Map<string, number>()).set(columnId, id));
  return found;
}

/** Whether somebody is a student of the course, or was: what is owed to who has left can still be entered. */
const isStudent = (tx: Tx, courseId: string, userId: string): boolean =>
  tx
    .select({ id: membership.id })
    .from(membership)
    .where(and(eq(membership.courseId, courseId), eq(membership.userId, userId), eq(membership.role, 'student')))
    .get() !== undefined;

/** One line of a cell's history: who, when, and what it was from then on. */
type CellChange = {
  at: Instant;
  by: string;
  what: string;
  reason: string;
  /** Taken back, or replaced by something published later. */
  fallen: boolean;
};

export type CellHistory = {
  column: string;
  student: string;
  kind: 'manual' | 'sitting';
  worth: number;
  /** The entry that holds; 0 for none. */
  entryId: number;
  points: number | null;
  excused: boolean;
  changes: CellChange[];
  timeZone: string;
};

/** Everything that ever stood in a cell, the latest first. */
export const cellHistory = query({
  admits: toCourse('gradebook.see'),
  takes: [id('column'), id('user')],
  does({ db, courseId, timeZone }, columnId, userId): Result<CellHistory> {
    const column = enterable(db, courseId, columnId);
    if (!column.ok) return column;
    const student = db
      .select({ name: user.name })
      .from(membership)
      .innerJoin(user, eq(user.id, membership.userId))
      .where(and(eq(membership.courseId, courseId), eq(membership.userId, userId), eq(membership.role, 'student')))
      .get();
    if (!student) return notFound('student');
    const row = sittingOf(db, courseId, columnId);
    const title =
      row?.title ??
      db.select({ title: gradeColumn.title }).from(gradeColumn).where(eq(gradeColumn.id, columnId)).get()?.title;
    const entered = db
      .select({ entry: gradeEntry, by: user.name })
      .from(gradeEntry)
      .innerJoin(user, eq(user.id, gradeEntry.by))
      .where(and(eq(gradeEntry.columnId, columnId), eq(gradeEntry.userId, userId)))
      .orderBy(asc(gradeEntry.id))
      .all();
    const published = db
      .select()
      .from(publication)
      .where(and(eq(publication.sittingId, columnId), eq(publication.userId, userId)))
      .orderBy(asc(publication.id))
      .all();
    const names = new Map(
      db
        .select({ id: user.id, name: user.name })
        .from(user)
        .where(inArray(user.id, [...new Set(published.map((one) => one.publishedBy))]))
        .all()
        .map((one) => [one.id, one.name]),
    );
    const last = entryOf(db, columnId, userId);
    const changes: CellChange[] = [
      ...entered.map(({ entry, by }) => ({
        at: entry.at,
        by,
        what: entry.excused ? 'excused' : entry.points === null ? 'emptied' : `${pointsText(entry.points)} entered`,
        reason: entry.reason,
        fallen: entry.takenBackAt !== null,
      })),
      ...published.map((one) => ({
        at: one.publishedAt,
        by: names.get(one.publishedBy) ?? 'by itself',
        what: `${pointsText(one.earned)} of ${pointsText(one.possible)} ${one.preliminary ? 'shown as preliminary' : 'published'}`,
        reason: '',
        fallen: one.withdrawnAt !== null,
      })),
    ].sort((a, b) => b.at - a.at);
    return ok({
      column: title ?? '',
      student: student.name,
      ...column.value,
      entryId: last?.id ?? 0,
      points: last?.points ?? null,
      excused: last?.excused ?? false,
      changes,
      timeZone: timeZone,
    });
  },
});
