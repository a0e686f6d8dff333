import { eq } from 'drizzle-orm';
import { beforeEach, describe, expect, it } from 'vitest';
import { localFromInstant } from '@/core/base/localTime';
import { hour, minute, second } from '@/core/base/time';
import { rightResponse } from '@/core/question/score';
import {
  attempt,
  attemptEvent,
  mark,
  paperSlot,
  poolSnapshot,
  questionVersion,
  response,
  responseAside,
} from '@/db/schema';
import { retireQuestion, saveQuestion } from '../bank/questions';
import { myExams } from '../desk/myExams';
import type { Actor } from '../house/context';
import { arrange } from '../sitting/arrange';
import { begins, choiceContent, must, numberContent, refusal, School, writtenContent } from '../testing/school';
import { handInExpired } from './endAttempt';
import { handIn, seeReceipt } from './handIn';
import { readSave, saveResponses } from './saveResponses';
import { saveTogether } from './saveTogether';
import { startAttempt } from './startAttempt';
import { openForWriting, pulse } from './takeAttempt';

let school: School;
let student: Actor;
let sittingId: string;

beforeEach(() => {
  school = new School();
  [student] = school.students as [Actor];
  school.questions(12);
  sittingId = school.sitting(school.exam([school.draw(5)]));
});

const start = (later = minute, who = student, which = sittingId) =>
  must(startAttempt(school.as(who, later), which)).attemptId;
const open = (attemptId: string, later = minute, who = student) =>
  must(openForWriting(school.as(who, later), attemptId));
const slotsOf = (attemptId: string) =>
  school.db.select().from(paperSlot).where(eq(paperSlot.attemptId, attemptId)).orderBy(paperSlot.position).all();
const save = (
  attemptId: string,
  slotId: string,
  stamp: { epoch: number; sequence: number },
  value: unknown,
  later = 2 * minute,
  who = student,
) =>
  saveResponses(school.db, [
    { context: school.as(who, later), save: { attemptId, slotId, ...stamp, value, comeBack: false } },
  ])[0] as ReturnType<typeof saveResponses>[number];
const stored = (slotId: string) => school.db.select().from(response).where(eq(response.slotId, slotId)).get();
const contentOf = (versionId: string) =>
  school.db.select().from(questionVersion).where(eq(questionVersion.id, versionId)).get()?.content as ReturnType<
    typeof choiceContent
  >;

describe('starting', () => {
  it('stores a paper once and gives the same attempt to whoever starts twice', () => {
    const first = start();
    expect(start(2 * minute)).toBe(first);
    expect(slotsOf(first)).toHaveLength(5);
    expect(school.db.select().from(attempt).all()).toHaveLength(1);
  });

  it('freezes the questions that stand on the paper, so that an edit makes the next version', () => {
    const attemptId = start();
    const [slot] = slotsOf(attemptId);
    if (!slot) throw new Error('No slot');
    const edited = must(
      saveQuestion(school.as(school.teacher), school.courseId, school.bankId, slot.questionId, {
        categoryId: school.categoryId,
        shortName: '',
        difficulty: null,
        points: 1,
        content: choiceContent('mended'),
        edit: 1,
      }),
    );
    expect(edited).toMatchObject({ newVersion: true, version: 2 });
    expect(JSON.stringify(contentOf(slot.versionId))).not.toContain('mended');
    expect(JSON.stringify(open(attemptId).slots)).not.toContain('mended');
  });

  it('draws from the questions as they were when the first attempt started', () => {
    start();
    school.questions(50);
    start(2 * minute, school.students[1]);
    const [snapshot] = school.db.select().from(poolSnapshot).all();
    expect(school.db.select().from(poolSnapshot).all()).toHaveLength(1);
    expect(snapshot?.snapshot.entries).toHaveLength(12);
  });

  it('gives a paper although a question it needs was retired after the sitting was scheduled', () => {
    const [kept] = school.questions(1);
    const line = school.fixed(kept ?? '');
    const which = school.sitting(school.exam([line]));
    must(retireQuestion(school.as(school.teacher), school.courseId, school.bankId, kept ?? ''));
    expect(slotsOf(start(minute, student, which)).map((slot) => slot.questionId)).toEqual([kept]);
  });

  it('gives different students different papers', () => {
    const papers = school.students.map((one) =>
      slotsOf(start(minute, one))
        .map((slot) => slot.questionId)
        .join(),
    );
    expect(new Set(papers).size).toBeGreaterThan(1);
  });

  it('avoids in a second attempt what the first one held', () => {
    const twice = school.sitting(school.exam([school.draw(5)]), { attemptsAllowed: 2 });
    const first = start(minute, student, twice);
    must(handIn(school.as(student, 2 * minute), first));
    const second = start(3 * minute, student, twice);
    const before = new Set(slotsOf(first).map((slot) => slot.questionId));
    expect(slotsOf(second).filter((slot) => before.has(slot.questionId))).toHaveLength(0);
  });

  it.each([
    ['before it opens', -minute, 'too-early'],
    ['after it closed', 48 * hour, 'too-late'],
  ])('is refused %s', (_, later, code) => {
    expect(refusal(startAttempt(school.as(student, later), sittingId))).toBe(code);
    expect(school.db.select().from(attempt).all()).toHaveLength(0);
  });

  it('is refused once the attempts are used up, and is not found for those it is not given to', () => {
    must(handIn(school.as(student, 2 * minute), start()));
    expect(refusal(startAttempt(school.as(student, 3 * minute), sittingId))).toBe('too-late');
    expect(refusal(startAttempt(school.as(school.teacher, minute), sittingId))).toBe('not-found');
    expect(refusal(startAttempt(school.as(school.elsewhere.teacher, minute), sittingId))).toBe('not-found');
    expect(refusal(startAttempt(school.as(student, minute), 'no-such-sitting'))).toBe('not-found');
  });
});

describe('saving', () => {
  it('stores the newest save and counts its revisions', () => {
    const attemptId = start();
    const { epoch } = open(attemptId);
    const slotId = slotsOf(attemptId)[0]?.id ?? '';
    must(save(attemptId, slotId, { epoch, sequence: 1 }, { picked: 'a' }));
    must(save(attemptId, slotId, { epoch, sequence: 3 }, { picked: 'c' }));
    expect(stored(slotId)).toMatchObject({ value: { picked: 'c' }, revision: 2, sequence: 3 });
  });

  it('answers a repeated or overtaken save as saved and changes nothing', () => {
    const attemptId = start();
    const { epoch } = open(attemptId);
    const slotId = slotsOf(attemptId)[0]?.id ?? '';
    must(save(attemptId, slotId, { epoch, sequence: 5 }, { picked: 'e' }));
    must(save(attemptId, slotId, { epoch, sequence: 5 }, { picked: 'x' }));
    must(save(attemptId, slotId, { epoch, sequence: 2 }, { picked: 'b' }));
    expect(stored(slotId)).toMatchObject({ value: { picked: 'e' }, revision: 1 });
  });

  it('refuses the older of two browsers, and keeps what it brought aside', () => {
    const attemptId = start();
    const first = open(attemptId);
    const second = open(attemptId, 2 * minute);
    expect(second.epoch).toBe(first.epoch + 1);
    const slotId = slotsOf(attemptId)[0]?.id ?? '';
    must(save(attemptId, slotId, { epoch: second.epoch, sequence: 1 }, { picked: 'new' }));
    expect(refusal(save(attemptId, slotId, { epoch: first.epoch, sequence: 9 }, { picked: 'old' }))).toBe('superseded');
    expect(stored(slotId)?.value).toEqual({ picked: 'new' });
    expect(school.db.select().from(responseAside).all()).toMatchObject([
      { slotId, value: { picked: 'old' }, reason: 'superseded' },
    ]);
  });

  it('takes a save until three seconds after the deadline, and keeps a later one aside', () => {
    const attemptId = start(0);
    const { epoch } = open(attemptId, 0);
    const slotId = slotsOf(attemptId)[0]?.id ?? '';
    must(save(attemptId, slotId, { epoch, sequence: 1 }, { picked: 'in' }, hour + 3 * second));
    expect(refusal(save(attemptId, slotId, { epoch, sequence: 2 }, { picked: 'late' }, hour + 3 * second + 1))).toBe(
      'too-late',
    );
    expect(stored(slotId)?.value).toEqual({ picked: 'in' });
    expect(school.db.select().from(responseAside).all()).toMatchObject([{ reason: 'late', value: { picked: 'late' } }]);
  });

  it('gives a student with extra time that time, also for saves', () => {
    must(
      arrange(school.as(school.teacher), school.courseId, sittingId, student.userId, {
        extraPercent: 50,
        extraMinutes: 0,
        extraAttempts: 0,
        excused: false,
      }),
    );
    const attemptId = start(0);
    const { epoch, standing } = open(attemptId, 0);
    expect(standing).toMatchObject({ deadline: begins + 90 * minute });
    must(save(attemptId, slotsOf(attemptId)[0]?.id ?? '', { epoch, sequence: 1 }, { picked: 'x' }, 89 * minute));
  });

  it('does not know another student’s paper, a slot of another attempt, or what is no answer', () => {
    const attemptId = start();
    const { epoch } = open(attemptId);
    const other = school.students[1] as Actor;
    const theirs = start(minute, other);
    const slotId = slotsOf(attemptId)[0]?.id ?? '';
    expect(refusal(save(attemptId, slotId, { epoch, sequence: 1 }, { picked: 'x' }, 2 * minute, other))).toBe(
      'not-found',
    );
    expect(refusal(save(attemptId, slotsOf(theirs)[0]?.id ?? '', { epoch, sequence: 1 }, { picked: 'x' }))).toBe(
      'not-found',
    );
    expect(refusal(save(attemptId, 'no-such-slot', { epoch, sequence: 1 }, { picked: 'x' }))).toBe('not-found');
    expect(refusal(save(attemptId, slotId, { epoch, sequence: 1 }, { picked: 7 }))).toBe('bad-input');
    expect(school.db.select().from(response).all()).toHaveLength(0);
  });

  it('reads nothing but a save as a save', () => {
    const good = { slotId: 's', epoch: 1, sequence: 1, value: null, comeBack: true };
    expect(readSave('attempt-1', good)).toMatchObject({ comeBack: true });
    for (const bad of [
      null,
      7,
      'x',
      [],
      { ...good, epoch: '1' },
      { ...good, sequence: 0.5 },
      { ...good, epoch: -1 },
      { ...good, slotId: 'x'.repeat(61) },
    ])
      expect(readSave('attempt-1', bad)).toBeNull();
  });

  it('answers each of the saves of one burst by itself', async () => {
    const papers = school.students.map((who) => {
      const attemptId = start(minute, who);
      return { who, attemptId, epoch: open(attemptId, minute, who).epoch, slotId: slotsOf(attemptId)[0]?.id ?? '' };
    });
    const answers = await Promise.all([
      ...papers.map(({ who, attemptId, epoch, slotId }) =>
        saveTogether(school.as(who, 2 * minute), {
          attemptId,
          slotId,
          epoch,
          sequence: 1,
          value: { picked: 'x' },
          comeBack: false,
        }),
      ),
      saveTogether(school.as(student, 2 * minute), {
        attemptId: papers[1]?.attemptId ?? '',
        slotId: papers[1]?.slotId ?? '',
        epoch: 1,
        sequence: 9,
        value: { picked: 'foreign' },
        comeBack: false,
      }),
    ]);
    expect(answers.map((answer) => answer.ok)).toEqual([true, true, true, false]);
    for (const { slotId } of papers) expect(stored(slotId)?.value).toEqual({ picked: 'x' });
  });
});

describe('handing in', () => {
  it('marks closed questions by rule and leaves written ones waiting; an empty one has its 0', () => {
    const lines = [
      school.fixed(school.question(choiceContent('choice')), 2),
      school.fixed(school.question(numberContent('number', '1.5')), 3),
      school.fixed(school.question(writtenContent('essay')), 5),
      school.fixed(school.question(writtenContent('left empty')), 5),
    ];
    const attemptId = start(minute, student, school.sitting(school.exam(lines)));
    const { epoch } = open(attemptId);
    const [choice, number, essay, empty] = slotsOf(attemptId);
    if (!choice || !number || !essay || !empty) throw new Error('Four slots');
    must(
      save(
        attemptId,
        choice.id,
        { epoch, sequence: 1 },
        rightResponse(contentOf(choice.versionId), choice.presentation),
      ),
    );
    must(save(attemptId, number.id, { epoch, sequence: 2 }, { text: '1,5' }));
    must(save(attemptId, essay.id, { epoch, sequence: 3 }, { text: 'My answer.' }));
    expect(must(handIn(school.as(student, 5 * minute), attemptId))).toMatchObject({
      answers: { answered: 3, questions: 4 },
      standing: { by: 'student' },
    });
    const marks = school.db.select().from(mark).all();
    expect(
      marks.map(({ slotId, points, kind, responseRevision }) => ({ slotId, points, kind, responseRevision })),
    ).toEqual([
      { slotId: choice.id, points: 2, kind: 'automatic', responseRevision: 1 },
      { slotId: number.id, points: 3, kind: 'automatic', responseRevision: 1 },
      { slotId: empty.id, points: 0, kind: 'automatic', responseRevision: 0 },
    ]);
  });

  it('is harmless when done twice: the same receipt, one set of marks', () => {
    const attemptId = start();
    const first = must(handIn(school.as(student, 5 * minute), attemptId));
    const again = must(handIn(school.as(student, 9 * minute), attemptId));
    expect(again).toEqual(first);
    expect(first.code).toMatch(/^[a-z0-9]{4}-[a-z0-9]{4}$/);
    expect(school.db.select().from(mark).all()).toHaveLength(5);
    expect(school.db.select().from(attemptEvent).where(eq(attemptEvent.kind, 'handed-in')).all()).toHaveLength(1);
  });

  it('refuses saves afterwards', () => {
    const attemptId = start();
    const { epoch } = open(attemptId);
    must(handIn(school.as(student, 5 * minute), attemptId));
    expect(
      refusal(save(attemptId, slotsOf(attemptId)[0]?.id ?? '', { epoch, sequence: 1 }, { picked: 'x' }, 6 * minute)),
    ).toBe('too-late');
    expect(refusal(openForWriting(school.as(student, 6 * minute), attemptId))).toBe('too-late');
  });

  it('is done by the clock alone, stamped with the deadline however late the server comes to it', () => {
    const attemptId = start(0);
    expect(handInExpired({ db: school.db, now: begins + hour + 3 * second })).toBe(0);
    expect(handInExpired({ db: school.db, now: begins + 30 * hour })).toBe(1);
    expect(handInExpired({ db: school.db, now: begins + 31 * hour })).toBe(0);
    expect(must(seeReceipt(school.as(student, 31 * hour), attemptId))).toMatchObject({
      standing: { kind: 'handed-in', by: 'clock', at: begins + hour },
    });
  });

  it('is stamped with the deadline too when the student comes after it', () => {
    const attemptId = start(0);
    expect(must(handIn(school.as(student, 2 * hour), attemptId))).toMatchObject({
      standing: { kind: 'handed-in', by: 'clock', at: begins + hour },
    });
  });

  it('never outlasts the closing time', () => {
    const attemptId = start(47.5 * hour);
    expect(open(attemptId, 47.5 * hour).standing).toMatchObject({ deadline: begins + 48 * hour });
  });

  it('belongs to the student alone', () => {
    const attemptId = start();
    const other = school.students[1] as Actor;
    expect(refusal(handIn(school.as(other, 2 * minute), attemptId))).toBe('not-found');
    expect(refusal(openForWriting(school.as(other, 2 * minute), attemptId))).toBe('not-found');
    expect(refusal(pulse(school.as(other, 2 * minute), attemptId, 1))).toBe('not-found');
    expect(refusal(seeReceipt(school.as(other, 2 * minute), attemptId))).toBe('not-found');
    expect(school.db.select().from(attempt).get()?.state).toBe('running');
  });
});

describe('what a running student’s browser is sent', () => {
  it('holds no right answer, tolerance, feedback, solution or model answer', () => {
    const lines = [
      school.fixed(school.question(choiceContent('pick', 'sesame'))),
      school.fixed(school.question(numberContent('count', '4711', 0.375))),
      school.fixed(school.question(writtenContent('write'))),
    ];
    const attemptId = start(minute, student, school.sitting(school.exam(lines)));
    const sent = JSON.stringify([
      open(attemptId),
      myExams(school.as(student, 2 * minute)),
      pulse(school.as(student, 2 * minute), attemptId, 1),
    ]);
    expect(sent).toContain('sesame');
    for (const secret of [
      '4711',
      '0.375',
      'feedback on',
      'solution of',
      'model answer',
      '"right"',
      'tolerance',
      'accepted',
      '"c0"',
      'credit',
    ])
      expect(sent).not.toContain(secret);
  });
});

describe('my exams', () => {
  it('says what is now, coming and done, with the reason in words', () => {
    const local = (later: number) => localFromInstant(begins + later, 'Europe/Oslo');
    school.sitting(school.exam([school.draw(2)]), {
      title: 'Later',
      opens: local(24 * hour),
      closes: local(40 * hour),
    });
    must(handIn(school.as(student, 2 * minute), start()));
    const exams = myExams(school.as(student, 3 * minute));
    expect(exams.map(({ title, group, refusal: why }) => ({ title, group, why }))).toEqual([
      { title: 'Sitting', group: 'done', why: 'You have used all your attempts.' },
      { title: 'Later', group: 'coming', why: 'It opens tomorrow 10:00.' },
    ]);
  });
});
