import { eq } from 'drizzle-orm';
import { beforeEach, describe, expect, it } from 'vitest';
import { hour, minute } from '@/core/base/time';
import { questionTypes } from '@/core/question/types';
import {
  account,
  attempt,
  courseBank,
  membership,
  outbox,
  paperSlot,
  questionReport,
  sitting,
  sittingAudience,
  user,
} from '@/db/schema';
import { handIn } from '../attempt/handIn';
import { startAttempt } from '../attempt/startAttempt';
import { lookAtPulse } from '../attempt/takeAttempt';
import { openTryOut, scoreTryOut } from '../attempt/tryOut';
import { myExams } from '../desk/myExams';
import { gradebook } from '../gradebook/gradebook';
import type { Actor } from '../house/context';
import { joinByLink, sittingOfLink } from '../people/joinByLink';
import { listPeople } from '../people/roster';
import { editHouseInstructions, setHouseInstructions } from '../people/schoolInstructions';
import { arrange } from '../sitting/arrange';
import { courseCalendar, myCalendar } from '../sitting/calendar';
import { giveAgain } from '../sitting/copySitting';
import { openSitting } from '../sitting/openSitting';
import { saveSitting } from '../sitting/saveRules';
import { acknowledge, scheduleSitting } from '../sitting/schedule';
import { createSitting } from '../sitting/sittings';
import { begins, choiceContent, must, refusal, School } from '../testing/school';
import { answerReports, correct, reportQuestion, seeReports, withdrawCorrection } from './reportedQuestions';
import { seeRoom } from './room';

let school: School;
const teacher = (later = 5 * minute) => school.as(school.teacher, later);
const student = (i = 0) => school.students[i] as Actor;
const slotsOf = (attemptId: string) =>
  school.db.select().from(paperSlot).where(eq(paperSlot.attemptId, attemptId)).orderBy(paperSlot.position).all();

beforeEach(() => {
  school = new School(3);
});

describe('something is wrong with a question', () => {
  /** Students 1 and 2 have the first question on their papers, student 3 only the second. */
  function given() {
    const [a, b] = [school.question(choiceContent('first')), school.question(choiceContent('second'))];
    const both = school.sitting(school.exam([school.fixed(a), school.fixed(b)]));
    const other = school.sitting(school.exam([school.fixed(b)]));
    const attempts = [0, 1].map((i) => must(startAttempt(school.as(student(i), minute), both)).attemptId);
    const third = must(startAttempt(school.as(student(2), minute), other)).attemptId;
    return { both, other, attempts, third, versionId: slotsOf(attempts[0] ?? '')[0]?.versionId ?? '' };
  }
  const report = (i: number, attemptId: string, text: string, later = 2 * minute) =>
    reportQuestion(school.as(student(i), later), attemptId, slotsOf(attemptId)[0]?.id ?? '', text);

  it('is gathered by question, once for the same words, also after the hand-in', () => {
    const { both, attempts } = given();
    must(report(0, attempts[0] ?? '', 'Two are the same'));
    must(report(0, attempts[0] ?? '', 'Two are the same'));
    must(handIn(school.as(student(1), 3 * minute), attempts[1] ?? ''));
    must(report(1, attempts[1] ?? '', 'No right answer', 4 * minute));
    const [question] = must(seeReports(teacher(), school.courseId, both));
    expect(question).toMatchObject({ name: 'first', papers: 2, corrections: [] });
    expect(question?.reports.map((one) => [one.by, one.text])).toEqual([
      ['Student 1', 'Two are the same'],
      ['Student 2', 'No right answer'],
    ]);
  });

  it('is refused without words, for another’s paper, and without end', () => {
    const { attempts } = given();
    expect(refusal(report(0, attempts[0] ?? '', ' '))).toBe('bad-input');
    expect(refusal(report(0, attempts[0] ?? '', 'x'.repeat(1_001)))).toBe('bad-input');
    expect(refusal(report(1, attempts[0] ?? '', 'not mine'))).toBe('not-found');
    for (let i = 0; i < 5; i++) must(report(0, attempts[0] ?? '', `word ${i}`));
    expect(refusal(report(0, attempts[0] ?? '', 'one more'))).toBe('conflict');
  });

  it('a correction stands on exactly the papers that hold it, until it is taken back', () => {
    const { both, other, attempts, third, versionId } = given();
    expect(must(correct(teacher(), school.courseId, both, versionId, 'Read B as port'))).toEqual({ papers: 2 });
    const seen = (i: number, attemptId: string) =>
      must(lookAtPulse(school.as(student(i), 6 * minute), attemptId, 0)).notices.map((one) => [one.text, one.slotId]);
    expect(seen(0, attempts[0] ?? '')).toEqual([['Read B as port', slotsOf(attempts[0] ?? '')[0]?.id]]);
    expect(seen(1, attempts[1] ?? '')).toHaveLength(1);
    expect(seen(2, third)).toEqual([]);
    expect(refusal(correct(teacher(), school.courseId, other, versionId, 'no paper there'))).toBe('not-found');
    const id = must(seeReports(teacher(), school.courseId, both))[0]?.corrections[0]?.id ?? '';
    must(withdrawCorrection(teacher(), school.courseId, both, id));
    expect(refusal(withdrawCorrection(teacher(), school.courseId, both, id))).toBe('not-found');
    expect(seen(0, attempts[0] ?? '')).toEqual([]);
  });

  it('one answer goes to everyone who reported it', () => {
    const { both, attempts, versionId } = given();
    must(report(0, attempts[0] ?? '', 'Two are the same'));
    must(report(1, attempts[1] ?? '', 'So they are'));
    expect(must(answerReports(teacher(), school.courseId, both, versionId, 'Both count.'))).toEqual({ answered: 2 });
    expect(refusal(answerReports(teacher(), school.courseId, both, versionId, 'Again'))).toBe('conflict');
    expect(
      school.db
        .select()
        .from(outbox)
        .all()
        .filter((one) => one.body === 'Both count.'),
    ).toHaveLength(2);
    expect(
      school.db
        .select()
        .from(questionReport)
        .all()
        .every((one) => one.answer === 'Both count.'),
    ).toBe(true);
  });

  it('is the instructor’s to read and to answer', () => {
    const { both, versionId } = given();
    for (const who of [student(), school.marker]) {
      expect(refusal(seeReports(school.as(who), school.courseId, both))).toBe('not-allowed');
      expect(refusal(correct(school.as(who), school.courseId, both, versionId, 'x'))).toBe('not-allowed');
      expect(refusal(answerReports(school.as(who), school.courseId, both, versionId, 'x'))).toBe('not-allowed');
    }
  });
});

describe('a sitting by link', () => {
  const give = () => {
    school.questions(2);
    const sittingId = school.sitting(school.exam([school.draw(1)]), { attemptsAllowed: null, who: { kind: 'link' } });
    const secret =
      school.db.select().from(sittingAudience).where(eq(sittingAudience.sittingId, sittingId)).get()?.refId ?? '';
    return { sittingId, secret };
  };

  it('lets whoever types a name take it, and nothing else; they stand on no list', () => {
    const { sittingId, secret } = give();
    const inCourse = school.sitting(school.exam([school.draw(1)]));
    const joined = must(joinByLink(school.db, secret, '  Vera   Visitor ', '10.0.0.1', begins + minute));
    const vera = school.as({ userId: joined.userId, name: 'Vera Visitor' }, 2 * minute);
    expect(myExams(vera).map((one) => one.sittingId)).toEqual([sittingId]);
    expect(refusal(startAttempt(vera, inCourse))).toBe('not-found');
    must(startAttempt(vera, sittingId));
    expect(must(openSitting(teacher(), school.courseId, sittingId)).audience.map((one) => one.name)).toEqual([
      'Vera Visitor',
    ]);
    expect(must(openSitting(teacher(), school.courseId, inCourse)).audience).toHaveLength(3);
    expect(must(listPeople(teacher(), school.courseId)).people.some((one) => one.name === 'Vera Visitor')).toBe(false);
    expect(must(gradebook(teacher(), school.courseId)).rows.some((one) => one.name === 'Vera Visitor')).toBe(false);
    expect(school.db.select().from(user).where(eq(user.id, joined.userId)).get()?.email).toBeNull();
    expect(school.db.select().from(outbox).where(eq(outbox.userId, joined.userId)).all()).toEqual([]);
    expect(school.db.select().from(account).where(eq(account.userId, joined.userId)).all()).toEqual([]);
  });

  it('leads nowhere once it is given to others, or with a wrong secret', () => {
    const { sittingId, secret } = give();
    expect(sittingOfLink(school.db, secret)?.sittingId).toBe(sittingId);
    expect(refusal(joinByLink(school.db, 'a secret nobody has', 'Vera', '', begins))).toBe('not-found');
    expect(refusal(joinByLink(school.db, secret, ' ', '', begins))).toBe('bad-input');
    expect(refusal(joinByLink(school.db, secret, 'x'.repeat(81), '', begins))).toBe('bad-input');
    must(saveSitting(teacher(), school.courseId, sittingId, { who: { kind: 'course' } }));
    expect(sittingOfLink(school.db, secret)).toBeNull();
  });

  it('keeps its link while it is given by link, and a copy gets another', () => {
    const { sittingId, secret } = give();
    must(saveSitting(teacher(), school.courseId, sittingId, { who: { kind: 'link' }, title: 'Open day' }));
    expect(must(openSitting(teacher(), school.courseId, sittingId)).link).toBe(secret);
    const copy = must(giveAgain(teacher(), school.courseId, sittingId, '2026-04-06')).sittingId;
    expect(must(openSitting(teacher(), school.courseId, copy)).link).not.toBe(secret);
    expect(
      school.db.select().from(membership).where(eq(membership.courseId, school.courseId)).all().length,
    ).toBeGreaterThan(3);
  });

  it('cannot limit attempts, since nobody signs in', () => {
    school.questions(1);
    const { sittingId } = must(createSitting(teacher(), school.courseId, { examId: school.exam([school.draw(1)]) }));
    must(saveSitting(teacher(), school.courseId, sittingId, school.rules({ who: { kind: 'link' } })));
    const found = must(openSitting(teacher(), school.courseId, sittingId)).findings;
    expect(found.map((one) => one.key)).toContain('link-limits-attempts');
  });
});

describe('leaks', () => {
  it('are found over every sitting that can draw the same questions, and anew whenever someone gets more time', () => {
    school.questions(4);
    const learning = { further: { learning: 'as-they-go' } };
    const practice = school.sitting(school.exam([school.draw(2)]), {
      title: 'Practice',
      attemptsAllowed: null,
      ...learning,
    });
    const findings = () => must(openSitting(teacher(), school.courseId, practice)).findings.filter((one) => one.leak);
    // Any number of attempts: early answers are meant, and nobody else draws from these questions.
    expect(findings()).toEqual([]);
    const makeUp = school.sitting(school.exam([school.draw(1)]), { title: 'Make-up' });
    const [leak] = findings();
    expect(leak?.message).toContain('Make-up');
    must(acknowledge(teacher(), school.courseId, practice, leak?.key ?? ''));
    expect(
      must(openSitting(teacher(), school.courseId, practice)).sitting.acknowledged?.map((one) => [one.key, one.name]),
    ).toEqual([[leak?.key, 'Tove Teacher']]);
    const nothing = { extraPercent: 0, extraMinutes: 30, extraAttempts: 0, excused: false };
    must(arrange(teacher(), school.courseId, makeUp, student().userId, nothing));
    expect(findings()[0]?.key).not.toBe(leak?.key);
    expect(findings()[0]?.message).toContain('Student 1');
    // Who is in the room reads it too.
    expect(must(seeRoom(teacher(), school.courseId, practice)).leaks[0]).toContain('Student 1');
  });

  it('hold scheduling back until somebody takes them on', () => {
    school.questions(4);
    const { sittingId } = must(
      createSitting(teacher(-hour), school.courseId, { examId: school.exam([school.draw(2)]) }),
    );
    must(
      saveSitting(teacher(-hour), school.courseId, sittingId, school.rules({ further: { learning: 'on-hand-in' } })),
    );
    expect(refusal(scheduleSitting(teacher(-hour), school.courseId, sittingId))).toBe('conflict');
    const [leak] = must(openSitting(teacher(-hour), school.courseId, sittingId)).findings;
    must(scheduleSitting(teacher(-hour), school.courseId, sittingId, [leak?.key ?? '']));
    expect(school.db.select().from(sitting).get()?.acknowledged).toMatchObject([
      {
        key: leak?.key,
        name: 'Tove Teacher',
        leak: { sittingId, facts: ['right-or-wrong'] },
      },
    ]);
  });
});

describe('a copy of a sitting', () => {
  it('for a make-up is given to those who have handed nothing in', () => {
    school.questions(2);
    const sittingId = school.sitting(school.exam([school.draw(1)]));
    for (const i of [0, 1])
      must(
        handIn(
          school.as(student(i), 2 * minute),
          must(startAttempt(school.as(student(i), minute), sittingId)).attemptId,
        ),
      );
    const copy = must(giveAgain(teacher(), school.courseId, sittingId, '2026-03-09', 'missing')).sittingId;
    const opened = must(openSitting(teacher(), school.courseId, copy));
    expect(opened.audience.map((one) => one.name)).toEqual(['Student 3']);
    expect(opened.sitting.title).toBe('Sitting, make-up');
    must(
      handIn(
        school.as(student(2), 4 * minute),
        must(startAttempt(school.as(student(2), 3 * minute), sittingId)).attemptId,
      ),
    );
    expect(refusal(giveAgain(teacher(), school.courseId, sittingId, '2026-03-09', 'missing'))).toBe('conflict');
    expect(refusal(giveAgain(teacher(), school.courseId, sittingId, '2026-03-09', 'no such section'))).toBe(
      'not-found',
    );
    expect(school.db.select().from(attempt).all()).toHaveLength(3);
  });
});

describe('calendar files', () => {
  it('hold the windows with each student’s own times, in UTC, and nothing of those who are excused', () => {
    school.questions(1);
    const sittingId = school.sitting(school.exam([school.draw(1)]), { title: 'Knots; ropes, lines' });
    const nothing = { extraPercent: 50, extraMinutes: 0, extraAttempts: 0, excused: false };
    must(arrange(teacher(), school.courseId, sittingId, student(1).userId, nothing));
    must(arrange(teacher(), school.courseId, sittingId, student(2).userId, { ...nothing, excused: true }));
    const of = (i: number) => myCalendar(school.as(student(i)));
    expect(of(0)).toContain('SUMMARY:Knots\\; ropes\\, lines');
    expect(of(0)).toContain('DTSTART:20260302T090000Z');
    expect(of(0)).toContain('DTEND:20260304T090000Z');
    expect(of(1)).toContain('DTEND:20260304T093000Z');
    expect(of(2)).not.toContain('VEVENT');
    expect(must(courseCalendar(teacher(), school.courseId))).toContain('DTEND:20260304T090000Z');
    expect(refusal(courseCalendar(school.as(student()), school.courseId))).toBe('not-allowed');
  });
});

describe('what the school tells, and the try-out', () => {
  it('stands before every exam, and is set by whoever teaches', () => {
    const words = {
      type: 'doc' as const,
      content: [{ type: 'paragraph' as const, content: [{ type: 'text' as const, text: 'Cards out.' }] }],
    };
    must(setHouseInstructions(teacher(), school.courseId, words));
    expect(must(editHouseInstructions(teacher(), school.courseId)).instructions).toEqual(words);
    expect(refusal(setHouseInstructions(teacher(), school.courseId, { type: 'script' }))).toBe('bad-input');
    for (const who of [student(), school.marker])
      expect(refusal(setHouseInstructions(school.as(who), school.courseId, words))).toBe('not-allowed');
  });

  it('the try-out tells nothing of its key and earns what it should', () => {
    const context = school.as(student());
    const opened = must(openTryOut(context));
    expect(opened.slots).toHaveLength(questionTypes.length);
    expect(JSON.stringify(opened)).not.toMatch(/"right":|accepted|tolerance/);
    expect(must(scoreTryOut(context, []))).toEqual({ questions: 11, answered: 0, right: 0, byHand: 0 });
    const answers = opened.slots.flatMap(({ slotId, view }): { slotId: string; value: unknown }[] =>
      view?.type === 'true-false'
        ? [{ slotId, value: { picked: true } }]
        : view?.type === 'numeric'
          ? [{ slotId, value: { text: '12' } }]
          : view?.type === 'written'
            ? [{ slotId, value: { text: 'A day.' } }]
            : [],
    );
    const scored = must(scoreTryOut(context, answers));
    expect(scored).toMatchObject({ answered: answers.length, byHand: 1 });
    expect(scored.right).toBeGreaterThanOrEqual(1);
  });
});

it('a leak into another course tells nothing of that course but that it shares questions', () => {
  school.questions(3);
  const sittingId = school.sitting(school.exam([school.draw(2)]), {
    attemptsAllowed: null,
    further: { learning: 'as-they-go' },
  });
  // The other course uses the same bank, and gives a sitting of its own.
  const other = school.sitting(school.exam([school.draw(1)]), { title: 'Secret resit' });
  const { courseId } = school.elsewhere;
  school.db.insert(courseBank).values({ courseId, bankId: school.bankId }).run();
  school.db.update(sitting).set({ courseId }).where(eq(sitting.id, other)).run();
  school.db
    .update(membership)
    .set({ courseId })
    .where(eq(membership.userId, student(2).userId))
    .run();
  school.db.update(sittingAudience).set({ refId: courseId }).where(eq(sittingAudience.sittingId, other)).run();
  const [leak] = must(openSitting(teacher(), school.courseId, sittingId)).findings.filter((one) => one.leak);
  expect(leak?.message).toContain('a sitting of another course');
  expect(leak?.message).not.toMatch(/Secret resit|Student 3/);
});
