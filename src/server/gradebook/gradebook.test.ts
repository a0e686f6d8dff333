import { eq } from 'drizzle-orm';
import { beforeEach, describe, expect, it } from 'vitest';
import { day, hour, minute } from '@/core/base/time';
import { gradeEntry, user } from '@/db/schema';
import type { Actor } from '../house/context';
import { adjustMark } from '../marking/adjust';
import { markedPaper } from '../marking/responses';
import { readXlsx } from '../outside/readXlsx';
import { unpack } from '../outside/unpack';
import { publishReady } from '../release/publish';
import { arrange } from '../sitting/arrange';
import { must, numberContent, refusal, School } from '../testing/school';
import { takePaper } from '../testing/takePaper';
import { undoChange } from '../undoChange';
import { addColumn, moveColumn, removeColumn, saveNumbers, saveSittingBands } from './bookSettings';
import { cellHistory, enterCell, enterCells } from './entries';
import { explained, gradebook, gradebookSince } from './gradebook';
import { applyGrades, gradebookSheet, previewGrades } from './gradeSheets';
import { objectiveResults } from './objectiveResults';
import { settingsHistory } from './settingsHistory';
import { withOtherNumbers } from './withOtherNumbers';
import { workbench } from './workbench';

let school: School;
let quiz: string;
let columnId: string;

const teacher = (later = hour) => school.as(school.teacher, later);
const student = (i: number) => school.students[i] as Actor;
const book = (later = hour) => must(gradebook(teacher(later), school.courseId));
const row = (i: number, later = hour) => book(later).rows[i] as ReturnType<typeof book>['rows'][number];
const numbers = (input: object) => saveNumbers(teacher(), school.courseId, input);
const publish = (sittingId: string, expected: number, later = 30 * minute) =>
  must(publishReady(teacher(later), school.courseId, sittingId, { expected }));
const bytes = (text: string) => new TextEncoder().encode(text);

/** Three students; a quiz of 10 points, worth 20, due after a day, and a column of the instructor's own. */
beforeEach(() => {
  school = new School(3);
  const number = school.question(numberContent('number', '7'));
  const other = school.question(numberContent('other', '8'));
  quiz = school.sitting(school.exam([school.fixed(number, 6), school.fixed(other, 4)], 20), {
    due: '2026-03-03T10:00',
  });
  columnId = must(addColumn(teacher(), school.courseId, { title: 'Logbook', worth: 10 })).columnId;
});

const enter = (i: number, points: number | null, more: object = {}) =>
  enterCell(teacher(), school.courseId, columnId, student(i).userId, { points, before: 0, ...more });

describe('how totals are computed', () => {
  it('has a history: what was otherwise after each change, by whom; what was kept as it was is none', () => {
    must(numbers({ rules: { missing: 'zero' }, columns: { [quiz]: { worth: 30 } } }));
    must(numbers({ rules: { missing: 'zero' } }));
    must(saveSittingBands(teacher(), school.courseId, quiz, [{ label: 'Passed', from: 0, comment: '' }]));
    must(moveColumn(teacher(), school.courseId, columnId, 1));
    must(removeColumn(teacher(2 * hour), school.courseId, columnId, true));
    must(removeColumn(teacher(2 * hour), school.courseId, columnId, false));
    expect(refusal(numbers({ columns: { [quiz]: { worth: 40, groupId: 'nobody’s' } } }))).not.toBeNull();
    const { changes } = must(settingsHistory(teacher(3 * hour), school.courseId));
    const { title } = book().columns.find((column) => column.id === quiz) as { title: string };
    expect(changes.map((one) => one.said)).toEqual([
      ['Column “Logbook” added: worth 10 points.'],
      ['Column “Logbook” taken out.'],
      ['Columns stand in another order.'],
      [`Bands of ${title}: Passed from 0 %, before those of the course.`],
      [
        'What was not handed in: counts as 0, before does not count yet.',
        `Column “${title}”, worth: 30 points, before 20 points.`,
      ],
      ['Column “Logbook” added: worth 10 points.'],
    ]);
    expect(new Set(changes.map((one) => one.by))).toEqual(new Set([school.teacher.name]));
    expect(changes[1]?.at).toBe(teacher(2 * hour).now);
  });
});

describe('a course total', () => {
  it('rests on publications and entries, in weighted groups, with late deductions and excuses', () => {
    must(
      numbers({
        groups: [
          { id: '', title: 'Tests', weight: 75, counting: 'points', drop: 0 },
          { id: '', title: 'Practice', weight: 25, counting: 'equal', drop: 0 },
        ],
      }),
    );
    const [tests, practice] = book().groups;
    expect(book().problems.map((one) => one.message)).toEqual(['2 columns are in no group and do not count.']);
    const late = { perDay: 0.1, floor: 0 };
    must(numbers({ columns: { [quiz]: { groupId: tests?.id, late }, [columnId]: { groupId: practice?.id } } }));
    takePaper(school, quiz, student(0), [{ text: '7' }, { text: '8' }]);
    // Handed in a day and nine minutes after due: two started days late.
    takePaper(school, quiz, student(1), [{ text: '7' }, { text: '0' }], 24 * 60 + 1 + 60);
    publish(quiz, 2, 26 * hour);
    must(enter(0, 5));
    expect(row(0, 27 * hour)).toMatchObject({ points: [5, 20], total: 87.5, marks: {} });
    // 6 of 10 are 12 of 20; 10 % of 20 off for each of the started days.
    const second = row(1, 27 * hour);
    expect(second.points[1]).toBe(10);
    expect(second.marks).toEqual({ late: [1] });
    must(
      enterCell(teacher(), school.courseId, quiz, student(0).userId, {
        points: null,
        excused: true,
        reason: 'ill',
        before: 0,
      }),
    );
    expect(row(0, 27 * hour)).toMatchObject({ points: [5, null], total: 50, marks: { excused: [1] } });
  });

  it('knows what is missing once it is over for the student, with what is arranged for them', () => {
    takePaper(school, quiz, student(0), [{ text: '7' }, null]);
    must(
      arrange(teacher(), school.courseId, quiz, student(2).userId, {
        extraPercent: 0,
        extraMinutes: 0,
        opens: '',
        lastStart: '',
        due: '',
        closes: '2026-03-09T10:00',
        extraAttempts: 0,
        excused: false,
        entryCode: '',
        networks: [],
      }),
    );
    const [handedIn, missed] = [{ 'not-published': [1] }, { missing: [1] }];
    expect(book(2 * day + hour).rows.map((one) => one.marks)).toEqual([handedIn, missed, {}]);
    expect(book(8 * day).rows.map((one) => one.marks)).toEqual([handedIn, missed, missed]);
    expect(row(1, 8 * day).total).toBe(null);
    must(numbers({ rules: { missing: 'zero' } }));
    expect(row(1, 8 * day)).toMatchObject({ total: 0 });
  });

  it('says of a column only what its scores say: a 0 for what is missing is none, dropped or not', () => {
    must(
      numbers({
        rules: { missing: 'zero' },
        groups: [{ id: '', title: 'All', weight: 100, counting: 'points', drop: 1 }],
      }),
    );
    const [all] = book().groups;
    must(numbers({ columns: { [quiz]: { groupId: all?.id }, [columnId]: { groupId: all?.id } } }));
    takePaper(school, quiz, student(0), [{ text: '7' }, null]);
    publish(quiz, 1);
    for (const i of [0, 1]) must(enter(i, 10));
    const statistics = () => book(8 * day).columns.find((one) => one.id === quiz)?.statistics;
    // The quiz is dropped for both who have a better logbook; of the third, who has nothing else, it counts as 0.
    expect(row(1, 8 * day).marks).toMatchObject({ dropped: [1] });
    expect(statistics()).toMatchObject({ n: 1, mean: 12, least: 12, deviation: 0 });
    must(enterCell(teacher(), school.courseId, quiz, student(0).userId, { points: null, excused: true, before: 0 }));
    expect(statistics()).toBeNull();
  });

  it('keeps what was published, and says what has changed since', () => {
    takePaper(school, quiz, student(0), [{ text: '7' }, { text: '0' }]);
    publish(quiz, 1);
    const paper = must(markedPaper(teacher(), school.courseId, quiz, student(0).userId));
    const second = paper.questions[1];
    must(
      adjustMark(teacher(), school.courseId, second?.slotId ?? '', {
        points: 4,
        reason: 'The scale was unreadable.',
        revision: second?.revision,
        before: second?.markId,
      }),
    );
    expect(row(0)).toMatchObject({ points: [null, 12], marks: { changed: [1] } });
    publish(quiz, 1, 2 * hour);
    expect(row(0, 3 * hour)).toMatchObject({ points: [null, 20], marks: {} });
    const { changes } = must(cellHistory(teacher(3 * hour), school.courseId, quiz, student(0).userId));
    expect(changes.map((one) => [one.what, one.fallen])).toEqual([
      ['10 of 10 published', false],
      ['6 of 10 published', true],
    ]);
  });

  it('is explained in numbers that sum to it, and tried otherwise without a trace', () => {
    takePaper(school, quiz, student(0), [{ text: '7' }, { text: '0' }]);
    publish(quiz, 1);
    must(enter(0, 10));
    must(
      numbers({
        rules: {
          bands: [
            { label: 'Good', from: 70, comment: '' },
            { label: 'Rest', from: 0, comment: '' },
          ],
        },
      }),
    );
    const told = must(explained(teacher(), school.courseId, student(0).userId));
    expect(told.parts[0]?.lines).toEqual([
      'Logbook: 10 of 10.',
      'Sitting: 12 of 20.',
      'Together: 22 of 30 points = 73.33 %, with a weight of 100 %: brings 73.33 %.',
    ]);
    expect([told.percent, told.band]).toEqual(['73.3', 'Good']);
    const tried = must(
      withOtherNumbers(teacher(), school.courseId, {
        rules: {
          bands: [
            { label: 'Good', from: 80, comment: '' },
            { label: 'Rest', from: 0, comment: '' },
          ],
        },
      }),
    );
    expect(tried).toMatchObject({ moved: 0, crossing: [{ name: 'Student 1', from: 'Good', to: 'Rest' }] });
    expect(row(0).band).toBe('Good');
  });

  it('comes out as it was tried, whatever numbers are kept', () => {
    takePaper(school, quiz, student(0), [{ text: '7' }, { text: '0' }]);
    takePaper(school, quiz, student(1), [{ text: '0' }, { text: '8' }]);
    takePaper(school, quiz, student(2), [{ text: '7' }, { text: '8' }], 26 * 60);
    publish(quiz, 3, 27 * hour);
    for (const [i, points] of [10, 4, 7].entries()) must(enter(i, points));
    const now = 28 * hour;
    const mean = () => book(now).total?.mean ?? null;
    const [tests, practice] = ['Tests', 'Practice'].map((title) => ({
      id: '',
      title,
      weight: 50,
      counting: 'equal' as const,
      drop: 0,
    }));
    const tried = (input: object) => must(withOtherNumbers(teacher(now), school.courseId, input));
    const means = new Set<number | null>([mean()]);
    for (const other of [
      () => ({ columns: { [columnId]: { worth: 40 } } }),
      () => ({ columns: { [quiz]: { worth: 3, curve: { kind: 'to-maximum' } } } }),
      () => ({ columns: { [columnId]: { curve: { kind: 'add', points: 2 } }, [quiz]: { worth: null } } }),
      () => ({ columns: { [quiz]: { late: { perDay: 0.25, floor: 0 } } }, rules: { decimals: 2 } }),
      // A column in no group counts in none, not even in one that is new as well.
      () => ({ groups: [tests, practice] }),
      () => ({
        groups: book().groups.map((one) => ({ ...one, weight: one.title === 'Tests' ? 80 : 20 })),
        columns: { [quiz]: { groupId: book().groups[0]?.id }, [columnId]: { groupId: book().groups[1]?.id } },
      }),
      () => ({ columns: { [columnId]: { extraCredit: true } } }),
      () => ({ groups: [], columns: { [columnId]: { extraCredit: false } } }),
    ]) {
      const input = other();
      const { before, after } = tried(input);
      expect(before.mean).toBe(mean());
      must(numbers(input));
      expect([after.mean, JSON.stringify(input)]).toEqual([mean(), JSON.stringify(input)]);
      means.add(after.mean);
    }
    // Without groups it is again what it was before there were any.
    expect(means.size).toBe(8);
  });
});

describe('entering', () => {
  it('keeps a history, and tells whoever comes second', () => {
    const { entryId } = must(enter(0, 7, { reason: 'first look' }));
    expect(refusal(enter(0, 3))).toBe('conflict');
    must(enterCell(teacher(2 * hour), school.courseId, columnId, student(0).userId, { points: 8, before: entryId }));
    const history = must(cellHistory(teacher(), school.courseId, columnId, student(0).userId));
    expect(history).toMatchObject({ column: 'Logbook', points: 8, kind: 'manual' });
    expect(history.changes.map((one) => `${one.by}: ${one.what} ${one.reason}`.trim())).toEqual([
      'Tove Teacher: 8 entered',
      'Tove Teacher: 7 entered first look',
    ]);
  });

  it('refuses what is no score, scores of a sitting, and strangers', () => {
    for (const points of [-1, Number.NaN, 'seven']) expect(refusal(enter(0, points as number))).toBe('bad-input');
    expect(refusal(enterCell(teacher(), school.courseId, quiz, student(0).userId, { points: 3, before: 0 }))).toBe(
      'bad-input',
    );
    expect(
      refusal(enterCell(teacher(), school.courseId, columnId, school.marker.userId, { points: 3, before: 0 })),
    ).toBe('not-found');
    expect(
      refusal(
        enterCell(school.as(student(0)), school.courseId, columnId, student(0).userId, { points: 10, before: 0 }),
      ),
    ).toBe('not-allowed');
  });
});

describe('the rules of a gradebook', () => {
  it('are refused where they make no sense, each at its field, and leave everything as it was', () => {
    const bands = (...boundaries: number[]) =>
      numbers({ rules: { bands: boundaries.map((from, i) => ({ label: `B${i}`, from, comment: '' })) } });
    const field = (result: ReturnType<typeof bands>) => (result.ok ? null : result.problems[0]?.field);
    expect(field(bands(60, 70, 0))).toBe('bands.1.from');
    expect(field(bands(60, 60, 0))).toBe('bands.1.from');
    expect(field(bands(60, 10))).toBe('bands.1.from');
    expect(refusal(saveSittingBands(teacher(), school.courseId, quiz, [{ label: 'A', from: 50, comment: '' }]))).toBe(
      'bad-input',
    );
    const group = (weight: number) => [{ id: '', title: 'G', weight, counting: 'points', drop: 0 }];
    expect(field(numbers({ groups: group(0) }))).toBe('groups');
    expect(field(numbers({ groups: group(-3) }))).toBe('groups.0.weight');
    expect(field(numbers({ columns: { [columnId]: { worth: null } } }))).toBe(`columns.${columnId}.worth`);
    expect(refusal(numbers({ columns: { none: { worth: 3 } } }))).toBe('not-found');
    // One column that cannot be set keeps the whole change from being made.
    expect(
      refusal(
        numbers({
          rules: { decimals: 0 },
          groups: group(100),
          columns: { [columnId]: { worth: 40 }, [quiz]: { groupId: 'none' } },
        }),
      ),
    ).toBe('not-found');
    expect(book().columns.map((one) => one.worth)).toEqual([10, 20]);
    expect(book()).toMatchObject({ groups: [], rules: { bands: [], decimals: 1 } });
  });

  it('let columns be moved, taken out and put back with what they held', () => {
    must(enter(0, 7));
    expect(book().columns.map((one) => one.title)).toEqual(['Logbook', 'Sitting']);
    must(moveColumn(teacher(), school.courseId, quiz, 0));
    expect(book().columns.map((one) => one.title)).toEqual(['Sitting', 'Logbook']);
    must(removeColumn(teacher(), school.courseId, columnId, true));
    expect(book().columns.map((one) => one.title)).toEqual(['Sitting']);
    expect(refusal(enter(1, 3))).toBe('not-found');
    must(removeColumn(teacher(), school.courseId, columnId, false));
    expect(row(0).points[1]).toBe(7);
    expect(refusal(removeColumn(teacher(), school.courseId, quiz, true))).toBe('not-found');
  });
});

describe('sheets', () => {
  const sheet = 'Name,Logbook\nStudent 1,8\nStudent 2,minus\nNobody,3\n';

  it('are looked at first, taken over as looked at, and taken back', async () => {
    const seen = must(await previewGrades(teacher(), school.courseId, bytes(sheet)));
    expect(seen).toMatchObject({ changes: 1, wrong: 2, by: 'name', columns: ['Logbook'] });
    expect(school.db.select().from(gradeEntry).all()).toEqual([]);
    expect(refusal(await applyGrades(teacher(), school.courseId, bytes(sheet), 'another key'))).toBe('conflict');
    const { auditId } = must(await applyGrades(teacher(), school.courseId, bytes(sheet), seen.key));
    expect(row(0).points[0]).toBe(8);
    expect(must(await previewGrades(teacher(), school.courseId, bytes(sheet)))).toMatchObject({ changes: 0, same: 1 });
    must(undoChange(teacher(), school.courseId, auditId));
    expect(row(0).points[0]).toBe(null);
    expect(refusal(undoChange(teacher(), school.courseId, auditId))).toBe('conflict');
  });

  it('refuse what is none: other encodings, nothing, another kind of file', async () => {
    const look = async (file: Uint8Array) => refusal(await previewGrades(teacher(), school.courseId, file));
    expect(await look(new Uint8Array([0xff, 0xfe, 0x4e, 0x00]))).toBe('bad-input');
    expect(await look(bytes(''))).toBe('bad-input');
    expect(await look(new Uint8Array([0x50, 0x4b, 3, 4, 5]))).toBe('other-kind');
    expect(await look(bytes('Name,Other\nStudent 1,3'))).toBe('bad-input');
  });

  it('go out as a spreadsheet of texts and numbers, with names or without any trace of them', async () => {
    must(enter(0, 7));
    school.db
      .update(user)
      .set({ name: 'Ada Lund' })
      .where(eq(user.id, student(0).userId))
      .run();
    const out = must(await gradebookSheet(teacher(), school.courseId, { format: 'xlsx', names: false }));
    expect(out.fileName).toBe('Seamanship-gradebook-without-names.xlsx');
    const table = must(readXlsx(out.bytes));
    expect(table[0]).toEqual(['Student', 'Logbook (of 10)', 'Sitting (of 20)', 'Total %']);
    const logbook = table.slice(1).map((one) => one[1] ?? '');
    expect(logbook.filter(Boolean)).toEqual(['7']);
    const sheet = must(unpack(out.bytes, (name) => name === 'xl/worksheets/sheet1.xml'));
    expect(new TextDecoder().decode([...sheet.values()][0])).toMatch(/<c r="B\d"[^>t]*><v>7<\/v>/);
    expect(JSON.stringify(table)).not.toMatch(/Ada Lund|school\.example|Tove/);
    // A cell of a spreadsheet that is a text is never run: a name stands there as it is.
    school.db
      .update(user)
      .set({ name: '=1+1' })
      .where(eq(user.id, student(1).userId))
      .run();
    const named = must(await gradebookSheet(teacher(), school.courseId, { format: 'xlsx', names: true }));
    expect(must(readXlsx(named.bytes)).map((one) => one[0])).toContain('=1+1');
    const cells = must(unpack(named.bytes, (name) => name === 'xl/worksheets/sheet1.xml'));
    expect(new TextDecoder().decode([...cells.values()][0])).not.toContain('<f>');
    const csv = must(await gradebookSheet(teacher(), school.courseId, { format: 'csv', names: true }));
    expect(new TextDecoder().decode(csv.bytes)).toContain("'=1+1");
  });
});

describe('boundaries', () => {
  it('are set on the results as marked, with an error of measurement only where enough have taken it', () => {
    takePaper(school, quiz, student(0), [{ text: '7' }, { text: '8' }]);
    const bench = must(workbench(teacher(), school.courseId, quiz));
    expect(bench).toMatchObject({ results: [{ name: 'Student 1', percent: 100 }], error: null, own: false });
    expect(bench.whyNoError).toContain('fewer than 20');
    must(saveSittingBands(teacher(), school.courseId, quiz, [{ label: 'All', from: 0, comment: '' }]));
    expect(must(workbench(teacher(), school.courseId, quiz)).own).toBe(true);
    expect(must(workbench(teacher(), school.courseId, null)).results).toEqual([]);
  });

  it('have results by objective only where something was published', () => {
    takePaper(school, quiz, student(0), [{ text: '7' }, { text: '8' }]);
    expect(must(objectiveResults(teacher(), school.courseId)).objectives).toEqual([]);
  });
});

describe('two people set the same gradebook', () => {
  const group = (title: string, weight: number, id = '') => ({
    id,
    title,
    weight,
    counting: 'points' as const,
    drop: 0,
  });
  const band = (label: string, from: number) => ({ label, from, comment: '' });
  const save = (input: object, seen?: object) => saveNumbers(teacher(), school.courseId, input, seen);

  it('whoever keeps later undoes nothing that the other kept elsewhere', () => {
    must(save({ rules: { decimals: 2, missing: 'not-yet' }, groups: [group('Tests', 60), group('Practice', 40)] }));
    const opened = book();
    const seen = { rules: opened.rules, groups: opened.groups };
    const [tests, practice] = opened.groups;
    must(save({ rules: { missing: 'zero' } }, seen));
    must(save({ groups: [...opened.groups, group('Projects', 20)] }, seen));
    // From a page that was opened before either.
    must(save({ rules: { decimals: 0 }, groups: [{ ...tests, weight: 70 }, practice] }, seen));
    const now = book();
    expect([now.rules.missing, now.rules.decimals]).toEqual(['zero', 0]);
    expect(now.groups.map((one) => [one.title, one.weight])).toEqual([
      ['Tests', 70],
      ['Practice', 40],
      ['Projects', 20],
    ]);
  });

  it('is told, and nothing is overwritten, where both changed the same', () => {
    must(save({ groups: [group('Tests', 60), group('Practice', 40)] }));
    const opened = book();
    const seen = { rules: opened.rules, groups: opened.groups };
    const weighed = (weight: number) => opened.groups.map((one) => (one.title === 'Tests' ? { ...one, weight } : one));
    must(save({ groups: weighed(70) }, seen));
    expect(refusal(save({ groups: weighed(80) }, seen))).toBe('conflict');
    must(save({ rules: { bands: [band('Good', 50), band('Low', 0)] } }, seen));
    expect(refusal(save({ rules: { bands: [band('Good', 60), band('Low', 0)] } }, seen))).toBe('conflict');
    const now = book();
    expect([now.groups.find((one) => one.title === 'Tests')?.weight, now.rules.bands[0]?.from]).toEqual([70, 50]);
    // Alike is no quarrel.
    must(save({ groups: weighed(70) }, seen));
  });

  it('holds for the bands of a sitting too', () => {
    const own = (from: number) => [band('Passed', from), band('Not passed', 0)];
    must(saveSittingBands(teacher(), school.courseId, quiz, own(50), { bands: null }));
    expect(refusal(saveSittingBands(teacher(), school.courseId, quiz, own(60), { bands: null }))).toBe('conflict');
    must(saveSittingBands(teacher(), school.courseId, quiz, own(60), { bands: own(50) }));
    expect(must(workbench(teacher(), school.courseId, quiz)).bands[0]?.from).toBe(60);
  });
});

describe('scores typed into the grid', () => {
  const typed = (i: number, points: number | null, before = 0) => ({
    columnId,
    userId: student(i).userId,
    points,
    before,
  });
  const type = (cells: object[], more: object = {}) => enterCells(teacher(), school.courseId, { cells, ...more });
  const stand = () => book().rows.map((one) => one.points[0]);

  it('are entered together, stand with their entries, and are taken back together', () => {
    const first = must(type([typed(0, 7), typed(1, 8)]));
    expect(stand()).toEqual([7, 8, null]);
    expect(book().rows.map((one) => one.entered)).toEqual([{ 0: first.entryIds[0] }, { 0: first.entryIds[1] }, {}]);
    const second = must(type([typed(0, null, first.entryIds[0]), typed(2, 3)]));
    expect(stand()).toEqual([null, 8, 3]);
    must(undoChange(teacher(), school.courseId, second.auditId));
    expect(stand()).toEqual([7, 8, null]);
    must(undoChange(teacher(), school.courseId, first.auditId));
    expect(stand()).toEqual([null, null, null]);
  });

  it('come back with what they changed: the rows of everybody who was touched, and what is said of all', () => {
    const before = book();
    const since = (userIds: string[] = []) =>
      must(gradebookSince(teacher(), school.courseId, { lastEntry: before.lastEntry, userIds }));
    expect(since().rows).toEqual([]);
    const first = must(type([typed(0, 7)]));
    // A colleague enters something meanwhile.
    must(enter(2, 3));
    const after = book();
    const change = since();
    expect(change.rows.map((one) => one.userId).sort()).toEqual([student(0).userId, student(2).userId].sort());
    for (const row of change.rows) expect(row).toEqual(after.rows.find((one) => one.userId === row.userId));
    expect(change.columns).toEqual(after.columns.map(({ id, statistics }) => ({ id, statistics })));
    expect([change.total, change.lastEntry]).toEqual([after.total, after.lastEntry]);
    // Who was taken something back from is asked for by name.
    must(undoChange(teacher(), school.courseId, first.auditId));
    expect(since().rows.map((one) => one.userId)).toEqual([student(2).userId]);
    expect(since([student(0).userId]).rows.find((one) => one.userId === student(0).userId)?.points[0]).toBeNull();
  });

  it('move everybody in a column that is curved to its best score', () => {
    must(type([typed(0, 5), typed(1, 4)]));
    must(numbers({ columns: { [columnId]: { curve: { kind: 'to-maximum' } } } }));
    const { lastEntry } = book();
    must(type([typed(2, 8)]));
    const { rows } = must(gradebookSince(teacher(), school.courseId, { lastEntry, userIds: [] }));
    expect(new Set(rows.map((one) => one.userId)).size).toBe(3);
    expect(rows).toEqual(expect.arrayContaining(book().rows));
  });

  it('are entered all or not at all: not over what somebody else entered, nor above the worth unless it is meant', () => {
    must(enter(1, 5));
    expect(refusal(type([typed(0, 7), typed(1, 8)]))).toBe('conflict');
    expect(refusal(type([typed(0, 7), typed(2, 789)]))).toBe('bad-input');
    expect(stand()).toEqual([null, 5, null]);
    must(type([typed(0, 7), typed(2, 12)], { above: true }));
    expect(stand()).toEqual([7, 5, 12]);
    expect(refusal(enter(0, 31, { before: book().rows[0]?.entered[0] }))).toBe('bad-input');
    must(enter(0, 31, { before: book().rows[0]?.entered[0], above: true }));
    expect(stand()).toEqual([31, 5, 12]);
  });

  it('go into columns that are filled by hand alone, for students of the course', () => {
    expect(refusal(type([{ ...typed(0, 7), columnId: quiz }]))).toBe('not-found');
    expect(refusal(type([{ ...typed(0, 7), userId: school.teacher.userId }]))).toBe('not-found');
    expect(refusal(type([typed(0, -1)]))).toBe('bad-input');
    expect(refusal(type([]))).toBe('bad-input');
  });
});
