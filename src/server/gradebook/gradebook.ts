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
import { type ColumnStatistics, statisticsOf } from '@/core/gradebook/statistics';
import { query } from '../house/useCase';
import { toCourse } from '../people/toCourse';
import { changedSince } from '../release/changedSince';
import { type BookColumn, type BookData, bookData, type CellSign } from './bookData';

/** What a cell says, in one letter, so that 30,000 of them are quickly sent. */
export const signLetters: Record<CellSign | 'changed', string> = {
  published: 'p',
  changed: 'c',
  preliminary: 'r',
  'not-published': 'n',
  missing: 'm',
  excused: 'x',
  entered: 'e',
  none: '-',
};

export type GradebookRow = {
  userId: string;
  name: string;
  studentNumber: string | null;
  section: string | null;
  /** What each cell counts with, in points of its column, rounded as it is shown; null where it does not count. */
  points: (number | null)[];
  /** A letter for each cell: see {@link signLetters}. */
  signs: string;
  /** A letter for each cell: d where it is dropped, l where it is late, else a dash. */
  ways: string;
  /** A letter for each cell: y where the student is done with the sitting, n where not yet, else a dash. */
  done: string;
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
  total: ColumnStatistics | null;
};

/** Every student's total with its explanation. */
export const totalsOf = ({ students, cells, computing }: BookData) =>
  new Map(students.map(({ userId }) => [userId, courseTotal(computing, cells.get(userId) ?? [])]));

/** The gradebook of a course, from publications and what was entered by hand. */
export const gradebook = query({
  admits: toCourse('gradebook.see'),
  does({ courseId, courseName, context }): Result<Gradebook> {
    const data = bookData(context.db, courseId, context.now);
    const changed = changedSince(context, courseId).changed;
    const totals = totalsOf(data);
    const { rules, columns, students } = data;
    const shown = (value: number | null) => (value === null ? null : Number(roundHalfUp(value, rules.decimals)));
    const counted = columns.map((): number[] => []);
    const rows = students.map(({ userId, name, studentNumber, section }): GradebookRow => {
      const total = totals.get(userId) as ReturnType<typeof courseTotal>;
      const signs = data.signs.get(userId) ?? [];
      total.cells.forEach((cell, i) => {
        if (cell.counted !== null && cell.as !== 'missing-as-zero') counted[i]?.push(cell.counted);
      });
      return {
        userId,
        name,
        studentNumber,
        section,
        points: total.cells.map((cell) => shown(cell.counted)),
        signs: signs
          .map((sign, i) =>
            sign === 'published' && changed.has(`${columns[i]?.id}/${userId}`)
              ? signLetters.changed
              : signLetters[sign],
          )
          .join(''),
        ways: total.cells
          .map((cell) => (cell.as === 'dropped' ? 'd' : cell.daysLate > 0 && cell.counted !== cell.curved ? 'l' : '-'))
          .join(''),
        done: (data.done.get(userId) ?? []).map((done) => (done === null ? '-' : done ? 'y' : 'n')).join(''),
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
      total: statisticsOf([...totals.values()].flatMap((total) => total.percent ?? [])),
    });
  },
});

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
    const student = data.students.find((one) => one.userId === userId);
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
