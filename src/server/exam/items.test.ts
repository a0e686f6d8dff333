import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { eq } from 'drizzle-orm';
import { beforeEach, describe, expect, it, onTestFinished } from 'vitest';
import { minute } from '@/core/base/time';
import type { ItemChange } from '@/core/exam/items/changeItems';
import { bank, question, questionVersion } from '@/db/schema';
import { typesetPdf } from '../../print/typesetPdf';
import { handIn } from '../attempt/handIn';
import { saveResponses } from '../attempt/saveResponses';
import { startAttempt } from '../attempt/startAttempt';
import { openForWriting } from '../attempt/takeAttempt';
import { listBanks } from '../bank/banks';
import { answersToMark } from '../marking/answersToMark';
import { giveMark } from '../marking/giveMark';
import { markingQueue } from '../marking/markingQueue';
import { sittingResults } from '../release/results';
import { scheduleSitting } from '../sitting/schedule';
import { createSitting } from '../sitting/sittings';
import { must, refusal, School } from '../testing/school';
import { attachDocument, openDocument } from './examDocument';
import { createExam, listExams, openExam, saveExam } from './exams';
import { changeExamItems, openItems } from './items';
import { duplicateExam } from './keepExams';

let school: School;
let examId: string;
let edit: number;

const change = (one: ItemChange) => {
  const done = must(changeExamItems(school.as(school.teacher), school.courseId, examId, { edit, change: one }));
  edit = done.edit;
  return done;
};
const set = (
  from: number,
  to: number,
  type: 'single-choice' | 'written' | 'numeric' = 'single-choice',
): ItemChange => ({
  do: 'set',
  from,
  to,
  type,
  choices: 4,
  start: 'A',
  points: 1,
});

beforeEach(() => {
  school = new School(2);
  examId = must(createExam(school.as(school.teacher), school.courseId, { title: 'On paper', offScreen: true })).examId;
  edit = must(openExam(school.as(school.teacher), school.courseId, examId)).edit;
});

const pdf = () => typesetPdf([{ title: 'Paper', foot: '', c: [] }], {});
/** A folder that goes when the test is over. */
function folder(): string {
  const made = mkdtempSync(join(tmpdir(), 'wuzzen-documents-'));
  onTestFinished(() => rmSync(made, { recursive: true, force: true }));
  return made;
}

describe('the items of an off-screen exam', () => {
  it('are set in bulk and keyed in bulk; until all are keyed it cannot be given', () => {
    const made = change(set(1, 60));
    expect(made.check.problems.map((one) => one.message)).toEqual([
      '60 items have no key yet: 1, 2, 3, 4, 5, 6, 7, 8 and 52 more.',
    ]);
    expect(made.points).toBe(60);
    const context = school.as(school.teacher);
    const { sittingId } = must(createSitting(context, school.courseId, { examId }));
    expect(refusal(scheduleSitting(context, school.courseId, sittingId))).not.toBe('accepted');
    const keyed = change({ do: 'keys', from: 1, text: 'ABCD'.repeat(15) });
    expect(keyed.check.problems).toEqual([]);
    expect(
      must(openItems(context, school.courseId, examId))
        .map((item) => item.key)
        .join(''),
    ).toBe('ABCD'.repeat(15));
  });

  it('belong to the exam alone: no list of banks shows them, and other exams cannot name them', () => {
    change(set(1, 3));
    const context = school.as(school.teacher);
    expect(must(listBanks(context, school.courseId)).map((one) => one.id)).toEqual([school.bankId]);
    const [item] = must(openItems(context, school.courseId, examId));
    const other = must(createExam(context, school.courseId, { title: 'Another' })).examId;
    const opened = must(openExam(context, school.courseId, other));
    expect(opened.sources.exams).toEqual([]);
    const [part] = opened.design.parts;
    const naming = {
      title: 'Another',
      edit: opened.edit,
      design: { ...opened.design, parts: [{ ...part, lines: [school.fixed(item?.questionId ?? '')] }] },
    };
    expect(refusal(saveExam(context, school.courseId, other, naming))).toBe('not-found');
    expect(
      refusal(saveExam(context, school.courseId, other, { ...naming, design: { ...opened.design, offScreen: {} } })),
    ).toBe('bad-input');
  });

  it('are changed all or none, and by one person at a time', () => {
    change(set(1, 3));
    const context = school.as(school.teacher);
    const asked = (one: ItemChange, at = edit) =>
      changeExamItems(context, school.courseId, examId, { edit: at, change: one });
    expect(refusal(asked({ do: 'keys', from: 1, text: 'AXB' }))).toBe('bad-input');
    expect(must(openItems(context, school.courseId, examId)).every((item) => item.key === '')).toBe(true);
    expect(refusal(asked(set(1, 4), edit - 1))).toBe('conflict');
    expect(refusal(asked({ ...set(1, 4), points: 1e9 } as ItemChange))).toBe('bad-input');
    expect(
      refusal(changeExamItems(school.as(school.marker), school.courseId, examId, { edit, change: set(1, 1) })),
    ).toBe('not-allowed');
  });

  it('of a copy are its own', () => {
    change(set(1, 2));
    change({ do: 'keys', from: 1, text: 'AB' });
    const context = school.as(school.teacher);
    const copyId = must(duplicateExam(context, school.courseId, examId)).examId;
    change({ do: 'keys', from: 1, text: 'CD' });
    expect(must(openItems(context, school.courseId, copyId)).map((item) => item.key)).toEqual(['A', 'B']);
    expect(school.db.select().from(bank).where(eq(bank.examId, copyId)).all()).toHaveLength(1);
  });
});

describe('an off-screen exam that is taken', () => {
  const take = () => {
    const sittingId = school.sitting(examId, { markerIds: [school.marker.userId] });
    const student = school.students[0] as { userId: string; name: string };
    const { attemptId } = must(startAttempt(school.as(student, minute), sittingId));
    const paper = must(openForWriting(school.as(student, minute), attemptId));
    return { sittingId, student, attemptId, paper };
  };

  it('shows labels and no key, is scored by the key, and waits for a mark on what stands on paper', () => {
    change(set(1, 2));
    change(set(3, 3, 'numeric'));
    change(set(4, 4, 'written'));
    change({ do: 'keys', from: 1, text: 'B C 12.5±0.5' });
    const { sittingId, student, attemptId, paper } = take();
    expect(JSON.stringify(paper)).not.toContain('12.5');
    const views = paper.slots.map((slot) => slot.view);
    expect(views.map((view) => view?.type)).toEqual(['single-choice', 'single-choice', 'numeric', 'written']);
    const [first] = views;
    if (first?.type !== 'single-choice') throw new Error('a single choice');
    const save = (at: number, value: unknown, sequence: number) => {
      const slotId = paper.slots[at]?.slotId ?? '';
      const sent = { attemptId, slotId, epoch: paper.epoch, sequence, value, comeBack: false };
      const [saved] = saveResponses(school.db, [{ context: school.as(student, 2 * minute), save: sent }]);
      expect(saved?.ok).toBe(true);
    };
    save(0, { picked: first.choices[1]?.key }, 1);
    save(2, { text: '12.9' }, 2);
    must(handIn(school.as(student, 3 * minute), attemptId));
    const result = () =>
      must(sittingResults(school.as(school.teacher, 4 * minute), school.courseId, sittingId)).rows.find(
        (row) => row.result,
      )?.result;
    expect(result()).toMatchObject({ earned: 2, possible: 4, waiting: 1 });
    const marker = school.as(school.marker, 5 * minute);
    const [waiting] = must(markingQueue(marker, school.courseId));
    expect(waiting).toMatchObject({ questionName: 'Item 4', waiting: 1 });
    const page = must(answersToMark(marker, school.courseId, sittingId, waiting?.questionId ?? ''));
    expect(page.bodies.map((one) => one.whose)).toEqual(['Student 1']);
    must(
      giveMark(marker, school.courseId, page.bodies[0]?.slotId ?? '', {
        points: 0.5,
        comment: '',
        revision: 0,
        before: null,
      }),
    );
    expect(result()).toMatchObject({ earned: 2.5, waiting: 0 });
  });

  it('keeps the key of its papers: a changed key is a next version, a new item a next revision', () => {
    change(set(1, 2));
    change({ do: 'keys', from: 1, text: 'AB' });
    take();
    const rekeyed = change({ do: 'each', changes: [{ at: 1, key: 'C' }] });
    expect(rekeyed.revision).toBe(1);
    const [item] = must(openItems(school.as(school.teacher), school.courseId, examId));
    const versions = school.db
      .select()
      .from(questionVersion)
      .where(eq(questionVersion.questionId, item?.questionId ?? ''))
      .all();
    expect(versions.map((one) => [one.number, one.frozenAt !== null])).toEqual([
      [1, true],
      [2, false],
    ]);
    const more = change(set(3, 3));
    expect([more.revision, more.behind]).toEqual([2, 1]);
  });

  it('can be started though an item has been taken out since it was scheduled', () => {
    change(set(1, 3));
    change({ do: 'keys', from: 1, text: 'ABC' });
    const sittingId = school.sitting(examId);
    change({ do: 'take-out', from: 2, to: 2 });
    const student = school.students[0] as { userId: string; name: string };
    const { attemptId } = must(startAttempt(school.as(student, minute), sittingId));
    expect(must(openForWriting(school.as(student, minute), attemptId)).slots).toHaveLength(3);
  });

  it('holds hundreds of items, on pages of fifty', () => {
    change(set(1, 400));
    const keyed = change({ do: 'keys', from: 1, text: 'ABCD'.repeat(100) });
    expect(keyed.check.problems).toEqual([]);
    expect(must(listExams(school.as(school.teacher), school.courseId))[0]).toMatchObject({
      questions: 400,
      points: 400,
    });
    const { attemptId, student, paper } = take();
    expect(paper.slots).toHaveLength(400);
    expect(paper.slots.at(-1)?.page).toBe(7);
    expect(must(handIn(school.as(student, 3 * minute), attemptId)).answers?.questions).toBe(400);
    expect(school.db.select().from(question).all()).toHaveLength(400);
  });
});

describe('the paper as a document', () => {
  it('is a PDF by its content; anything else is refused', async () => {
    const context = school.as(school.teacher);
    const attach = (bytes: Uint8Array) =>
      attachDocument({ ...context, files: folder() }, school.courseId, examId, { name: 'a.pdf', bytes });
    expect(refusal(await attach(new Uint8Array()))).toBe('bad-input');
    expect(refusal(await attach(new TextEncoder().encode('<html>not a PDF</html>')))).toBe('bad-input');
    expect(refusal(await attach(new TextEncoder().encode('%PDF-1.7\nbroken')))).toBe('bad-input');
    expect(must(await attach(pdf()))).toMatchObject({ name: 'a.pdf', pages: 1 });
  });

  it('is seen by students only while they answer, and only where the exam shows it', async () => {
    change(set(1, 1));
    change({ do: 'keys', from: 1, text: 'A' });
    const teacher = school.as(school.teacher);
    const attached = must(
      await attachDocument({ ...teacher, files: folder() }, school.courseId, examId, {
        name: 'paper.pdf',
        bytes: pdf(),
      }),
    );
    const open = (who: { userId: string; name: string }) =>
      refusal(openDocument(school.as(who, minute), examId, attached.hash));
    const student = school.students[0] as { userId: string; name: string };
    expect([open(school.teacher), open(student), open(school.elsewhere.teacher)]).toEqual([
      'accepted',
      'not-found',
      'not-found',
    ]);
    const { design, edit: at, title } = must(openExam(teacher, school.courseId, examId));
    const shown = { ...design, offScreen: { document: { hash: attached.hash, name: 'paper.pdf', shown: true } } };
    const foreign = { ...shown, offScreen: { document: { ...shown.offScreen.document, hash: 'a'.repeat(64) } } };
    expect(refusal(saveExam(teacher, school.courseId, examId, { title, design: foreign, edit: at }))).toBe('not-found');
    must(saveExam(teacher, school.courseId, examId, { title, design: shown, edit: at }));
    const sittingId = school.sitting(examId);
    expect(open(student)).toBe('not-found');
    const { attemptId } = must(startAttempt(school.as(student, minute), sittingId));
    expect(open(student)).toBe('accepted');
    must(handIn(school.as(student, 2 * minute), attemptId));
    expect(open(student)).toBe('not-found');
  });
});
