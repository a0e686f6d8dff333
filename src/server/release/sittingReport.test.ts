import { beforeEach, describe, expect, it } from 'vitest';
import { minute } from '@/core/base/time';
import type { SheetBlock } from '@/core/gradebook/sheetDocument';
import type { reportKinds } from '@/core/release/printedReports';
import { job } from '@/db/schema';
import { startAttempt } from '../attempt/startAttempt';
import type { Actor } from '../house/context';
import { printOf } from '../print/printJobs';
import { must, numberContent, refusal, School, writtenContent } from '../testing/school';
import { takePaper } from '../testing/takePaper';
import { cancelReport, printReport, reportFile, reportState, reportsPage, sittingReport } from './sittingReport';

let school: School;
let sittingId: string;

const teacher = () => school.as(school.teacher, 20 * minute);
const student = (i: number) => school.students[i] as Actor;
const report = (kind: (typeof reportKinds)[number]) => must(sittingReport(teacher(), school.courseId, sittingId, kind));
const rowsOf = (blocks: readonly SheetBlock[]) => blocks.flatMap((one) => (one.kind === 'table' ? one.rows : []));
const said = (blocks: readonly SheetBlock[]) => blocks.flatMap((one) => ('text' in one ? [one.text] : [])).join('\n');

/** A number for 6 points and one for 4; one student has both right, one the first, one has not handed in. */
beforeEach(() => {
  school = new School(3);
  sittingId = school.sitting(
    school.exam([
      school.fixed(school.question(numberContent('tide', '7')), 6),
      school.fixed(school.question(numberContent('drift', '8')), 4),
    ]),
  );
  takePaper(school, sittingId, student(0), [{ text: '7' }, { text: '8' }]);
  takePaper(school, sittingId, student(1), [{ text: '7' }, { text: '9' }]);
});

describe('the reports of a sitting', () => {
  it('hold the class, a line for each, with the numbers of those complete', () => {
    const [sheet, ...more] = report('class');
    expect(more).toEqual([]);
    expect(rowsOf(sheet?.blocks ?? [])).toEqual([
      ['Student 1', '10 of 10', '100.0'],
      ['Student 2', '6 of 10', '60.0'],
      ['Student 3', '–', ''],
    ]);
    expect(said(sheet?.blocks ?? [])).toContain('2 complete results: mean 80.0\u00a0%, median 80.0\u00a0%');
  });

  it('give each student a sheet that tells of nobody else', () => {
    const sheets = report('students');
    expect(sheets.map((one) => one.note.split(' · ')[0])).toEqual(['Student 1', 'Student 2']);
    expect(sheets[1]?.blocks[0]).toMatchObject({ kind: 'result', text: '6 of 10 points', note: '60.0\u00a0%' });
    expect(rowsOf(sheets[1]?.blocks ?? []).map((cells) => cells[1])).toEqual(['100 %', '0 %']);
    expect(JSON.stringify(sheets[1])).not.toContain('Student 1');
  });

  it('tell of questions how they did and what was answered, without names, in pieces', () => {
    const [sheet] = report('questions');
    expect(said(sheet?.blocks ?? [])).toContain('On 2 papers; 50.0\u00a0% of the points in the mean of 2.');
    expect(rowsOf(sheet?.blocks ?? [])).toContainEqual(['9', '1']);
    expect(JSON.stringify(sheet)).not.toContain('Student 1');
    const many = new School(1);
    const lines = Array.from({ length: 21 }, (_, i) => many.fixed(many.question(numberContent(`n${i}`, '1')), 1));
    const long = many.sitting(many.exam(lines));
    takePaper(many, long, many.students[0] as Actor, []);
    const pieces = must(sittingReport(many.as(many.teacher, 20 * minute), many.courseId, long, 'questions'));
    expect(pieces.map((one) => one.blocks.filter((block) => block.kind === 'heading').length)).toEqual([20, 1]);
  });

  it('leave names out where that is asked for, with the same number for a student in each', () => {
    const zora = school.add('Zora Quist', 'student');
    takePaper(school, sittingId, zora, [{ text: '1' }, { text: '8' }]);
    const without = (kind: string) => must(sittingReport(teacher(), school.courseId, sittingId, kind, false));
    const [sheet] = without('class');
    expect(JSON.stringify([sheet, ...without('students')])).not.toContain('Zora');
    const rows = rowsOf(sheet?.blocks ?? []);
    expect(rows.map((cells) => cells[0])).toEqual(['Student 1', 'Student 2', 'Student 3', 'Student 4']);
    const number = rows.find((cells) => cells.includes('4 of 10'))?.[0];
    const own = without('students').find((one) => JSON.stringify(one.blocks).includes('4 of 10 points'));
    expect(own?.note.split(' · ')[0]).toBe(number);
    expect(JSON.stringify(report('class'))).toContain('Zora');
  });

  it('say what is still to be marked, and give no percent of a result that is not complete', () => {
    const essay = school.question(writtenContent('essay'));
    sittingId = school.sitting(school.exam([school.fixed(essay, 6)]));
    takePaper(school, sittingId, student(0), [{ text: 'an answer' }]);
    expect(rowsOf(report('class')[0]?.blocks ?? [])[0]?.at(-1)).toBe('so far');
    expect(rowsOf(report('students')[0]?.blocks ?? [])[0]?.[1]).toBe('to be marked');
  });
});

describe('printing a report', () => {
  it('is for instructors of the course, of kinds there are, once something is handed in', async () => {
    for (const actor of [school.marker, school.elsewhere.teacher, student(0)]) {
      const context = school.as(actor, 20 * minute);
      for (const refused of [
        sittingReport(context, school.courseId, sittingId, 'class'),
        await printReport(context, school.courseId, sittingId, 'class'),
        reportsPage(context, school.courseId, sittingId),
        reportState(context, school.courseId, sittingId),
        cancelReport(context, school.courseId, sittingId),
        reportFile(context, school.courseId, sittingId),
      ])
        expect(['not-allowed', 'not-found']).toContain(refusal(refused));
    }
    expect(refusal(await printReport(teacher(), school.courseId, sittingId, 'other'))).toBe('bad-input');
    const empty = school.sitting(school.exam([school.draw(1)]));
    expect(refusal(await printReport(teacher(), school.courseId, empty, 'students'))).toBe('conflict');
    expect(school.db.select().from(job).all()).toEqual([]);
  });

  it('says before how many students it tells of: those who have handed in', () => {
    const page = () => must(reportsPage(teacher(), school.courseId, sittingId));
    expect(page()).toEqual({ title: 'Sitting', students: 2, state: null });
    must(startAttempt(school.as(student(2), minute), sittingId));
    expect(page().students).toBe(2);
  });

  it('is a job of whoever asked: how far it is, and which report, is told to nobody else', () => {
    const input = { sittingId, report: 'students' };
    school.db
      .insert(job)
      .values({
        id: 'print',
        kind: 'print-report',
        state: 'cancelled',
        done: 1,
        total: 2,
        input,
        startedBy: school.teacher.userId,
        createdAt: teacher().now,
      })
      .run();
    expect(must(reportState(teacher(), school.courseId, sittingId))).toMatchObject({ state: 'cancelled', input });
    expect(printOf(school.as(school.marker), 'print-report', sittingId)).toBeNull();
    expect(printOf(teacher(), 'print-sheets', sittingId)).toBeNull();
    expect(refusal(reportFile(teacher(), school.courseId, sittingId))).toBe('not-found');
    expect(refusal(cancelReport(teacher(), school.courseId, sittingId))).toBe('conflict');
  });
});
