import { id } from '@/core/base/id';
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
};

/** Every student's total with its explanation. */
const totalsOf = ({ students, former, cells, computing }: BookData) =>
  new Map([...students, ...former].map(({ userId }) => [userId, courseTotal(computing, cells.get(userId) ?? [])]));

/** The gradebook of a course, from publications and what was entered by hand. */
export const gradebook = query({
  admits: toCourse('gradebook.see'),
  does({ courseId, courseName, context }): Result<Gradebook> {
    const data = bookData(context.db, courseId, context.now);
    const changed = changedSince(context, courseId).changed;
    const totals = totalsOf(data);
    const { rules, columns, students, former } = data;
    const order = nameOrderOf(context);
    const hasLeft = new Set(former.map((one) => one.userId));
    const listed = [...inNameOrder(students, order), ...inNameOrder(former, order)];
    const shown = (value: number | null) => (value === null ? null : Number(roundHalfUp(value, rules.decimals)));
    const counted = columns.map((): number[] => []);
    const rows = listed.map(({ userId, name, studentNumber, section }): GradebookRow => {
      const total = totals.get(userId) as ReturnType<typeof courseTotal>;
      total.cells.forEach((cell, i) => {
        if (cell.counted !== null && cell.isScore && !hasLeft.has(userId)) counted[i]?.push(cell.counted);
      });
      return {
        userId,
        name,
        studentNumber,
        section,
        hasLeft: hasLeft.has(userId),
        points: total.cells.map((cell) => shown(cell.counted)),
        entered: enteredBy(columns, userId, data.entries),
        marks: marksOf(columns, userId, total, data, changed),
        total: shown(total.percent),
        band: displayedTotal(total.percent, rules.bands, rules.decimals).band?.label ?? '',
      };
    });
    const loose = data.ownGroups.length
      ? columns.filter((one) => !data.ownGroups.some((group) => group.id === one.groupId)).length
      : 0;
    return ok({
      courseName: courseName,
      rules,
      groups: data.ownGroups,
      problems: weightsProblems(data.ownGroups, loose),
      columns: columns.map(({ taking: _, ...column }, i) => ({
        ...column,
        statistics: statisticsOf(counted[i] ?? []),
      })),
      rows,
      order,
      total: statisticsOf(students.flatMap(({ userId }) => totals.get(userId)?.percent ?? [])),
    });
  },
});

/** The ids of what was entered by hand for a student, by the place of its column. */
function enteredBy(
  columns: readonly BookColumn[],
  userId: string,
  entries: BookData['entries'],
): Record<number, number> {
  const entered: Record<number, number> = {};
  columns.forEach((column, place) => {
    const entry = column.kind === 'manual' ? entries.get(`${userId}/${column.id}`) : undefined;
    if (entry) entered[place] = entry.id;
  });
  return entered;
}

const silent: ReadonlySet<CellSign> = new Set<CellSign>(['published', 'entered', 'none']);

/** Of which cells of a student there is more to say than their score. */
function marksOf(
  columns: readonly BookColumn[],
  userId: string,
  total: ReturnType<typeof courseTotal>,
  { signs, done }: BookData,
  changed: ReadonlyMap<string, ReadonlySet<string>>,
): GradebookRow['marks'] {
  const marks: GradebookRow['marks'] = {};
  const mark = (place: number, as: CellMark) => {
    marks[as] = [...(marks[as] ?? []), place];
  };
  columns.forEach((column, place) => {
    const sign = signs.get(userId)?.[place] ?? 'none';
    if (sign === 'published' && changed.get(column.id)?.has(userId)) mark(place, 'changed');
    else if (!silent.has(sign)) mark(place, sign as CellMark);
    const step = total.cells[place];
    if (step?.as === 'dropped') mark(place, 'dropped');
    else if (step && step.daysLate > 0 && step.counted !== step.curved) mark(place, 'late');
    const finished = done.get(userId)?.[place] ?? null;
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
