import { existsSync, mkdtempSync, readdirSync, rmSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { afterAll, beforeEach, describe, expect, it } from 'vitest';
import { day } from '@/core/base/time';
import { anonymousAnswer, audit, exam, sheetLayout, sheetPage, takenCopy } from '@/db/schema';
import { handIn } from '../attempt/handIn';
import { startAttempt } from '../attempt/startAttempt';
import { openExam, saveExam } from '../exam/exams';
import { papersOfSitting } from '../print/printOrder';
import { sittingAnswers } from '../release/answerTally';
import { takeUpRevision } from '../sitting/takeUpRevision';
import { foundOn, PaperSheets, printed, sheetsAsUsual, withoutPrinter } from '../testing/paperSheets';
import { must, refusal, School } from '../testing/school';
import { giveSurvey } from '../testing/survey';
import { bringSheetPage, giveUpReading, nameSheetPage, settleSheetRow } from './bringPages';
import { lookAtSheets, printAnswerSheets } from './printAnswerSheets';
import { seeReading } from './seeReading';
import { takeSheets } from './takeSheets';
import { beginTyping } from './typeIn';

withoutPrinter();

const folder = mkdtempSync(join(tmpdir(), 'wuzzen-nobodys-sheets-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));
const picture = new Uint8Array(
  await sharp({ create: { width: 40, height: 60, channels: 3, background: '#fff' } })
    .jpeg()
    .toBuffer(),
);

let school: School;
let sheets: PaperSheets;
let sittingId: string;
beforeEach(() => {
  printed.length = 0;
  school = new School(6);
  sittingId = giveSurvey(school);
  sheets = new PaperSheets(school, sittingId);
});

const blanks = { ...sheetsAsUsual, whose: 'blank' as const };
const printThem = (count: number) => sheets.print({ whose: 'blank', blanks: count });
/** A sheet on which these letters are filled in, row by row. */
const sheet = (order: Awaited<ReturnType<typeof printThem>>, copy: number, letters: string, more = {}) =>
  foundOn(order, `Sheet ${copy}`, Object.fromEntries([...letters].map((letter, row) => [row, [letter]])), more);
const tally = () =>
  must(sittingAnswers(school.as(school.teacher, 40 * day), school.courseId, sittingId)).questions?.filter(
    (one) => one.type === 'single-choice',
  );
const asideNow = () =>
  must(seeReading(sheets.teacher(), school.courseId, sittingId))?.pages.map((page) => page.aside ?? page.student?.name);

describe('sheets of an anonymous sitting', () => {
  it('are printed without names and numbers, for one paper that is the same for everyone', async () => {
    expect(refusal(printAnswerSheets(sheets.teacher(), school.courseId, sittingId, sheetsAsUsual))).toBe('conflict');
    const ahead = must(lookAtSheets(sheets.teacher(), school.courseId, sittingId, { ...blanks, blanks: 8 }));
    // The open question is answered in words: nobody marks it, so it has no row.
    expect(ahead).toMatchObject({ sheets: 8, rows: 3, byHand: 0, inWords: 1, unnumbered: 0 });
    const order = await printThem(2);
    expect(order.sheets.map((one) => [one.copy, one.name])).toEqual([
      [1, 'Sheet 1'],
      [2, 'Sheet 2'],
    ]);
    const [plan] = Object.values(order.layouts);
    expect(plan?.studentColumns).toBe(0);
    const text = JSON.stringify(order);
    for (const { name, userId } of school.students) expect(text.includes(name) || text.includes(userId)).toBe(false);
    // The paper in print is the one that the sheets answer, and the same each time.
    const papers = () => must(papersOfSitting(sheets.teacher(), school.courseId, sittingId, true));
    expect(papers()).toHaveLength(1);
    expect(papers()).toEqual(papers());
    expect(papers()[0]?.student).toBe('');
    expect(plan?.rows.map((row) => row.label)).toEqual(['2', '3', '4']);
    // Further ones are further copies of the same layout.
    const more = await printThem(1);
    expect(more.sheets).toMatchObject([{ copy: 3, layout: order.sheets[0]?.layout }]);
    expect(school.db.select().from(sheetLayout).all()).toHaveLength(1);
  });

  it('come in as answers of nobody, beside those from screens, and nothing of the pages stays', async () => {
    const order = await printThem(6);
    for (const copy of [1, 2, 3, 4, 5]) await sheets.bring(sheet(order, copy, copy < 4 ? 'AAA' : 'BBB'), picture);
    expect(sheets.preview()).toMatchObject({ said: '5 sheets.', isForGood: false, without: [] });
    expect(sheets.preview().takings.map((one) => [one.name, one.answered, one.into])).toEqual(
      [1, 2, 3, 4, 5].map((copy) => [`Sheet ${copy}`, 3, 'new']),
    );
    // Who answers on a screen is counted with them.
    const [who] = school.students;
    const { attemptId } = must(startAttempt(school.as(who ?? school.teacher, 60_000), sittingId));
    must(handIn(school.as(who ?? school.teacher, 120_000), attemptId, { answers: [] }));

    const { auditId, isForGood } = sheets.take();
    expect(isForGood).toBe(false);
    const asked = tally();
    expect(asked).toHaveLength(3);
    for (const one of asked ?? []) expect(one.answers.map((answer) => answer.count)).toEqual([3, 2]);
    expect(must(seeReading(sheets.teacher(), school.courseId, sittingId))).toBeNull();

    // Whoever has all tables finds the copies that came, and the answers, and nothing that leads from one to the other.
    expect(school.db.select().from(sheetPage).all()).toEqual([]);
    const rows = school.db.select().from(anonymousAnswer).all();
    expect(new Set(rows.map((row) => row.sheet)).size).toBe(5);
    // The question that is answered in words was not asked by the sheets.
    expect(rows).toHaveLength(5 * 3);
    for (const table of ['attempt', 'paper_slot', 'response', 'mark'])
      expect(JSON.stringify(school.db.$client.prepare(`select * from ${table}`).all())).not.toContain('Sheet');
    const kept = school.db
      .select()
      .from(audit)
      .all()
      .find((row) => row.id === auditId)?.undo as { sheets: string[]; copies: Record<string, number[]> };
    expect(kept.sheets).toEqual([...kept.sheets].sort());
    expect(Object.values(kept.copies)).toEqual([[1, 2, 3, 4, 5]]);

    // One that was taken over says so when it is read once more; the sixth is new.
    await sheets.bring(sheet(order, 2, 'BBB'));
    const sixth = must(
      await bringSheetPage(sheets.teacher(), school.courseId, sittingId, sheet(order, 6, 'BBB'), new Uint8Array()),
    );
    expect(sixth.madeOutFor).toBe('Sheet 6');
    expect(asideNow()).toEqual(['taken-over', 'Sheet 6']);
    expect(sheets.preview()).toMatchObject({ isForGood: true, said: '1 sheet; 1 page is put aside.' });

    // Taken back: the answers go, the copies may be read again.
    expect(must(sheets.undo(auditId)).said).toContain('5 sheets taken out');
    expect(school.db.select().from(anonymousAnswer).all()).toEqual([]);
    expect(school.db.select().from(takenCopy).all()).toEqual([]);
    expect(asideNow()).toEqual(['Sheet 2', 'Sheet 6']);
    expect(refusal(sheets.undo(auditId))).toBe('conflict');
  });

  it('cannot be taken back where they are few: what it needs would tell whose they are', async () => {
    const order = await printThem(1);
    await sheets.bring(sheet(order, 1, 'ABC'));
    const { auditId, isForGood } = sheets.take();
    expect(isForGood).toBe(true);
    expect(refusal(sheets.undo(auditId))).toBe('not-found');
    const rows = school.db.select().from(anonymousAnswer).all();
    const stored = JSON.stringify(school.db.select().from(audit).all());
    expect(stored).not.toContain(rows[0]?.sheet);
    expect(tally()).toBeUndefined();
  });

  it('wait where something is in doubt, are told when the same sheet says two things, and are nobody’s by name', async () => {
    const order = await printThem(3);
    const doubtful = await sheets.bring(sheet(order, 1, 'ABC', { faint: 0 }));
    await sheets.bring(sheet(order, 2, 'ABC'));
    await sheets.bring(sheet(order, 2, 'ABC'));
    await sheets.bring(sheet(order, 2, 'BBC'));
    await sheets.bring(sheet(order, 3, ''));
    expect(asideNow()).toEqual(['Sheet 1', 'Sheet 2', 'read-already', 'differs', 'Sheet 3']);
    const { courseId, students } = school;
    expect(refusal(takeSheets(sheets.teacher(), courseId, sittingId, sheets.preview().key))).toBe('conflict');
    must(settleSheetRow(sheets.teacher(), courseId, sittingId, doubtful, 0, ['C']));
    expect(refusal(nameSheetPage(sheets.teacher(), courseId, sittingId, doubtful, students[0]?.userId ?? ''))).toBe(
      'not-found',
    );
    expect(refusal(beginTyping(sheets.teacher(), courseId, sittingId))).toBe('not-found');
    expect(sheets.preview().takings.map((one) => one.problem)).toEqual([null, null, 'Nothing is filled in.']);
    expect(sheets.take().sheets).toBe(2);
    const picked = school.db.select().from(anonymousAnswer).all();
    expect(new Set(picked.map((row) => row.sheet)).size).toBe(2);
  });

  it('hold the sitting to what it is for once they are printed', async () => {
    const examId = school.db.select().from(exam).get()?.id ?? '';
    const { design, edit, title } = must(openExam(sheets.teacher(), school.courseId, examId));
    const named = { ...design, purpose: { scored: true, counts: 'score' as const, anonymous: false } };
    must(saveExam(sheets.teacher(), school.courseId, examId, { title, edit, design: named }));
    await printThem(1);
    const refused = takeUpRevision(sheets.teacher(), school.courseId, sittingId);
    expect(refused.ok ? '' : refused.problems[0]?.message).toContain('Answer sheets have been printed already');
    const again = must(openExam(sheets.teacher(), school.courseId, examId));
    const longer = { ...design, parts: design.parts.map((part) => ({ ...part, title: 'Another heading' })) };
    must(saveExam(sheets.teacher(), school.courseId, examId, { title, edit: again.edit, design: longer }));
    // What else changes may be taken up: sheets that were printed keep the paper they were printed for.
    must(takeUpRevision(sheets.teacher(), school.courseId, sittingId));
    const [before] = printed;
    if (before) await sheets.bring(sheet(before, 1, 'ABC'));
    sheets.take();
    expect(school.db.select().from(anonymousAnswer).all()[0]?.partTitle).toBe(design.parts[0]?.title);
  });

  it('leave nothing when they are given up, nor the pictures of those taken over', async () => {
    const order = await printThem(2);
    const files = () =>
      existsSync(folder)
        ? readdirSync(folder, { recursive: true }).filter((name) => statSync(join(folder, String(name))).isFile())
        : [];
    await sheets.bring(sheet(order, 1, 'ABC'), picture, folder);
    expect(files()).toHaveLength(1);
    must(giveUpReading({ ...sheets.teacher(), files: folder }, school.courseId, sittingId));
    expect(school.db.select().from(sheetPage).all()).toEqual([]);
    expect(files()).toEqual([]);
    await sheets.bring(sheet(order, 2, 'ABC'), picture, folder);
    must(takeSheets({ ...sheets.teacher(), files: folder }, school.courseId, sittingId, sheets.preview().key));
    expect(files()).toEqual([]);
  });
});
