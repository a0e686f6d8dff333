import { and, eq, inArray, isNull } from 'drizzle-orm';
import { id } from '@/core/base/id';
import { notFound, ok, type Result } from '@/core/base/result';
import { minute, momentText } from '@/core/base/time';
import { courseTotal, displayedTotal, type GradebookCell, totalSaid } from '@/core/gradebook/courseTotal';
import type { CellSign } from '@/core/gradebook/sittingCell';
import { closesFor, opensFor } from '@/core/sitting/clock';
import type { Db } from '@/db/client';
import { course, membership, sitting } from '@/db/schema';
import type { Context } from '../house/context';
import { keptWhile } from '../house/keptWhile';
import { type Door, query } from '../house/useCase';
import { admit } from '../people/permission';
import { toCourse } from '../people/toCourse';
import { rulesOf, type StudentSitting, sittingsFor } from '../records/audience';
import { gradebookRulesOf } from '../records/bandsHeld';
import { stateStamp } from '../records/stateStamp';
import { releaseFactsInAll, shownTo, whomInAll } from '../release/releaseFacts';
import { type BookColumn, type BookData, bookData } from './bookData';

/** A student's own total in one course, from what they may see. */
export type OwnTotal = {
  courseId: string;
  courseName: string;
  student: string;
  /** In percent as it is shown; empty while nothing counts. */
  percent: string;
  band: string;
  /** Whether more will count, so that it is a total so far. */
  soFar: boolean;
  /** How it was computed; each column says of itself what stands in it, or when something will. */
  parts: { heading: string; lines: string[] }[];
  /** Titles of what counts already and is not in this total, since its score is not shown to the student. */
  hidden: string[];
  /** Where each sitting that counts leads: to what is seen of it, with what has changed and why. */
  results: { sittingId: string; title: string }[];
};

const keptBooks = keptWhile<BookData>();

/** Everything a class's totals rest on; what the passing of time alone changes shows within a minute. */
const bookOf = (db: Db, courseId: string, now: number): BookData =>
  keptBooks(
    db,
    courseId,
    (stamped) => `${stateStamp(stamped)}/${Math.floor(now / minute)}`,
    () => bookData(db, courseId, now),
  );

/** Which sittings of a gradebook show a student their score now, also after they have left. */
function scoresSeen({ db, now }: Context, columns: readonly BookColumn[], userId: string): Set<string> {
  const ids = columns.flatMap((one) => (one.kind === 'sitting' ? one.id : []));
  const rows = db.select().from(sitting).where(inArray(sitting.id, ids)).all();
  const whoms = whomInAll(db, rows, userId);
  const facts = releaseFactsInAll(db, rows, whoms, userId, now);
  return new Set(
    rows.flatMap((row) => {
      const released = facts.get(row.id);
      return released && shownTo(db, row, released, now).visible.has('score') ? [row.id] : [];
    }),
  );
}

/**
 * A student's total as they may know it: a score that the release plan does not show now is left out, since the total would
 * tell it, and named as left out. All else is computed as in the gradebook.
 */
function ownTotal(
  context: Context,
  courseId: string,
  courseName: string,
  zone: string,
  userId: string,
): OwnTotal | null {
  const { db, now } = context;
  const data = bookOf(db, courseId, now);
  const student = [...data.students, ...data.former].find((one) => one.userId === userId);
  if (!student) return null;
  const given = sittingsFor(db, userId).filter((one) => one.sitting.courseId === courseId);
  const bySitting = new Map(given.map((one) => [one.sitting.id, one]));
  const seen = scoresSeen(context, data.columns, userId);
  const cells = data.cells.get(userId) ?? [];
  const signs = data.signs.get(userId) ?? [];
  const isHidden = (column: BookColumn, i: number) =>
    signs[i] === 'published' && !column.taking && column.kind === 'sitting' && !seen.has(column.id);
  const known = cells.map((cell, i): GradebookCell => {
    const column = data.columns[i];
    return column && isHidden(column, i) ? { kind: 'empty' } : cell;
  });
  const total = courseTotal(data.computing, known);
  const { text, band } = displayedTotal(total.percent, data.rules.bands, data.rules.decimals);
  const isToCome = (column: BookColumn, i: number) =>
    isHidden(column, i) || (signs[i] !== 'before-joining' && (column.kind === 'manual' || bySitting.has(column.id)));
  const waits = (column: BookColumn) => {
    const i = data.columns.indexOf(column);
    if (isHidden(column, i)) return 'its score is not shown to you now, so it is not in this total.';
    return waitsSaid(column, signs[i] ?? 'none', bySitting.get(column.id), zone, now);
  };
  return {
    courseId,
    courseName,
    student: student.name,
    percent: text,
    band: band?.label ?? '',
    soFar: data.columns.some((column, i) => known[i]?.kind === 'empty' && isToCome(column, i)),
    parts: totalSaid(data.computing, total, (column) => waits(column as BookColumn)),
    hidden: data.columns.filter(isHidden).map((column) => column.title),
    results: data.columns.flatMap((column) =>
      seen.has(column.id) ? [{ sittingId: column.id, title: column.title }] : [],
    ),
  };
}

/** Why a column of a student is empty, and when that ends; null where nothing of it is theirs. */
function waitsSaid(
  column: BookColumn,
  sign: CellSign,
  given: StudentSitting | undefined,
  zone: string,
  now: number,
): string | null {
  if (column.kind === 'manual') return 'nothing entered yet, does not count yet.';
  if (sign === 'not-published') return 'handed in; it counts once your result is published.';
  if (sign === 'preliminary') return 'a preliminary score; it counts once your result is published.';
  if (sign === 'before-joining') return 'was over before you came into the course, does not count.';
  if (!given) return null;
  const rules = rulesOf(given.sitting);
  const [opens, closes] = [opensFor(rules, given.arrangement), closesFor(rules, given.arrangement)];
  if (opens !== null && opens > now) return `still to come, opens ${momentText(opens, zone)}.`;
  if (closes !== null && closes > now) return `still to come, closes ${momentText(closes, zone)}.`;
  return closes === null ? 'still to come.' : 'nothing published yet, does not count.';
}

/** To one's own total of a course that shows it. A course that does not has none. */
const toOwnTotal: Door<readonly ['courseId'], { courseId: string; courseName: string; timeZone: string }> = {
  ids: ['courseId'],
  action: 'results.see-own',
  open(context, courseId) {
    const admitted = admit(context, courseId, 'results.see-own', true);
    if (!admitted.ok) return admitted;
    return gradebookRulesOf(context.db, courseId).showsTotal ? admitted : notFound('total');
  },
};

/** A student's own total of a course, with its explanation, where the course shows it. */
export const myTotal = query({
  admits: toOwnTotal,
  does({ context, courseId, courseName, timeZone }): Result<OwnTotal> {
    const total = ownTotal(context, courseId, courseName, timeZone, context.actor.userId);
    return total ? ok(total) : notFound('total');
  },
});

/** A student's total as they see it, or would if the course showed it: for instructors. */
export const totalAs = query({
  admits: toCourse('gradebook.see'),
  takes: [id('user')],
  does({ context, courseId, courseName, timeZone }, userId): Result<OwnTotal & { isShown: boolean }> {
    const total = ownTotal(context, courseId, courseName, timeZone, userId);
    const isShown = gradebookRulesOf(context.db, courseId).showsTotal ?? false;
    return total ? ok({ ...total, isShown }) : notFound('student');
  },
});

/** The actor's totals in the courses they are in that show them, in short. */
export function myTotals(context: Context): OwnTotal[] {
  const courses = context.db
    .select({ id: course.id, name: course.name, timeZone: course.timeZone, rules: course.gradebook })
    .from(membership)
    .innerJoin(course, eq(course.id, membership.courseId))
    .where(
      and(
        eq(membership.userId, context.actor.userId),
        eq(membership.role, 'student'),
        isNull(membership.removedAt),
        isNull(membership.onlySitting),
      ),
    )
    .all();
  return courses.flatMap(({ id: courseId, name, timeZone, rules }) => {
    const total = rules?.showsTotal ? ownTotal(context, courseId, name, timeZone, context.actor.userId) : null;
    return total ?? [];
  });
}
