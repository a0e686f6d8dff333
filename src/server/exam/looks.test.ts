import { eq } from 'drizzle-orm';
import { beforeEach, describe, expect, it } from 'vitest';
import { hour, minute } from '@/core/base/time';
import { examLook, outbox, poolSnapshot, sitting } from '@/db/schema';
import { paperOfStudent } from '../attempt/paperOfStudent';
import { startAttempt } from '../attempt/startAttempt';
import { openForWriting } from '../attempt/takeAttempt';
import { openTrial } from '../attempt/trial';
import { saveQuestion } from '../bank/questions';
import { desk } from '../desk/desk';
import type { Actor } from '../house/context';
import { openSitting } from '../sitting/openSitting';
import { saveSitting } from '../sitting/saveRules';
import { choiceContent, must, refusal, School } from '../testing/school';
import { openExam, saveExam } from './exams';
import { askForLook, openLook, remark, settleRemark, signOff, withdrawLook } from './looks';
import { samplePaper } from './samplePaper';

let school: School;
let examId: string;
let questionId: string;

beforeEach(() => {
  school = new School(2);
  [questionId] = school.questions(4) as [string];
  examId = school.exam([school.fixed(questionId), school.draw(2)]);
});

const as = (who: Actor, later = 0) => school.as(who, later);
const ask = (who: Actor) =>
  askForLook(as(school.teacher), school.courseId, examId, { colleagueId: who.userId, note: 'Mind the wording.' });
const look = (who: Actor) => openLook(as(who), school.courseId, examId);

describe('a colleague’s look', () => {
  it('is for who was asked: a marker then sees all of the exam with its key, and before and after nothing', () => {
    const paper = () => refusal(samplePaper(as(school.marker), school.courseId, examId, '1'));
    expect([refusal(look(school.marker)), paper()]).toEqual(['not-allowed', 'not-allowed']);
    const { lookId } = must(ask(school.marker));
    const page = must(look(school.marker));
    expect(page.said.parts[0]?.lines.map((line) => line.said)).toEqual([
      'stem 1, 1 point',
      'draw 2 from General, 1 point each',
    ]);
    expect([page.composes, page.mine?.note, page.colleagues]).toEqual([false, 'Mind the wording.', []]);
    expect(paper()).toBe('accepted');
    expect(refusal(openTrial(as(school.marker), school.courseId, examId, '1'))).toBe('accepted');
    expect(refusal(openExam(as(school.marker), school.courseId, examId))).toBe('not-allowed');
    must(withdrawLook(as(school.teacher), school.courseId, examId, lookId));
    expect([refusal(look(school.marker)), paper()]).toEqual(['not-allowed', 'not-allowed']);
  });

  it('is asked of one colleague once, never of a student or of oneself, and told by message', () => {
    must(ask(school.marker));
    expect(refusal(ask(school.marker))).toBe('conflict');
    expect(refusal(ask(school.students[0] as Actor))).toBe('not-found');
    expect(refusal(ask(school.teacher))).toBe('not-found');
    expect(refusal(ask(school.elsewhere.teacher))).toBe('not-found');
    const [message] = school.db.select().from(outbox).where(eq(outbox.userId, school.marker.userId)).all().slice(-1);
    expect(message?.body).toContain('Mind the wording.');
    expect(must(desk(as(school.marker), school.courseId)).looks.map((one) => [one.title, one.by])).toEqual([
      ['Exam', 'Tove Teacher'],
    ]);
  });

  it('holds remarks beside what they are about; who composes settles all, a colleague only their own', () => {
    must(ask(school.marker));
    const lineId = must(look(school.marker)).said.parts[0]?.lines[0]?.id ?? '';
    const put = (who: Actor, aboutId: string | null, text = 'Two right answers?') =>
      remark(as(who), school.courseId, examId, { aboutId, text });
    const { remarkId } = must(put(school.marker, lineId));
    const answer = must(put(school.teacher, null, 'Which?'));
    expect(refusal(put(school.marker, 'elsewhere'))).toBe('not-found');
    expect(refusal(put(school.marker, null, '  '))).toBe('bad-input');
    expect(refusal(settleRemark(as(school.marker), school.courseId, examId, answer.remarkId, true))).toBe('not-found');
    // It reaches the Desk of whoever is to answer it, and not of whoever wrote it.
    const onDesk = (actor: Actor) => must(desk(as(actor), school.courseId)).remarks;
    expect(onDesk(school.teacher)).toMatchObject([{ examId, count: 1, by: 'Mara Marker' }]);
    must(settleRemark(as(school.teacher), school.courseId, examId, remarkId, true));
    expect(onDesk(school.teacher)).toEqual([]);
    const { remarks } = must(look(school.marker));
    expect(remarks.map((one) => [one.author, one.aboutId, one.settled, one.own])).toEqual([
      ['Mara Marker', lineId, true, true],
      ['Tove Teacher', null, false, false],
    ]);
    expect(must(openExam(as(school.teacher), school.courseId, examId)).remarks).toBe(1);
  });

  it('ends with a sign-off that the sitting shows, and that a later change of exam, question or rules puts in doubt', () => {
    must(ask(school.marker));
    const sittingId = school.sitting(examId);
    const sign = () => must(signOff(as(school.marker, hour), school.courseId, examId, true));
    const shown = () => must(openSitting(as(school.teacher), school.courseId, sittingId)).looks[0];
    sign();
    expect(shown()).toMatchObject({
      colleague: 'Mara Marker',
      changedSince: false,
      signedAt: as(school.marker, hour).now,
    });
    expect(must(desk(as(school.marker), school.courseId)).looks).toEqual([]);

    const { design, edit, title } = must(openExam(as(school.teacher), school.courseId, examId));
    const changed = { title, edit, design: { ...design, worth: 50 } };
    // The page on which it is changed hears of it at once.
    expect(must(saveExam(as(school.teacher), school.courseId, examId, changed)).looks[0]?.changedSince).toBe(true);
    expect(shown()?.changedSince).toBe(true);
    expect(must(desk(as(school.marker), school.courseId)).looks[0]?.changedSince).toBe(true);

    sign();
    expect(shown()?.changedSince).toBe(false);
    must(saveSitting(as(school.teacher), school.courseId, sittingId, school.rules({ attemptsAllowed: 2 })));
    expect(shown()?.changedSince).toBe(true);

    sign();
    must(
      saveQuestion(as(school.teacher), school.courseId, school.bankId, questionId, {
        categoryId: school.categoryId,
        shortName: '',
        content: choiceContent('stem 1', 'another right one'),
        edit: 1,
      }),
    );
    expect(shown()?.changedSince).toBe(true);

    must(signOff(as(school.marker), school.courseId, examId, false));
    expect(shown()?.signedAt).toBeNull();
    expect(refusal(signOff(as(school.teacher), school.courseId, examId, true))).toBe('not-allowed');
    expect(school.db.select().from(examLook).all()).toHaveLength(1);
  });
});

describe('the paper of one student', () => {
  it('is before the start the one that the start gives, and looking at it fixes nothing', () => {
    const sittingId = school.sitting(examId);
    const student = school.students[0] as Actor;
    const see = () => must(paperOfStudent(as(school.teacher), school.courseId, sittingId, student.userId));
    const before = see();
    expect([before.attempt, before.mayChange, before.slots.length]).toEqual([null, true, 3]);
    expect(school.db.select().from(poolSnapshot).all()).toEqual([]);
    const { attemptId } = must(startAttempt(as(student, minute), sittingId));
    const paper = must(openForWriting(as(student, minute), attemptId));
    const after = see();
    expect([after.attempt, after.mayChange]).toEqual([1, false]);
    expect(after.slots.map((slot) => [slot.content.stem, slot.presentation])).toEqual(
      before.slots.map((slot) => [slot.content.stem, slot.presentation]),
    );
    expect(paper.slots.map((slot) => slot.view && 'stem' in slot.view && slot.view.stem)).toEqual(
      after.slots.map((slot) => slot.content.stem),
    );
    // Another student has another paper, and who is not in the sitting none.
    const other = must(
      paperOfStudent(as(school.teacher), school.courseId, sittingId, school.students[1]?.userId ?? ''),
    );
    expect([other.attempt, other.mayChange]).toEqual([null, false]);
    expect(refusal(paperOfStudent(as(school.teacher), school.courseId, sittingId, school.marker.userId))).toBe(
      'not-found',
    );
  });

  it('is nobody’s in an anonymous sitting', () => {
    const sittingId = school.sitting(examId);
    school.db.update(sitting).set({ anonymous: true }).where(eq(sitting.id, sittingId)).run();
    const student = school.students[0] as Actor;
    expect(refusal(paperOfStudent(as(school.teacher), school.courseId, sittingId, student.userId))).toBe('conflict');
  });
});
