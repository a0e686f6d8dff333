import { and, eq } from 'drizzle-orm';
import { beforeEach, describe, expect, it } from 'vitest';
import { attempt, paperSlot, response, sheetPage } from '@/db/schema';
import { sittingResults } from '../release/results';
import { foundOn, PaperSheets, withoutPrinter } from '../testing/paperSheets';
import { must, numberContent, refusal, School } from '../testing/school';
import { settleSheetRow } from './bringPages';
import { seeReading } from './seeReading';
import { beginTyping, typeSheet } from './typeIn';

withoutPrinter();

let school: School;
let sheets: PaperSheets;
beforeEach(() => {
  school = new School(2);
  school.questions(4);
  const lines = [school.draw(2), school.fixed(school.question(numberContent('How much?', '-12.5')))];
  sheets = new PaperSheets(school, school.sitting(school.exam(lines)));
});

const number = ['−', '1', '2', '.', '5', ''];
const student = (i: number) => school.students[i]?.userId ?? '';
const begin = () => must(beginTyping(sheets.teacher(), school.courseId, sheets.sittingId));
const type = (i: number, rows: string[][], entry: 1 | 2 = 1) =>
  must(typeSheet(sheets.teacher(), school.courseId, sheets.sittingId, { userId: student(i), entry, rows }));
const scores = () =>
  must(sittingResults(sheets.teacher(), school.courseId, sheets.sittingId)).rows.map(
    (row) => row.result?.earned ?? null,
  );

describe('answers that are typed off papers', () => {
  it('come in as read ones do, each into the paper its student has', () => {
    const { layouts, students } = begin();
    expect(students.map((one) => [one.name, one.typed])).toEqual([
      ['Student 1', 0],
      ['Student 2', 0],
    ]);
    expect(layouts[students[0]?.layout ?? -1]?.map((row) => row.kind)).toEqual(['choice', 'choice', 'number']);
    expect(type(0, [['A'], [], number])).toEqual({ typed: 1, differs: [] });
    expect(begin().students[0]).toMatchObject({ typed: 1, rows: [['A'], [], number] });
    expect(sheets.preview().takings).toMatchObject([{ name: 'Student 1', into: 'new', answered: 2 }]);
    const { auditId } = sheets.take();
    expect(scores()[0]).toBeGreaterThanOrEqual(1);
    const stored = school.db
      .select({ position: paperSlot.position, value: response.value })
      .from(response)
      .innerJoin(paperSlot, eq(paperSlot.id, response.slotId))
      .innerJoin(attempt, eq(attempt.id, paperSlot.attemptId))
      .where(and(eq(attempt.userId, student(0)), eq(paperSlot.position, 2)))
      .get();
    expect(stored?.value).toEqual({ text: '-12.5' });
    // Taken over, nothing stands typed any more; taken back, it stands there again.
    expect(begin().students[0]?.typed).toBe(0);
    must(sheets.undo(auditId));
    expect(begin().students[0]?.typed).toBe(1);
  });

  it('typed anew take the place of what was typed, and nothing stands twice', () => {
    type(0, [['A'], ['B'], []]);
    type(0, [['C'], [], []]);
    expect(school.db.select().from(sheetPage).all()).toHaveLength(1);
    expect(begin().students[0]?.rows?.[0]).toEqual(['C']);
  });

  it('typed twice are compared; what differs waits, is settled, and then comes in', () => {
    type(0, [['A'], ['B'], number]);
    expect(type(0, [['A'], ['D'], number], 2)).toEqual({ typed: 2, differs: [1] });
    // Who was not typed before is typed for the first time.
    expect(type(1, [['A'], [], []], 2)).toEqual({ typed: 1, differs: [] });
    expect(begin().students.map((one) => [one.typed, one.differs])).toEqual([
      [2, [1]],
      [1, []],
    ]);
    expect(sheets.preview().doubts).toBe(1);
    const page = must(seeReading(sheets.teacher(), school.courseId, sheets.sittingId))?.pages[0];
    expect(page?.rows[1]).toEqual({ row: 1, filled: ['B'], doubt: 'two-entries', other: ['D'] });
    expect(page?.hasPicture).toBe(false);
    must(settleSheetRow(sheets.teacher(), school.courseId, sheets.sittingId, page?.id ?? '', 1, ['D']));
    expect(begin().students[0]?.differs).toEqual([]);
    expect(sheets.preview().takings.map((one) => one.answered)).toEqual([3, 1]);
    sheets.take();
  });

  it('beside a sheet that was read are told from it where they differ', async () => {
    const order = await sheets.print();
    await sheets.bring(foundOn(order, 'Student 1', { 0: ['A'] }));
    type(0, [['B'], [], []]);
    const pages = must(seeReading(sheets.teacher(), school.courseId, sheets.sittingId))?.pages;
    expect(pages?.map((page) => page.aside)).toEqual([null, 'differs']);
    type(0, [['A'], [], []]);
    const anew = must(seeReading(sheets.teacher(), school.courseId, sheets.sittingId))?.pages;
    expect(anew?.map((page) => page.aside)).toEqual([null, 'read-already']);
  });

  it('are refused where a row cannot say so, and for whoever is not in the sitting', () => {
    const send = (userId: string, rows: string[][]) =>
      typeSheet(sheets.teacher(), school.courseId, sheets.sittingId, { userId, entry: 1, rows });
    expect(send(student(0), [['A', 'B'], [], []])).toMatchObject({
      ok: false,
      problems: [{ field: 'row-0', message: 'Row 1: This row takes one mark.' }],
    });
    expect(send(student(0), [['Z'], [], []])).toMatchObject({ ok: false, problems: [{ field: 'row-0' }] });
    expect(refusal(send(student(0), [['A']]))).toBe('conflict');
    expect(refusal(send(school.marker.userId, [['A'], [], []]))).toBe('not-found');
    expect(school.db.select().from(sheetPage).all()).toEqual([]);
  });
});
