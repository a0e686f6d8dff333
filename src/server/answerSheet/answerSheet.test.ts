import { and, desc, eq } from 'drizzle-orm';
import { beforeEach, describe, expect, it } from 'vitest';
import { rowsOfQuestion, usualGrid } from '@/core/answerSheet/questionRows';
import { sheetCodeText } from '@/core/answerSheet/sheetCode';
import { studentRow } from '@/core/answerSheet/sheetLayout';
import { minute } from '@/core/base/time';
import type { QuestionContent } from '@/core/question/content';
import { forStudent } from '@/core/question/student';
import { attempt, audit, mark, membership, paperSlot, response } from '@/db/schema';
import { saveResponses } from '../attempt/saveResponses';
import { startAttempt } from '../attempt/startAttempt';
import { openForWriting } from '../attempt/takeAttempt';
import type { Actor } from '../house/context';
import { newestMark } from '../records/newestMarks';
import { publishReady } from '../release/publish';
import { sittingResults } from '../release/results';
import { handInFor, voidAttempt } from '../room/invigilate';
import { foundOn, PaperSheets, printed, sheetsAsUsual, withoutPrinter } from '../testing/paperSheets';
import { must, numberContent, refusal, School, shortTextContent, writtenContent } from '../testing/school';
import { giveUpReading, leaveSheetPagesOut, nameSheetPage, settleSheetRow } from './bringPages';
import { lookAtSheets, printAnswerSheets } from './printAnswerSheets';
import { seeReading } from './seeReading';
import { previewSheets, takeSheets } from './takeSheets';

withoutPrinter();

let school: School;
let sittingId: string;
let sheets: PaperSheets;
beforeEach(() => {
  printed.length = 0;
  school = new School(3);
  school.questions(4);
});

const teacher = () => sheets.teacher();
const give = (lines = [school.draw(3)]) => {
  sittingId = school.sitting(school.exam(lines));
  sheets = new PaperSheets(school, sittingId);
};
const print = (...change: Parameters<PaperSheets['print']>) => sheets.print(...change);
const bring = (page: Parameters<PaperSheets['bring']>[0]) => sheets.bring(page);
const preview = () => sheets.preview();
const take = () => sheets.take();
const undo = (auditId: number) => sheets.undo(auditId);
const scores = () =>
  must(sittingResults(teacher(), school.courseId, sittingId)).rows.map((row) => row.result?.earned ?? null);

/** The sign of the right choice in each row of a student's paper. */
function rightSigns(student: Actor): Record<number, string[]> {
  const own = school.db
    .select({ slot: paperSlot })
    .from(paperSlot)
    .innerJoin(attempt, eq(attempt.id, paperSlot.attemptId))
    .where(and(eq(attempt.userId, student.userId), eq(attempt.sittingId, sittingId)))
    .all();
  return Object.fromEntries(
    own.map(({ slot }) => {
      const places = slot.presentation.choices?.map((one) => one.id ?? '') ?? [];
      return [slot.position, ['ABCD'[places.indexOf('c0')] ?? '']];
    }),
  );
}

describe('printing answer sheets', () => {
  it('makes one out for everybody, by name, and the same again when it is printed again', async () => {
    give();
    const first = await print();
    expect(first.sheets.map((one) => one.name)).toEqual(['Student 1', 'Student 2', 'Student 3']);
    expect(new Set(first.sheets.map((one) => `${one.layout}/${one.copy}`)).size).toBe(3);
    expect((await print()).sheets).toEqual(first.sheets);
    // Another size is another layout; what was printed before keeps its own.
    expect((await print({ size: 90 })).sheets[0]?.layout).not.toBe(first.sheets[0]?.layout);
    expect((await print({ trial: true })).sheets).toHaveLength(1);
  });

  it('prints blanks only where everybody has the same paper, with a grid for the longest number', async () => {
    give();
    expect(
      refusal(printAnswerSheets(teacher(), school.courseId, sittingId, { ...sheetsAsUsual, whose: 'blank' })),
    ).toBe('conflict');
    give([school.fixed(school.question(numberContent('How much?', '3')))]);
    school.db
      .update(membership)
      .set({ studentNumber: '10287' })
      .where(eq(membership.userId, school.students[0]?.userId ?? ''))
      .run();
    // Whoever has no number that can be filled in is asked about later: that is said before printing.
    const blank = { ...sheetsAsUsual, whose: 'blank' as const };
    expect(must(lookAtSheets(teacher(), school.courseId, sittingId, blank)).unnumbered).toBe(2);
    const blanks = await print({ whose: 'blank' });
    expect(blanks.sheets).toHaveLength(5);
    expect(Object.values(blanks.layouts)[0]?.studentColumns).toBe(5);
    // More blanks are other copies, so that a sheet is told from a copy of it.
    expect((await print({ whose: 'blank' })).sheets.map((one) => one.copy)).toEqual([6, 7, 8, 9, 10]);
  });

  it('says what would be printed, and what does not fit', async () => {
    give([
      ...Array.from({ length: 3 }, () => school.draw(1)),
      school.fixed(school.question(writtenContent('Why?')), 4),
    ]);
    expect(must(lookAtSheets(teacher(), school.courseId, sittingId, sheetsAsUsual))).toEqual({
      sheets: 3,
      pages: 1,
      rows: 4,
      byHand: 1,
      numbers: 0,
      unnumbered: 0,
      inWords: 0,
      problem: null,
    });
    const refused = printAnswerSheets(teacher(), school.courseId, sittingId, { ...sheetsAsUsual, size: 60 });
    expect(refused).toMatchObject({ ok: false, problems: [{ field: 'size' }] });
  });
});

describe('sheets that are read in', () => {
  it('become attempts with the papers they were printed for, marked as every other, and are taken back whole', async () => {
    give();
    const order = await print();
    const [ada, bo] = school.students as [Actor, Actor];
    // Nobody has started: whatever is filled in, the paper is the one that the printed one was.
    for (const name of ['Student 1', 'Student 2']) await bring(foundOn(order, name, { 0: ['A'], 1: ['B'] }));
    expect(preview()).toMatchObject({ doubts: 0, without: ['Student 3'], said: '2 of 3 students.' });
    expect(preview().takings.map((one) => [one.name, one.into, one.answered])).toEqual([
      ['Student 1', 'new', 2],
      ['Student 2', 'new', 2],
    ]);
    expect(school.db.select().from(attempt).all()).toEqual([]);
    const { sheets: taken, auditId } = take();
    expect(taken).toBe(2);
    const rows = school.db.select().from(attempt).all();
    expect(rows.map((one) => [one.userId, one.state, one.endedBy, one.number])).toEqual([
      [ada.userId, 'handed-in', 'answer-sheet', 1],
      [bo.userId, 'handed-in', 'answer-sheet', 1],
    ]);
    const right = rightSigns(ada);
    const earned = Number(right[0]?.[0] === 'A') + Number(right[1]?.[0] === 'B');
    expect(scores()[0]).toBe(earned);
    // Taken back: nothing of it counts; read in again: the same paper, the same points.
    must(undo(auditId));
    expect(scores()).toEqual([null, null, null]);
    expect(preview().takings.map((one) => one.into)).toEqual(['again', 'again']);
    take();
    expect(scores()[0]).toBe(earned);
    expect(school.db.select().from(attempt).all()).toHaveLength(2);
  });

  it('full marks for who fills in what is right on the own paper', async () => {
    give([school.draw(3), school.fixed(school.question(numberContent('How much?', '-12.5')))]);
    const order = await print();
    // The paper of each is known once somebody starts it: on a screen, which is the same paper.
    const [ada] = school.students as [Actor];
    const { attemptId } = must(startAttempt(school.as(ada, minute), sittingId));
    const right = rightSigns(ada);
    await bring(foundOn(order, 'Student 1', { ...right, 3: ['−', '1', '2', '.', '5', ''] }));
    expect(preview().takings[0]).toMatchObject({ into: 'existing', problem: null });
    expect(preview().takings[0]?.changes).toHaveLength(4);
    take();
    expect(scores()[0]).toBe(4);
    expect(school.db.select().from(attempt).where(eq(attempt.id, attemptId)).get()).toMatchObject({
      state: 'handed-in',
      endedBy: 'answer-sheet',
    });
  });

  it('leave what was answered on a screen where they say nothing, and say what they change', async () => {
    give();
    const order = await print();
    const [ada] = school.students as [Actor];
    const { attemptId } = must(startAttempt(school.as(ada, minute), sittingId));
    const opened = must(openForWriting(school.as(ada, minute), attemptId));
    const value = (n: number) => {
      const view = opened.slots[n]?.view;
      return view?.type === 'single-choice' ? { picked: view.choices[2]?.key } : null;
    };
    const context = school.as(ada, 2 * minute);
    for (const n of [0, 1]) {
      const save = {
        attemptId,
        slotId: opened.slots[n]?.slotId ?? '',
        epoch: opened.epoch,
        sequence: n + 1,
        value: value(n),
        comeBack: false,
      };
      must(saveResponses(school.db, [{ context, save }])[0] ?? expect.fail('not saved'));
    }
    await bring(foundOn(order, 'Student 1', { 1: ['A'] }));
    const { changes, notes } = preview().takings[0] ?? expect.fail('nothing comes in');
    expect(notes).toEqual(['Is writing on a screen now: that is handed in with it.']);
    expect(changes).toHaveLength(1);
    expect(changes[0]?.number).toBe(2);
    const { auditId } = take();
    const values = () =>
      school.db
        .select()
        .from(response)
        .where(eq(response.attemptId, attemptId))
        .all()
        .map((one) => one.value);
    expect(values()).toEqual([value(0), { picked: expect.any(String) }]);
    must(undo(auditId));
    expect(values()).toEqual([value(0), value(1)]);
    expect(school.db.select().from(attempt).where(eq(attempt.id, attemptId)).get()?.state).toBe('running');
  });

  it('carry the levels of a rubric that a marker filled in, and wait while one is missing', async () => {
    const level = (id: string, share: number) => ({ id, name: id, share });
    const rubric = {
      criteria: [
        { id: 'words', name: 'Words', weight: 1, levels: [level('none', 0), level('all', 1)] },
        { id: 'sense', name: 'Sense', weight: 3, levels: [level('none', 0), level('some', 0.5), level('all', 1)] },
      ],
    };
    give([school.fixed(school.question({ ...writtenContent('Why?'), rubric } as QuestionContent), 4)]);
    const order = await print();
    expect(Object.values(order.layouts)[0]?.rows).toMatchObject([
      { kind: 'rubric', label: '1a', values: [0, 1], weight: 1 },
      { kind: 'rubric', label: '1b', values: [0, 1.5, 3], weight: 3 },
    ]);
    const half = await bring(foundOn(order, 'Student 1', { 0: ['1'] }));
    expect(preview().takings[0]?.notes).toEqual([
      'Question 1 waits to be marked: not every criterion has a level.',
      '1 question waits to be marked: no points are filled in.',
    ]);
    must(settleSheetRow(teacher(), school.courseId, sittingId, half, 1, ['1.5']));
    take();
    expect(scores()[0]).toBe(2.5);
    const given = school.db.select().from(mark).where(eq(mark.kind, 'hand')).orderBy(desc(mark.id)).get();
    expect(given).toMatchObject({ points: 2.5, rubric: { words: 'all', sense: 'some' } });
    // Read again with the same marks nothing changes; with another level of the same points nothing is lost either.
    await bring(foundOn(order, 'Student 1', { 0: ['1'], 1: ['1.5'] }));
    expect(preview().takings[0]?.changes).toEqual([]);
  });

  it('of two attempts of a student go each into its own, in one reading', async () => {
    sittingId = school.sitting(school.exam([school.draw(3)]), { attemptsAllowed: 2 });
    sheets = new PaperSheets(school, sittingId);
    const [ada] = school.students as [Actor];
    const begin = (minutes: number) => must(startAttempt(school.as(ada, minutes * minute), sittingId)).attemptId;
    const first = begin(1);
    const forFirst = await print();
    must(handInFor(teacher(), school.courseId, sittingId, first));
    const second = begin(400);
    const forSecond = await print();
    await bring(foundOn(forSecond, 'Student 1', { 0: ['B'] }));
    await bring(foundOn(forFirst, 'Student 1', { 0: ['A'], 1: ['C'] }));
    expect(preview().said).toBe('1 of 3 students.');
    expect(preview().takings.map((one) => [one.name, one.answered])).toEqual([
      ['Student 1', 2],
      ['Student 1, attempt 2', 1],
    ]);
    expect(take().sheets).toBe(2);
    const answered = (attemptId: string) =>
      school.db
        .select()
        .from(response)
        .where(eq(response.attemptId, attemptId))
        .all()
        .filter((row) => row.value).length;
    expect([answered(first), answered(second)]).toEqual([2, 1]);
    const ended = school.db.select().from(attempt).where(eq(attempt.sittingId, sittingId)).all();
    expect(ended.map((one) => [one.number, one.state])).toEqual([
      [1, 'handed-in'],
      [2, 'handed-in'],
    ]);
  });

  it('can be left out student by student, and say where a result is published that they would change', async () => {
    give();
    const order = await print();
    const first = await bring(foundOn(order, 'Student 1', { 0: ['A'] }));
    take();
    const ready = must(sittingResults(teacher(), school.courseId, sittingId)).rows.filter((row) => row.result?.ready);
    must(publishReady(teacher(), school.courseId, sittingId, { expected: ready.length }));
    const second = await bring(foundOn(order, 'Student 1', { 0: ['B'] }));
    const third = await bring(foundOn(order, 'Student 2', { 0: ['B'] }));
    expect(preview().takings.map((one) => [one.name, one.pages, one.notes])).toEqual([
      ['Student 1', [second], ['Their result is published: what they read changes when you publish again.']],
      ['Student 2', [third], []],
    ]);
    const { key } = preview();
    const leave = (pages: string[], out: boolean) =>
      leaveSheetPagesOut(teacher(), school.courseId, sittingId, pages, out);
    must(leave([second], true));
    expect(preview().takings.map((one) => one.name)).toEqual(['Student 2']);
    expect(must(seeReading(teacher(), school.courseId, sittingId))?.pages[0]).toMatchObject({
      leftOut: true,
      aside: null,
      student: { name: 'Student 1' },
    });
    must(leave([second], false));
    expect(preview().key).toBe(key);
    // What was taken over is looked through no more, and the other page stays as it is.
    expect(refusal(leave([third, first], true))).toBe('not-found');
    expect(preview().takings).toHaveLength(2);
  });

  it('wait with every row in doubt until a person settles it', async () => {
    give();
    const order = await print();
    const pageId = await bring(foundOn(order, 'Student 1', { 0: ['A'] }, { faint: 1 }));
    const { key, doubts } = preview();
    expect(doubts).toBe(1);
    expect(takeSheets(teacher(), school.courseId, sittingId, key)).toMatchObject({
      ok: false,
      problems: [{ message: expect.stringContaining('1 row waits for you') }],
    });
    expect(refusal(settleSheetRow(teacher(), school.courseId, sittingId, pageId, 1, ['A', 'B']))).toBe('bad-input');
    expect(refusal(settleSheetRow(teacher(), school.courseId, sittingId, pageId, 1, ['Z']))).toBe('bad-input');
    must(settleSheetRow(teacher(), school.courseId, sittingId, pageId, 1, ['C']));
    // What was looked at before is not what would come in now.
    expect(refusal(takeSheets(teacher(), school.courseId, sittingId, key))).toBe('conflict');
    expect(preview().takings[0]?.answered).toBe(2);
    take();
  });

  it('carry points that a marker filled in, by whoever reads them in, and not more than there are', async () => {
    give([school.fixed(school.question(writtenContent('Why?')), 4), school.draw(1)]);
    const order = await print();
    const tooMany = await bring(foundOn(order, 'Student 1', { 0: ['4', '½'] }));
    expect(preview().takings[0]?.problem).toBe('Question 1 carries 4 points; the sheet says 4.5.');
    must(leaveSheetPagesOut(teacher(), school.courseId, sittingId, [tooMany], true));
    await bring(foundOn(order, 'Student 1', { 0: ['3', '½'] }));
    const { auditId } = take();
    expect(scores()[0]).toBeGreaterThanOrEqual(3.5);
    const given = school.db.select().from(mark).where(eq(mark.kind, 'hand')).orderBy(desc(mark.id)).get();
    expect(given).toMatchObject({ points: 3.5, markerId: school.teacher.userId });
    must(undo(auditId));
    expect(scores()[0]).toBeNull();
  });

  it('with a word or a text on paper wait for a marker, unless points are filled in', async () => {
    give([school.fixed(school.question(shortTextContent('Which knot?', 'reef')), 2), school.draw(1)]);
    const order = await print();
    const [ada, bo] = school.students as [Actor, Actor];
    // Bo handed in empty on a screen: a rule took it for wrong.
    const { attemptId } = must(startAttempt(school.as(bo, minute), sittingId));
    must(handInFor(teacher(), school.courseId, sittingId, attemptId));
    const ofFirst = (userId: string) =>
      school.db
        .select({ points: mark.points, kind: mark.kind })
        .from(paperSlot)
        .innerJoin(attempt, eq(attempt.id, paperSlot.attemptId))
        .leftJoin(mark, newestMark)
        .where(and(eq(attempt.userId, userId), eq(paperSlot.position, 0)))
        .get();
    expect(ofFirst(bo.userId)).toEqual({ points: 0, kind: 'automatic' });
    await bring(foundOn(order, 'Student 1', { 1: ['A'] }));
    await bring(foundOn(order, 'Student 2', { 1: ['A'] }));
    expect(preview().takings[0]?.notes).toEqual(['1 question waits to be marked: no points are filled in.']);
    const { auditId } = take();
    expect(ofFirst(ada.userId)).toEqual({ points: null, kind: null });
    expect(ofFirst(bo.userId)).toEqual({ points: null, kind: null });
    must(undo(auditId));
    expect(ofFirst(bo.userId)).toEqual({ points: 0, kind: 'automatic' });
    await bring(foundOn(order, 'Student 2', { 0: ['2'], 1: ['A'] }));
    // The page that came first says nothing of it: which of the two counts, a person says.
    expect(must(seeReading(teacher(), school.courseId, sittingId))?.pages.map((page) => page.aside)).toEqual([
      null,
      null,
      'differs',
    ]);
  });

  it('of another exam, from elsewhere, of nobody, or twice are put aside; the rest goes on', async () => {
    const question = school.question(numberContent('How much?', '3'));
    give([school.fixed(question)]);
    const other = await print();
    give([school.fixed(question)]);
    school.db
      .update(membership)
      .set({ studentNumber: '00102' })
      .where(eq(membership.userId, school.students[0]?.userId ?? ''))
      .run();
    const order = await print({ whose: 'blank' });
    const filled = { [studentRow]: ['0', '0', '1', '0', '2'], 0: ['3', '', '', '', '', ''] };
    await bring(foundOn(order, null, filled, { copy: 1 }));
    await bring(foundOn(order, null, filled, { copy: 1 }));
    await bring(foundOn(order, null, { ...filled, 0: ['4', '', '', '', '', ''] }, { copy: 2 }));
    const unnamed = await bring(foundOn(order, null, { 0: ['3', '', '', '', '', ''] }, { copy: 3 }));
    await bring(foundOn(order, null, { ...filled, [studentRow]: ['9', '9', '9', '9', '9'] }, { copy: 4 }));
    await bring(foundOn(other, 'Student 1', {}));
    await bring({
      source: 'photo.jpg',
      problem: null,
      code: sheetCodeText({ installation: 'QTHER', layout: 'AAAAAAA', copy: 1, page: 1 }),
      darkness: null,
    });
    await bring({ source: 'letter.pdf', problem: 'no-sheet', code: null, darkness: null });
    await bring({ source: 'torn.pdf', problem: 'corner-missing', code: null, darkness: null });
    const asides = () => must(seeReading(teacher(), school.courseId, sittingId))?.pages.map((page) => page.aside);
    expect(asides()).toEqual([
      null,
      'read-already',
      'differs',
      'no-student',
      'unknown-number',
      'other-exam',
      'other-installation',
      'no-sheet',
      'corner-missing',
    ]);
    must(nameSheetPage(teacher(), school.courseId, sittingId, unnamed, school.students[1]?.userId ?? ''));
    expect(preview().takings.map((one) => one.name)).toEqual(['Student 1', 'Student 2']);
    take();
    expect(scores()).toEqual([1, 1, null]);
  });

  it('of an attempt that was voided are not given to another paper', async () => {
    give();
    const order = await print();
    const [ada] = school.students as [Actor];
    const { attemptId } = must(startAttempt(school.as(ada, minute), sittingId));
    must(voidAttempt(teacher(), school.courseId, sittingId, attemptId, 'the wrong room'));
    await bring(foundOn(order, 'Student 1', { 0: ['A'] }));
    expect(preview().takings[0]?.problem).toBe('The attempt that this sheet was printed for has been voided.');
    // A sheet printed since is for the next paper.
    const anew = await print();
    expect(anew.sheets[0]).not.toEqual(order.sheets[0]);
  });

  it('are given up without a trace, and can be brought again', async () => {
    give();
    const order = await print();
    await bring(foundOn(order, 'Student 1', { 0: ['A'] }));
    must(giveUpReading(teacher(), school.courseId, sittingId));
    expect(must(seeReading(teacher(), school.courseId, sittingId))).toBeNull();
    expect(refusal(previewSheets(teacher(), school.courseId, sittingId))).toBe('conflict');
    await bring(foundOn(order, 'Student 1', { 0: ['B'] }));
    expect(preview().takings).toHaveLength(1);
    expect(school.db.select().from(audit).where(eq(audit.action, 'sitting.give-up-sheets')).all()).toHaveLength(1);
  });
});

describe('the rows of a question', () => {
  const view = (content: QuestionContent) => forStudent(content, {} as never);

  const setting = { number: 3, points: 7.5, rubric: null, grid: usualGrid };

  it('are boxes where boxes can hold the answer, and points where only a person can', () => {
    expect(rowsOfQuestion(view(writtenContent('Why?')), setting)).toEqual({
      rows: [{ kind: 'points', label: '3', most: 8, halves: true }],
      byHand: true,
    });
    const grid = { columns: 9, sign: false, point: true, fraction: true, exponent: true };
    expect(rowsOfQuestion(view(numberContent('How much?', '3')), { ...setting, grid }).rows).toEqual([
      { kind: 'number', label: '3', ...grid },
    ]);
  });
});
