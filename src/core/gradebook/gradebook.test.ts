import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { bandCounts, bandOf, bandProblems, crossings, nearBoundaries } from './bands';
import { completionSaid, isDone } from './completion';
import {
  afterLate,
  bestScores,
  type Computing,
  courseTotal,
  curved,
  displayedTotal,
  type GradebookCell,
  type GradebookColumn,
  type GradeGroup,
  keptCells,
  totalSaid,
} from './courseTotal';
import { filledIn, sheetFileName, unknownWords } from './feedbackSheet';
import { oneGroup, weightsProblems } from './gradebookRules';
import { readGradeSheet } from './gradeSheet';
import { distribution, statisticsOf } from './statistics';

const column = (id: string, worth: number, more: Partial<GradebookColumn> = {}): GradebookColumn => ({
  id,
  title: id.toUpperCase(),
  worth,
  groupId: oneGroup.id,
  ...more,
});
const group = (id: string, weight: number, more: Partial<GradeGroup> = {}): GradeGroup => ({
  id,
  title: id,
  weight,
  counting: 'points',
  drop: 0,
  ...more,
});
const score = (earned: number, possible: number, daysLate = 0): GradebookCell => ({
  kind: 'score',
  earned,
  possible,
  daysLate,
});
const computing = (
  columns: GradebookColumn[],
  groups: GradeGroup[] = [oneGroup],
  more: Partial<Computing> = {},
): Computing => ({ columns, groups, missing: 'not-yet', best: new Map(), ...more });

describe('the course total', () => {
  it('scales each column to its worth and leaves empty and excused ones out', () => {
    const columns = [column('a', 5), column('b', 30), column('c', 10), column('d', 10)];
    // 3 of 4 → 3.75 of 5; 20 of 25 → 24 of 30: 27.75 of 35.
    const total = courseTotal(computing(columns), [score(3, 4), score(20, 25), { kind: 'empty' }, { kind: 'excused' }]);
    expect(total.cells.map((cell) => cell.counted)).toEqual([3.75, 24, null, null]);
    expect(total.percent).toBeCloseTo((27.75 / 35) * 100, 12);
  });

  it('is nothing while nothing counts, and 0 for a paper without points', () => {
    expect(courseTotal(computing([column('a', 5)]), [{ kind: 'empty' }]).percent).toBe(null);
    expect(courseTotal(computing([column('a', 5)]), [score(0, 0)]).percent).toBe(0);
    expect(courseTotal(computing([column('a', 0)]), [score(3, 3)]).percent).toBe(null);
  });

  it('counts what is missing as 0, or not yet', () => {
    const columns = [column('a', 10), column('b', 10)];
    const cells: GradebookCell[] = [score(8, 10), { kind: 'missing' }];
    expect(courseTotal(computing(columns), cells).percent).toBeCloseTo(80, 12);
    expect(courseTotal(computing(columns, [oneGroup], { missing: 'zero' }), cells).percent).toBeCloseTo(40, 12);
  });

  it('weighs groups, renormalised over those in which something counts', () => {
    const columns = [
      column('a', 10, { groupId: 'quiz' }),
      column('b', 50, { groupId: 'exam' }),
      column('c', 9, { groupId: 'lab' }),
    ];
    const groups = [group('quiz', 20), group('exam', 60), group('lab', 20)];
    // Quiz 50 %, exam 80 %, nothing in the lab: (20·50 + 60·80)/80 = 72.5.
    const total = courseTotal(computing(columns, groups), [score(5, 10), score(40, 50), { kind: 'empty' }]);
    expect(total.percent).toBeCloseTo(72.5, 12);
    expect(total.groups.map((step) => step.share)).toEqual([0.25, 0.75, null]);
  });

  it('lets columns of a group weigh the same, or a point be a point', () => {
    const columns = [column('a', 10, { groupId: 'g' }), column('b', 90, { groupId: 'g' })];
    const cells = [score(10, 10), score(45, 90)];
    expect(courseTotal(computing(columns, [group('g', 1)]), cells).percent).toBeCloseTo(55, 12);
    expect(courseTotal(computing(columns, [group('g', 1, { counting: 'equal' })]), cells).percent).toBeCloseTo(75, 12);
  });

  it('brings extra credit on top, and nothing while its group is empty', () => {
    const columns = [column('a', 20), column('x', 5, { extraCredit: true })];
    // 15 of 20 is 75 %; 4 points more, asked for nowhere: 19 of 20.
    expect(courseTotal(computing(columns), [score(15, 20), score(4, 5)]).percent).toBeCloseTo(95, 12);
    expect(courseTotal(computing(columns), [score(20, 20), score(5, 5)]).percent).toBeCloseTo(125, 12);
    expect(courseTotal(computing(columns), [{ kind: 'empty' }, score(5, 5)]).percent).toBe(null);
    // Extra credit that is missing costs nothing.
    const zero = computing(columns, [oneGroup], { missing: 'zero' });
    expect(courseTotal(zero, [score(15, 20), { kind: 'missing' }]).percent).toBeCloseTo(75, 12);
  });

  it('curves by adding up to the worth, or to the best score', () => {
    expect(curved(6, 10, { kind: 'add', points: 3 }, 0)).toBe(9);
    expect(curved(9, 10, { kind: 'add', points: 3 }, 0)).toBe(10);
    expect(curved(6, 10, { kind: 'to-maximum' }, 8)).toBeCloseTo(7.5, 12);
    expect(curved(0, 10, { kind: 'to-maximum' }, 0)).toBe(0);
    const columns = [column('a', 10, { curve: { kind: 'to-maximum' } })];
    const rows: GradebookCell[][] = [[score(6, 10)], [score(8, 10)], [{ kind: 'missing' }]];
    expect(bestScores(columns, rows).get('a')).toBe(8);
  });

  it('takes off for started days after due, down to the floor, and never from below it', () => {
    const late = { perDay: 0.1, floor: 0.5 };
    expect(afterLate(9, 10, late, 0)).toBe(9);
    expect(afterLate(9, 10, late, 2)).toBeCloseTo(7, 12);
    expect(afterLate(9, 10, late, 30)).toBe(5);
    expect(afterLate(3, 10, late, 30)).toBe(3);
    const columns = [column('a', 10, { late, curve: { kind: 'add', points: 1 } })];
    // 8 + 1 by the curve, then a day late: 8.
    expect(courseTotal(computing(columns), [score(16, 20, 1)]).cells[0]).toMatchObject({
      scaled: 8,
      curved: 9,
      counted: 8,
    });
  });

  it('rounds only for display, half up, and gives the band of what is displayed', () => {
    const bands = [
      { label: 'Pass', from: 70, comment: '' },
      { label: 'Fail', from: 0, comment: '' },
    ];
    expect(displayedTotal(69.95, bands, 1)).toMatchObject({ text: '70.0', band: { label: 'Pass' } });
    expect(displayedTotal(69.94, bands, 1)).toMatchObject({ text: '69.9', band: { label: 'Fail' } });
    expect(displayedTotal(null, bands, 1)).toEqual({ text: '', band: null });
  });
});

describe('dropping', () => {
  it('is not always the lowest percent: by points it keeps what makes the group’s result highest', () => {
    // 40 of 100 and 1 of 5 (20 %), 9 of 10: without the 40 of 100 it is 10 of 15, without the 1 of 5 only 49 of 110.
    const cells = [
      { earned: 40, worth: 100 },
      { earned: 1, worth: 5 },
      { earned: 9, worth: 10 },
    ];
    expect(keptCells(cells, 1, 'points')).toEqual([1, 2]);
    expect(keptCells(cells, 1, 'equal')).toEqual([0, 2]);
    expect(keptCells(cells, 9, 'points')).toEqual([2]);
    expect(keptCells(cells, 0, 'points')).toEqual([0, 1, 2]);
    expect(keptCells([], 2, 'points')).toEqual([]);
  });

  const subsets = (n: number, size: number): number[][] =>
    Array.from({ length: 2 ** n }, (_, bits) =>
      Array.from({ length: n }, (_, i) => i).filter((i) => bits & (1 << i)),
    ).filter((some) => some.length === size);

  it('is optimal: no other choice of as many gives more (against all choices)', () => {
    const cell = fc
      .record({ worth: fc.integer({ min: 1, max: 60 }), share: fc.integer({ min: 0, max: 12 }) })
      .map(({ worth, share }) => ({ worth, earned: (worth * share) / 10 }));
    fc.assert(
      fc.property(
        fc.array(cell, { minLength: 1, maxLength: 9 }),
        fc.integer({ min: 0, max: 9 }),
        fc.constantFrom('points' as const, 'equal' as const),
        (cells, drop, counting) => {
          const result = (kept: number[]) => {
            const own = kept.map((i) => cells[i] as { earned: number; worth: number });
            return counting === 'points'
              ? own.reduce((sum, one) => sum + one.earned, 0) / own.reduce((sum, one) => sum + one.worth, 0)
              : own.reduce((sum, one) => sum + one.earned / one.worth, 0) / own.length;
          };
          const kept = keptCells(cells, drop, counting);
          expect(kept).toHaveLength(Math.max(1, cells.length - drop));
          const best = Math.max(...subsets(cells.length, kept.length).map(result));
          expect(result(kept)).toBeGreaterThanOrEqual(best - 1e-12);
        },
      ),
      { numRuns: 400 },
    );
  });
});

const anyCell: fc.Arbitrary<GradebookCell> = fc.oneof(
  {
    weight: 5,
    arbitrary: fc
      .tuple(fc.integer({ min: 0, max: 40 }), fc.integer({ min: 40, max: 50 }), fc.integer({ min: 0, max: 4 }))
      .map(([e, p, d]) => score(e, p, d)),
  },
  fc.constantFrom<GradebookCell>({ kind: 'empty' }, { kind: 'missing' }, { kind: 'excused' }),
);
const anyColumn = fc.record({
  worth: fc.integer({ min: 0, max: 40 }),
  groupId: fc.constantFrom('g', 'h', 'none'),
  extraCredit: fc.boolean(),
  curve: fc.constantFrom(null, { kind: 'add' as const, points: 3 }, { kind: 'to-maximum' as const }),
  late: fc.constantFrom(null, { perDay: 0.1, floor: 0.4 }),
});
const anyBook = fc.record({
  columns: fc.array(anyColumn, { maxLength: 8 }).map((all) => all.map((one, i) => column(`c${i}`, one.worth, one))),
  cells: fc.array(anyCell, { minLength: 8, maxLength: 8 }),
  groups: fc
    .tuple(
      fc.integer({ min: 0, max: 60 }),
      fc.integer({ min: 0, max: 2 }),
      fc.constantFrom('points' as const, 'equal' as const),
    )
    .map(([weight, drop, counting]) => [group('g', weight, { drop, counting }), group('h', 40, { drop: 1 })]),
  missing: fc.constantFrom('zero' as const, 'not-yet' as const),
});

describe('the explanation', () => {
  it('sums to the result: of groups with their extra credit, and of cells', () => {
    fc.assert(
      fc.property(anyBook, ({ columns, cells, groups, missing }) => {
        const best = bestScores(columns, [cells]);
        const total = courseTotal({ columns, groups, missing, best }, cells);
        const byGroup = total.groups.reduce((sum, step) => sum + step.brings + step.extra, 0);
        const byCell = total.cells.reduce((sum, step) => sum + step.brings, 0);
        expect(byGroup).toBeCloseTo(total.percent ?? 0, 9);
        expect(byCell).toBeCloseTo(total.percent ?? 0, 9);
      }),
      { numRuns: 500 },
    );
  });

  it('excused cells never change the rest: as if their columns were not there', () => {
    fc.assert(
      fc.property(anyBook, fc.nat(7), ({ columns, cells, groups, missing }, which) => {
        const excused = cells.map((cell, i): GradebookCell => (i === which ? { kind: 'excused' } : cell));
        const without = <T>(all: readonly T[]) => all.filter((_, i) => i !== which);
        const best = bestScores(columns, [excused]);
        const book = { columns, groups, missing, best };
        expect(courseTotal(book, excused).percent).toEqual(
          courseTotal({ ...book, columns: without(columns) }, without(excused)).percent,
        );
      }),
      { numRuns: 300 },
    );
  });

  it('says every step in numbers', () => {
    const columns = [
      column('a', 10, { groupId: 'g', late: { perDay: 0.1, floor: 0 } }),
      column('b', 10, { groupId: 'g' }),
      column('x', 5, { groupId: 'g', extraCredit: true }),
      column('c', 20, { groupId: 'h', curve: { kind: 'add', points: 2 } }),
      column('d', 20, { groupId: 'h' }),
      column('e', 20, { groupId: 'h' }),
    ];
    const groups = [group('g', 30, { title: 'Quizzes', drop: 1 }), group('h', 70, { title: 'Exams' })];
    const book = computing(columns, groups, { missing: 'zero' });
    const cells: GradebookCell[] = [
      score(9, 10, 1),
      score(5, 10),
      score(2, 5),
      score(14, 20),
      { kind: 'missing' },
      { kind: 'excused' },
    ];
    const total = courseTotal(book, cells);
    // Quizzes: 8 of 10 after a day late, the 5 dropped: 80 %, 2 more as extra credit. Exams: 16 of 40: 40 %.
    expect(total.percent).toBeCloseTo(0.3 * 80 + 0.3 * 20 + 0.7 * 40, 12);
    expect(totalSaid(book, total)).toEqual([
      {
        heading: 'Quizzes',
        lines: [
          'A: 9 of 10, 8 after 1 day late.',
          'B: 5 of 10; dropped.',
          'X: 2 of 5; extra credit, brings 6 %.',
          'Together: 8 of 10 points, 1 lowest dropped = 80 %, with a weight of 30 %: brings 24 %.',
        ],
      },
      {
        heading: 'Exams',
        lines: [
          'C: 14 of 20, 16 after the curve.',
          'D: nothing handed in, counts as 0 of 20.',
          'E: excused, does not count.',
          'Together: 16 of 40 points = 40 %, with a weight of 70 %: brings 28 %.',
        ],
      },
      { heading: 'Total', lines: ['Quizzes 24 % + extra credit of Quizzes 6 % + Exams 28 % = 58 %'] },
    ]);
  });
});

describe('weights', () => {
  it('are shares: not summing to 100 is said, being none is refused', () => {
    expect(weightsProblems([], 3)).toEqual([]);
    expect(weightsProblems([group('a', 40), group('b', 60)], 0)).toEqual([]);
    expect(weightsProblems([group('a', 40), group('b', 50)], 0)[0]).toMatchObject({ kind: 'warning' });
    expect(weightsProblems([group('a', 0), group('b', 0)], 0)[0]).toMatchObject({ kind: 'error' });
    expect(weightsProblems([group('a', -1)], 0)[0]?.message).toBe('The weight of “a” is a number from 0 up.');
    expect(weightsProblems([group('a', 100)], 2)[0]?.message).toBe('2 columns are in no group and do not count.');
  });
});

describe('bands', () => {
  const band = (label: string, from: number) => ({ label, from, comment: '' });
  const bands = [band('A', 85), band('B', 70), band('C', 0)];

  it('apply to the percent as displayed', () => {
    expect(bandOf(bands, 84.96, 1)?.label).toBe('A');
    expect(bandOf(bands, 84.94, 1)?.label).toBe('B');
    expect(bandOf(bands, 84.6, 0)?.label).toBe('A');
    expect(bandOf(bands, 104, 1)?.label).toBe('A');
    expect(bandOf([], 50, 1)).toBe(null);
    expect(bandCounts(bands, [90, 71, 69.96, 3], 1)).toEqual([1, 2, 1]);
  });

  it('have their faults named: order, the same boundary, gaps below, labels', () => {
    const faults = (...some: { label: string; from: number; comment: string }[]) =>
      bandProblems(some).map((one) => `${one.index} ${one.field} ${one.message}`);
    expect(faults(...bands)).toEqual([]);
    expect(faults(band('A', 60), band('B', 70), band('C', 0))).toEqual([
      '1 from “B” begins at 70 %, above “A” with 60 %.',
    ]);
    expect(faults(band('A', 60), band('B', 60), band('C', 0))).toEqual([
      '1 from “B” and “A” begin at the same boundary of 60 %.',
    ]);
    expect(faults(band('A', 60), band('B', 10))).toEqual([
      '1 from Results below 10 % have no band: the lowest begins at 0 %.',
    ]);
    expect(faults(band('', 60), band('B', 0))).toEqual(['0 label A band needs a label.']);
    expect(faults(band('B', 60), band('B', 0))).toEqual(['1 label “B” is there twice.']);
    expect(faults(band('A', 120), band('B', 0))[0]).toContain('between 0 and 100');
  });

  it('are crossed by whoever a moved boundary passes, and are near within one error on either side', () => {
    const results = [
      { userId: 'p', percent: 84 },
      { userId: 'q', percent: 71 },
      { userId: 'r', percent: 68.5 },
      { userId: 's', percent: 20 },
    ];
    const moved = [band('A', 84), band('B', 72), band('C', 0)];
    expect(crossings(bands, moved, results, 1).map((one) => `${one.userId} ${one.from}${one.to}`)).toEqual([
      'p BA',
      'q BC',
    ]);
    expect(nearBoundaries(bands, results, 1.5, 1).map((one) => [one.userId, one.boundary, one.apart])).toEqual([
      ['p', 85, -1],
      ['q', 70, 1],
      ['r', 70, -1.5],
    ]);
  });
});

describe('being done with a sitting', () => {
  const published = { earned: 7, possible: 10, waiting: 0 };
  it('is when it is marked, or when it is passed, from what was published', () => {
    expect(isDone(null, published)).toBe(null);
    expect(isDone({ kind: 'when-marked' }, null)).toBe(false);
    expect(isDone({ kind: 'when-marked' }, { ...published, waiting: 1 })).toBe(false);
    expect(isDone({ kind: 'when-marked' }, { ...published, earned: 0 })).toBe(true);
    expect(isDone({ kind: 'when-passed', percent: 70 }, published)).toBe(true);
    expect(isDone({ kind: 'when-passed', percent: 70.1 }, published)).toBe(false);
    expect(isDone({ kind: 'when-passed', percent: 70 }, { earned: 0.7 * 10, possible: 10, waiting: 0 })).toBe(true);
    expect(completionSaid({ kind: 'when-passed', percent: 60 })).toBe('done when passed at 60 %');
  });
});

describe('statistics', () => {
  it('are of all scores there are', () => {
    expect(statisticsOf([])).toBe(null);
    expect(statisticsOf([2, 4, 4, 6])).toEqual({
      n: 4,
      mean: 4,
      median: 4,
      deviation: Math.sqrt(2),
      least: 2,
      most: 6,
    });
    expect(distribution([0, 9.99, 10, 99, 100, 130], 10)).toEqual([2, 1, 0, 0, 0, 0, 0, 0, 0, 3]);
    // 0.3 · 100 is a little less than 30 in binary.
    expect(distribution([0.3 * 100], 10)[3]).toBe(1);
  });
});

describe('a sheet of scores', () => {
  const students = [
    { userId: 'u1', name: 'Zoe Papathanou', email: 'zoe@x.example', studentNumber: '17' },
    { userId: 'u2', name: 'Bao Tran', email: 'bao@x.example', studentNumber: '18' },
    { userId: 'u3', name: 'Bao Tran', email: 'bao2@x.example', studentNumber: null },
  ];
  const columns = [{ id: 'c', title: 'Logbook', worth: 10, points: new Map([['u1', 7]]), excused: new Set(['u2']) }];
  const read = (table: string[][]) => {
    const result = readGradeSheet(table, students, columns);
    return result.ok
      ? result.rows.map(
          (row) => `${row.line} ${row.kind} ${'message' in row ? row.message : 'points' in row ? row.points : ''}`,
        )
      : result.message;
  };

  it('is read by number, email or name, whatever its columns’ order, and leaves empty cells alone', () => {
    expect(
      read([
        ['Logbook (of 10)', 'Student number', 'Name'],
        ['9,5', '17', 'Papathanou, Zoë'],
        ['', '18', ''],
        ['7', '17', ''],
      ]),
    ).toEqual(['2 change 9.5', '3 empty ', '4 wrong Zoe Papathanou stands in row 2 already.']);
    // A number slips by one row; the name beside it says so.
    expect(
      read([
        ['Student number', 'Name', 'Logbook'],
        ['17', 'Bao Tran', '3'],
        ['18', 'Ann Berg', '4'],
        ['17', 'Z. Papathanou', '5'],
      ]),
    ).toEqual([
      '2 wrong The student number “17” is Zoe Papathanou’s, and “Bao Tran” stands beside it. Mend the row, or take the name out.',
      '3 wrong The student number “18” is Bao Tran’s, and “Ann Berg” stands beside it. Mend the row, or take the name out.',
      '4 change 5',
    ]);
    expect(
      read([
        ['Student number', 'Logbook'],
        ['17', '7'],
      ]),
    ).toEqual(['2 same ']);
    expect(
      read([
        ['EMAIL', 'logbook'],
        ['Bao2@x.example', '12'],
      ]),
    ).toEqual(['2 change 12']);
  });

  it('undoes no excuse, and takes an export back as it is', () => {
    const of = (text: string) =>
      read([
        ['Email', 'Logbook (of 10)'],
        ['bao@x.example', text],
      ]);
    expect(of('excused')).toEqual(['2 same ']);
    expect(of('4')).toEqual(['2 wrong Bao Tran is excused here; take that away in the gradebook first.']);
    expect(
      read([
        ['Email', 'Logbook (of 10)'],
        ['zoe@x.example', 'excused'],
      ]),
    ).toEqual(['2 wrong “excused” is no number.']);
  });

  it('says what is wrong with each row', () => {
    expect(
      read([
        ['Name', 'Logbook'],
        ['Zoe Papathanou', '-3'],
        ['Bao Tran', '4'],
        ['Nobody', '4'],
        ['', '4'],
      ]),
    ).toEqual([
      '2 wrong Points cannot be negative.',
      '3 wrong 2 students have the name “Bao Tran”: tell them apart by student number or email.',
      '4 wrong No student here has the name “Nobody”.',
      '5 wrong No name stands in this row.',
    ]);
    expect(
      read([
        ['Name', 'Logbook'],
        ['Zoe Papathanou', 'seven'],
      ]),
    ).toEqual(['2 wrong “seven” is no number.']);
    expect(
      read([
        ['Name', 'Logbook'],
        ['Zoe Papathanou', '=1+1'],
      ]),
    ).toEqual(['2 wrong A formula stands in this cell; put the number there.']);
    expect(
      read([
        ['Name', 'Essay'],
        ['Zoe Papathanou', '7'],
      ]),
    ).toContain('None of its columns is a manual column here (Essay)');
    expect(read([['Logbook'], ['7']])).toContain('No column says who the students are');
  });
});

describe('feedback sheets', () => {
  const words = {
    name: 'Zoe',
    sitting: 'Quiz',
    course: 'C',
    score: '7',
    possible: '10',
    percent: '70',
    band: 'B',
    date: 'd',
    instructor: 'I',
  };
  it('fill in the words they know and leave the others', () => {
    expect(filledIn('Dear {name}, {score} of {possible} {nonsense}', words)).toBe('Dear Zoe, 7 of 10 {nonsense}');
    expect(unknownWords('{name} {nonsense}')).toEqual(['nonsense']);
  });

  it('are named for their students, safely and each by itself', () => {
    const taken = new Set<string>();
    expect(sheetFileName('Zoë Papathanou', 'pdf', taken)).toBe('Zoë Papathanou.pdf');
    expect(sheetFileName('Zoë Papathanou', 'pdf', taken)).toBe('Zoë Papathanou (2).pdf');
    expect(sheetFileName('=HYPERLINK("../../etc")', 'pdf', taken)).toBe('HYPERLINK .. .. etc.pdf');
    expect(sheetFileName('../..', 'docx', taken)).toBe('student.docx');
  });
});
