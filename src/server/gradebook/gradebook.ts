import { z } from 'zod';
import { id } from '@/core/base/id';
import { mostPasted } from '@/core/base/pastedText';
import { notFound, ok, type Result } from '@/core/base/result';
import { roundHalfUp } from '@/core/base/rounding';
import {
  courseTotal,
  displayedTotal,
  type GradebookCell,
  type GradeGroup,
  totalSaid,
} from '@/core/gradebook/courseTotal';
import { type GradebookRules, type WeightsProblem, weightsProblems } from '@/core/gradebook/gradebookRules';
import type { CellSign } from '@/core/gradebook/sittingCell';
import { type ColumnStatistics, statisticsOf } from '@/core/gradebook/statistics';
import { inNameOrder, type NameOrder } from '@/core/people/names';
import { query } from '../house/useCase';
import { nameOrderOf } from '../people/nameOrder';
import { toCourse } from '../people/toCourse';
import { changedSince } from '../release/changedSince';
import { type BookColumn, type BookData, bookData } from './bookData';

/** What a cell says besides its score, where it says anything: for each the places of the cells, counted from 0. */
export type CellMark =
  | 'changed'
  | 'preliminary'
  | 'not-published'
  | 'missing'
  /** Over before the student came into the course. */
  | 'before-joining'
  | 'excused'
  /** Left out by its group. */
  | 'dropped'
  | 'late'
  /** Whether the student is done with the sitting, where that can be said. */
  | 'done'
  | 'not-done';

export type GradebookRow = {
  userId: string;
  name: string;
  studentNumber: string | null;
  section: string | null;
  /** Whether they have left the course: shown, and counted in nothing that is said of all. */
  hasLeft: boolean;
  /** What each cell counts with, in points of its column, rounded as it is shown; null where it does not count. */
  points: (number | null)[];
  /** The entries that stand in cells of columns filled by hand, by place: whoever types over one says which it was. */
  entered: Record<number, number>;
  /** The places of the cells of which there is more to say. */
  marks: Partial<Record<CellMark, number[]>>;
  /** The total in percent, rounded as it is shown; null while nothing counts. */
  total: number | null;
  band: string;
};

export type ColumnShown = Pick<
  BookColumn,
  'id' | 'title' | 'kind' | 'worth' | 'groupId' | 'extraCredit' | 'curve' | 'late' | 'ownWorth' | 'usualWorth'
> & { statistics: ColumnStatistics | null };

export type Gradebook = {
  courseName: string;
  rules: GradebookRules;
  groups: GradeGroup[];
  problems: WeightsProblem[];
  columns: ColumnShown[];
  rows: GradebookRow[];
  order: NameOrder;
  total: ColumnStatistics | null;
  /** The last score by hand that it rests on; 0 before the first. */
  lastEntry: number;
};

type CourseTotal = ReturnType<typeof courseTotal>;

/** Every student's total with its explanation. */
const totalsOf = ({ students, former, cells, computing }: BookData): ReadonlyMap<string, CourseTotal> =>
  new Map([...students, ...former].map(({ userId }) => [userId, courseTotal(computing, cells.get(userId) ?? [])]));

/** The gradebook of a course, from publications and what was entered by hand. */
export const gradebook = query({
  admits: toCourse('gradebook.see'),
  does({ courseId, courseName, context }): Result<Gradebook> {
    const data = bookData(context.db, courseId, context.now);
    const totals = totalsOf(data);
    const { rules, columns, students, former } = data;
    const order = nameOrderOf(context);
    const rowOf = rowsFrom(data, totals, changedSince(context, courseId).changed);
    const statistics = statisticsFrom(data, totals);
    const loose = data.ownGroups.length
      ? columns.filter((one) => !data.ownGroups.some((group) => group.id === one.groupId)).length
      : 0;
    return ok({
      courseName: courseName,
      rules,
      groups: data.ownGroups,
      problems: weightsProblems(data.ownGroups, loose),
      columns: columns.map(({ taking: _, ...column }, i) => ({ ...column, statistics: statistics.columns[i] ?? null })),
      rows: [...inNameOrder(students, order), ...inNameOrder(former, order)].map(rowOf),
      order,
      total: statistics.total,
      lastEntry: data.lastEntry,
    });
  },
});

/** What has changed in a gradebook by scores that were entered into it. */
export type BookChange = {
  /** The columns it has now: where others stand on the page, the page is asked for anew. */
  columns: { id: string; statistics: ColumnStatistics | null }[];
  /** The rows of which something may be other than it was. */
  rows: GradebookRow[];
  total: ColumnStatistics | null;
  lastEntry: number;
};

/**
 * The rows into which something was entered since a gradebook was looked at, by anybody, with what is said of all: what a page
 * asks for that only saved a few scores. Some students can be asked for besides, from whom scores were taken back.
 */
export const gradebookSince = query({
  admits: toCourse('gradebook.see'),
  takes: [z.strictObject({ lastEntry: z.int().min(0), userIds: z.array(id('user')).max(mostPasted) })],
  does({ courseId, context }, { lastEntry, userIds }): Result<BookChange> {
    const data = bookData(context.db, courseId, context.now);
    const totals = totalsOf(data);
    const { columns, students, former, entries } = data;
    const asked = new Set(userIds);
    // A new best score moves everybody's in a column that is curved to it.
    const all = columns.some((column) => column.kind === 'manual' && column.curve?.kind === 'to-maximum');
    const isTouched = ({ userId }: { userId: string }) =>
      all || asked.has(userId) || [...(entries.get(userId)?.values() ?? [])].some((entry) => entry.id > lastEntry);
    const statistics = statisticsFrom(data, totals);
    return ok({
      columns: columns.map((column, i) => ({ id: column.id, statistics: statistics.columns[i] ?? null })),
      rows: [...students, ...former]
        .filter(isTouched)
        .map(rowsFrom(data, totals, changedSince(context, courseId).changed)),
      total: statistics.total,
      lastEntry: data.lastEntry,
    });
  },
});

/** The row of a student, as it is shown. */
function rowsFrom(
  data: BookData,
  totals: ReadonlyMap<string, CourseTotal>,
  changed: ReadonlyMap<string, ReadonlySet<string>>,
) {
  const { rules, columns } = data;
  const left = new Set(data.former.map((one) => one.userId));
  const shown = (value: number | null) => (value === null ? null : Number(roundHalfUp(value, rules.decimals)));
  return ({ userId, name, studentNumber, section }: BookData['students'][number]): GradebookRow => {
    const total = totals.get(userId) as CourseTotal;
    return {
      userId,
      name,
      studentNumber,
      section,
      hasLeft: left.has(userId),
      points: total.cells.map((cell) => shown(cell.counted)),
      entered: enteredBy(columns, userId, data.entries),
      marks: marksOf(columns, userId, total, data, changed),
      total: shown(total.percent),
      band: displayedTotal(total.percent, rules.bands, rules.decimals).band?.label ?? '',
    };
  };
}

/** What is said of each column, and of the totals: of the scores of those who are in the course. */
function statisticsFrom({ columns, students }: BookData, totals: ReadonlyMap<string, CourseTotal>) {
  const counted = columns.map((): number[] => []);
  for (const { userId } of students)
    totals.get(userId)?.cells.forEach((cell, i) => {
      if (cell.counted !== null && cell.isScore) counted[i]?.push(cell.counted);
    });
  return {
    columns: counted.map(statisticsOf),
    total: statisticsOf(students.flatMap(({ userId }) => totals.get(userId)?.percent ?? [])),
  };
}

/** The ids of what was entered by hand for a student, by the place of its column. */
function enteredBy(
  columns: readonly BookColumn[],
  userId: string,
  entries: BookData['entries'],
): Record<number, number> {
  const entered: Record<number, number> = {};
  const own = entries.get(userId);
  columns.forEach((column, place) => {
    const entry = column.kind === 'manual' ? own?.get(column.id) : undefined;
    if (entry) entered[place] = entry.id;
  });
  return entered;
}

const silent: ReadonlySet<CellSign> = new Set<CellSign>(['published', 'entered', 'none']);

/** Of which cells of a student there is more to say than their score. */
function marksOf(
  columns: readonly BookColumn[],
  userId: string,
  total: CourseTotal,
  { signs, done }: BookData,
  changed: ReadonlyMap<string, ReadonlySet<string>>,
): GradebookRow['marks'] {
  const marks: GradebookRow['marks'] = {};
  const mark = (place: number, as: CellMark) => {
    marks[as] = [...(marks[as] ?? []), place];
  };
  const ownSigns = signs.get(userId) ?? [];
  const ownDone = done.get(userId) ?? [];
  columns.forEach((column, place) => {
    const sign = ownSigns[place] ?? 'none';
    if (sign === 'published' && changed.get(column.id)?.has(userId)) mark(place, 'changed');
    else if (!silent.has(sign)) mark(place, sign as CellMark);
    const step = total.cells[place];
    if (step?.as === 'dropped') mark(place, 'dropped');
    else if (step && step.daysLate > 0 && step.counted !== step.curved) mark(place, 'late');
    const finished = ownDone[place] ?? null;
    if (finished !== null) mark(place, finished ? 'done' : 'not-done');
  });
  return marks;
}

export type Explained = {
  student: string;
  parts: { heading: string; lines: string[] }[];
  percent: string;
  band: string;
  /** What is needed to try other numbers with; nothing of it is stored. */
  trial: {
    columns: BookColumn[];
    groups: GradeGroup[];
    rules: GradebookRules;
    cells: GradebookCell[];
    best: [columnId: string, score: number][];
  };
};

/** How a student's total was computed, step by step. */
export const explained = query({
  admits: toCourse('gradebook.see'),
  takes: [id('user')],
  does({ courseId, context }, userId): Result<Explained> {
    const data = bookData(context.db, courseId, context.now);
    const student = [...data.students, ...data.former].find((one) => one.userId === userId);
    if (!student) return notFound('student');
    const cells = data.cells.get(userId) ?? [];
    const total = courseTotal(data.computing, cells);
    const { text, band } = displayedTotal(total.percent, data.rules.bands, data.rules.decimals);
    return ok({
      student: student.name,
      parts: totalSaid(data.computing, total),
      percent: text,
      band: band?.label ?? '',
      trial: {
        columns: data.columns,
        groups: data.groups,
        rules: data.rules,
        cells,
        best: [...data.computing.best],
      },
    });
  },
});
