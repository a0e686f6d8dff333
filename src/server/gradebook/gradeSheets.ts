import { z } from 'zod';
import { csvText } from '@/core/base/csv';
import { ok, type Result, refused } from '@/core/base/result';
import { pointsText, roundHalfUp } from '@/core/base/rounding';
import { counted } from '@/core/base/words';
import { courseTotal, displayedTotal } from '@/core/gradebook/courseTotal';
import { type GradeSheetRow, mostGradeRows, type ReadGradeSheet, readGradeSheet } from '@/core/gradebook/gradeSheet';
import { gradeEntry } from '@/db/schema';
import { type Context, newId } from '../house/context';
import { fingerprint, previewKey, unlessAsSeen } from '../house/staged';
import { undoable } from '../house/undoable';
import { bytes, command, query } from '../house/useCase';
import { writeXlsx } from '../house/writeXlsx';
import { readOutside } from '../outside/readOutside';
import { toCourse } from '../people/toCourse';
import { withoutNames } from '../records/guestNumbers';
import { bookData } from './bookData';
import { takeBackEntries } from './entries';

const sheetOrder = z.object({ format: z.enum(['csv', 'xlsx']), names: z.boolean() });

/**
 * The gradebook as a table: a row for each student with the points of each column, the total and the band. Without names
 * students stand in the order of their ids, which says nothing of who they are, under numbers of their own.
 */
export const gradebookSheet = query({
  admits: toCourse('gradebook.see'),
  takes: [sheetOrder],
  async does(
    { courseId, courseName, context },
    { format, names },
  ): Promise<Result<{ fileName: string; bytes: Uint8Array }>> {
    const data = bookData(context.db, courseId, context.now);
    const { rules, columns } = data;
    const bands = rules.bands.length > 0;
    const header = [
      ...(names ? ['Name', 'Student number', 'Email', 'Section'] : ['Student']),
      ...columns.map((column) => `${column.title} (of ${pointsText(column.worth)})`),
      'Total %',
      ...(bands ? ['Band'] : []),
    ];
    const shown = names
      ? data.students.map((student) => ({ student, name: student.name }))
      : withoutNames(context.db, courseId, data.students);
    const rows = shown.map(({ student, name }): (string | number | null)[] => {
      const total = courseTotal(data.computing, data.cells.get(student.userId) ?? []);
      const { text, band } = displayedTotal(total.percent, rules.bands, rules.decimals);
      const said = data.signs.get(student.userId) ?? [];
      return [
        ...(names ? [name, student.studentNumber ?? '', student.email ?? '', student.section ?? ''] : [name]),
        ...total.cells.map((cell, at) =>
          cell.counted === null
            ? said[at] === 'excused'
              ? 'excused'
              : null
            : Number(roundHalfUp(cell.counted, rules.decimals)),
        ),
        text === '' ? null : Number(text),
        ...(bands ? [band?.label ?? ''] : []),
      ];
    });
    const base = courseName.replace(/[^\p{L}\p{N}]+/gu, '-').replace(/^-|-$/g, '') || 'course';
    const bytes =
      format === 'csv'
        ? new TextEncoder().encode(csvText(header, rows))
        : await writeXlsx('Gradebook', [header, ...rows]);
    return ok({ fileName: `${base}-gradebook${names ? '' : '-without-names'}.${format}`, bytes });
  },
});

/** The largest sheet of scores that is read, in bytes. */
export const largestGradeSheet = 5_000_000;

export type GradesPreview = {
  /** What changes or cannot be taken; the others are counted. */
  rows: (GradeSheetRow & { name: string })[];
  changes: number;
  same: number;
  empty: number;
  wrong: number;
  /** Changes above what their column is worth. */
  above: number;
  by: string;
  columns: string[];
  ignored: string[];
  /** Names exactly what was looked at. */
  key: string;
};

const mostShown = 500;

const sheetLimit = { most: mostGradeRows, of: `at most ${mostGradeRows} rows are read at once` };

function compared(context: Context, courseId: string, table: Result<string[][]>) {
  if (!table.ok) return table;
  const data = bookData(context.db, courseId, context.now);
  const { entries } = data;
  const read: ReadGradeSheet = readGradeSheet(
    table.value,
    data.students,
    data.columns
      .filter((column) => column.kind === 'manual')
      .map((column) => ({
        ...column,
        points: new Map(
          data.students.map(({ userId }) => [userId, entries.get(userId)?.get(column.id)?.points ?? null]),
        ),
        excused: new Set(
          data.students.flatMap(({ userId }) => (entries.get(userId)?.get(column.id)?.excused ? [userId] : [])),
        ),
      })),
  );
  if (!read.ok) return refused('bad-input', read.message);
  const changes = read.rows.flatMap((row) => (row.kind === 'change' ? [row] : []));
  const key = fingerprint(changes);
  return ok({ read, changes, key, names: new Map(data.students.map((one) => [one.userId, one.name])) });
}

/** What a sheet of scores would change in manual columns, and what of it cannot be taken; nothing is changed. */
export const previewGrades = query({
  admits: toCourse('gradebook.change'),
  takes: [bytes],
  async does({ courseId, context }, file): Promise<Result<GradesPreview>> {
    const upload = compared(context, courseId, await readOutside('sheet', file, sheetLimit));
    if (!upload.ok) return upload;
    const { read, changes, key, names } = upload.value;
    const count = (kind: GradeSheetRow['kind']) => read.rows.filter((row) => row.kind === kind).length;
    return ok({
      rows: read.rows
        .filter((row) => row.kind === 'change' || row.kind === 'wrong')
        .sort((a, b) => Number(b.kind === 'wrong') - Number(a.kind === 'wrong') || a.line - b.line)
        .slice(0, mostShown)
        .map((row) => ({ ...row, name: row.kind === 'change' ? (names.get(row.userId) ?? '') : '' })),
      changes: changes.length,
      same: count('same'),
      empty: count('empty'),
      wrong: count('wrong'),
      above: changes.filter((row) => row.above).length,
      by: read.by,
      columns: read.columns,
      ignored: read.ignored,
      key,
    });
  },
});

/** Scores were entered from a sheet: all of them go, and what was entered on top of them stays. */
export const gradesEntered = undoable<{ courseId: string; batch: string }>('gradebook.import', {
  action: 'gradebook.change',
  says: (_kept, { entered }) => `${counted(Number(entered), 'grade')} brought in from a sheet`,
  apply: (tx, { now }, { courseId, batch }) => takeBackEntries(tx, now, courseId, batch),
});

/** Takes over what was looked at, all or nothing. If it would now change anything else, nothing is done. */
export const applyGrades = command({
  admits: toCourse('gradebook.change'),
  takes: [bytes, previewKey],
  logs: 'gradebook.import',
  async prepares(_look, file) {
    return ok({ table: await readOutside('sheet', file, sheetLimit) });
  },
  does({ tx, courseId, record, context, ready }, _file, key): Result<{ auditId: number; entered: number }> {
    const upload = compared(context, courseId, ready.table);
    if (!upload.ok) return upload;
    const { changes } = upload.value;
    const otherwise = unlessAsSeen(key, upload.value.key, 'The gradebook has');
    if (otherwise) return otherwise;
    if (changes.length === 0) return refused('bad-input', 'Nothing in this sheet changes anything.');
    const batch = newId();
    for (let i = 0; i < changes.length; i += 200)
      tx.insert(gradeEntry)
        .values(
          changes.slice(i, i + 200).map(({ columnId, userId, points }) => ({
            courseId,
            columnId,
            userId,
            points,
            batch,
            reason: 'from a sheet',
            at: context.now,
            by: context.actor.userId,
          })),
        )
        .run();
    const auditId = record({
      subjectId: courseId,
      detail: { entered: changes.length, batch },
      undo: gradesEntered.of({ courseId, batch }),
    });
    return ok({ auditId, entered: changes.length });
  },
});
