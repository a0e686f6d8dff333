import { and, asc, eq, ne } from 'drizzle-orm';
import { csvText } from '@/core/base/csv';
import { ok, type Result } from '@/core/base/result';
import { roundHalfUp } from '@/core/base/rounding';
import { designPoints } from '@/core/exam/design';
import { type CourseTotal, courseTotal } from '@/core/gradebook/courseTotal';
import { attempt, examRevision, sitting } from '@/db/schema';
import type { Context } from '../house/context';
import { admit } from '../people/permission';
import { listPeople } from '../people/roster';
import { coursePublications } from '../release/results';

export type GradebookRow = {
  userId: string;
  name: string;
  studentNumber: string | null;
  section: string | null;
  total: CourseTotal;
  /** For each column, why an empty cell is empty. */
  signs: ('published' | 'not-published' | 'none')[];
};

export type Gradebook = {
  courseName: string;
  columns: { id: string; title: string; worth: number }[];
  rows: GradebookRow[];
};

/** The gradebook of a course: a column for each scheduled sitting that counts there, from publications only. */
export function gradebook(context: Context, courseId: string): Result<Gradebook> {
  const admitted = admit(context, courseId, 'gradebook.see');
  if (!admitted.ok) return admitted;
  const people = listPeople(context, courseId);
  if (!people.ok) return people;
  const sittings = context.db
    .select({ id: sitting.id, title: sitting.title, counts: sitting.counts, design: examRevision.design })
    .from(sitting)
    .innerJoin(examRevision, eq(examRevision.id, sitting.revisionId))
    .where(and(eq(sitting.courseId, courseId), ne(sitting.counts, 'no'), ne(sitting.state, 'draft')))
    .orderBy(asc(sitting.opens), asc(sitting.createdAt))
    .all();
  const columns = sittings.map(({ id, title, design }) => ({ id, title, worth: design.worth ?? designPoints(design) }));
  const inFull = new Set(sittings.filter((one) => one.counts === 'taking-part').map((one) => one.id));
  const published = new Map<string, { earned: number; possible: number }>();
  for (const row of coursePublications(context.db, courseId)) {
    const key = `${row.userId}/${row.sittingId}`;
    if (published.has(key)) continue;
    // What counts for taking part counts in full, whatever the score was.
    published.set(key, { earned: inFull.has(row.sittingId) ? row.possible : row.earned, possible: row.possible });
  }
  const ended = context.db
    .selectDistinct({ userId: attempt.userId, sittingId: attempt.sittingId })
    .from(attempt)
    .innerJoin(sitting, eq(sitting.id, attempt.sittingId))
    .where(and(eq(sitting.courseId, courseId), eq(attempt.state, 'handed-in')))
    .all();
  const handedIn = new Set(ended.map((one) => `${one.userId}/${one.sittingId}`));
  const rows = people.value.people
    .filter((person) => person.role === 'student')
    .map((person): GradebookRow => {
      const keys = columns.map((column) => `${person.userId}/${column.id}`);
      return {
        userId: person.userId,
        name: person.name,
        studentNumber: person.studentNumber,
        section: person.section,
        total: courseTotal(
          columns,
          keys.map((key) => published.get(key) ?? null),
        ),
        signs: keys.map((key) => (published.has(key) ? 'published' : handedIn.has(key) ? 'not-published' : 'none')),
      };
    });
  return ok({ courseName: admitted.value.courseName, columns, rows });
}

/** How many decimals the gradebook shows; the computation itself does not round. */
export const shownDecimals = 1;

/** The gradebook as a CSV file. */
export function gradebookCsv(context: Context, courseId: string): Result<{ fileName: string; text: string }> {
  const book = gradebook(context, courseId);
  if (!book.ok) return book;
  const { columns, rows, courseName } = book.value;
  const header = [
    'Name',
    'Student number',
    'Section',
    ...columns.map((column) => `${column.title} (of ${column.worth})`),
    'Total %',
  ];
  const lines = rows.map((row) => [
    row.name,
    row.studentNumber ?? '',
    row.section ?? '',
    ...row.total.scaled.map((value) => (value === null ? '' : roundHalfUp(value, shownDecimals))),
    row.total.percent === null ? '' : roundHalfUp(row.total.percent, shownDecimals),
  ]);
  const fileName = `${courseName.replace(/[^\p{L}\p{N}]+/gu, '-').replace(/^-|-$/g, '') || 'course'}-gradebook.csv`;
  return ok({ fileName, text: csvText(header, lines) });
}
