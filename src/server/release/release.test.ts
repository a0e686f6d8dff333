import { eq } from 'drizzle-orm';
import { describe, expect, it } from 'vitest';
import { day, hour, minute } from '@/core/base/time';
import { type Fact, facts, type ReleaseWindow } from '@/core/release/plan';
import { outbox, releaseView, sitting } from '@/db/schema';
import { sampleSheet, sheetsPage } from '../gradebook/feedbackSheets';
import { arrange } from '../sitting/arrange';
import { saveSitting } from '../sitting/saveRules';
import { planOf, releaseSchool, window } from '../testing/releaseSchool';
import { must, refusal } from '../testing/school';
import { studentsToLookAs } from './asStudent';
import { myResults } from './myResults';
import { withdrawPublished } from './publish';
import { answerReply, readReplies, repliesTo, replyToFeedback } from './replies';
import { sittingResults } from './results';
import { newResults, noteSeen } from './resultsSeen';
import { myReview, openOnce, reviewAs } from './review';

const at = releaseSchool();
const { student, teacher, give, take, markEssays, review, publish } = at;

describe('a student’s review, byte by byte', () => {
  /** Words that may be in a response only where the fact is visible. */
  const words: [Fact, RegExp][] = [
    ['questions', /STEMWORD|ESSAYSTEM|shown choice/],
    ['own-answers', /OWNWORD/],
    ['right-answers', /MODELWORD|"right":true/],
    ['feedback', /SOLUTIONWORD|TOLDWRONG|TOLDRIGHT|TOLDCHOICE/],
    ['comments', /COMMENTWORD|CRITERIONWORD|LEVELWORD/],
    ['right-or-wrong', /"outcome":"(wrong|partly|right)"/],
    ['score', /"earned":/],
  ];

  it.each(facts.map((fact) => [fact] as const))('holds nothing of “%s” where the plan never shows it', (hidden) => {
    const shown = facts.filter((fact) => fact !== hidden);
    const sittingId = give({ releasePlan: planOf(shown, window('on-publishing')) });
    for (const i of [0, 1, 2]) take(sittingId, student(i));
    markEssays(sittingId);
    publish(sittingId, 3, { showAtOnce: true });
    const sent = JSON.stringify([review(sittingId, 0, hour), myResults(at.school.as(student(0), hour))]);
    const expected = new Set(hidden === 'questions' ? ['score'] : shown);
    for (const [fact, pattern] of words) {
      // Right answers stand in the choices of the key, feedback beside them: what is right is told by either.
      if (expected.has(fact)) expect([fact, pattern.test(sent)]).toEqual([fact, true]);
      else expect([fact, pattern.exec(sent)?.[0] ?? null]).toEqual([fact, null]);
    }
    expect(sent).not.toContain('HINTWORD');
  });

  it('holds nothing at all before publishing, and again nothing once it is withdrawn', () => {
    const sittingId = give({ releasePlan: planOf(facts, window('on-publishing')) });
    for (const i of [0, 1, 2]) take(sittingId, student(i));
    markEssays(sittingId);
    const sent = () => JSON.stringify([review(sittingId, 0, hour), myResults(at.school.as(student(0), hour))]);
    const any = new RegExp(words.map(([, pattern]) => pattern.source).join('|'));
    expect(sent()).not.toMatch(any);
    publish(sittingId, 3, { showAtOnce: true });
    expect(sent()).toMatch(any);
    must(withdrawPublished(teacher(40 * minute), at.school.courseId, sittingId));
    expect(sent()).not.toMatch(any);
  });

  it('exists for its own student only', () => {
    const sittingId = give({ releasePlan: planOf(facts, window('on-hand-in')) });
    take(sittingId, student(0));
    expect(refusal(myReview(at.school.as(at.school.elsewhere.teacher, hour), sittingId))).toBe('not-found');
    expect(refusal(myReview(at.school.as(at.school.teacher, hour), sittingId))).toBe('not-found');
    expect(refusal(myReview(at.school.as(student(0), hour), 'no-such-sitting'))).toBe('not-found');
    expect(JSON.stringify(review(sittingId, 1, hour))).not.toContain('OWNWORD');
    expect(refusal(replyToFeedback(at.school.as(at.school.marker, hour), sittingId, 'Hello'))).toBe('not-found');
    expect(refusal(openOnce(at.school.as(at.school.marker, hour), sittingId))).toBe('not-found');
  });
});

describe('keys while someone may still write', () => {
  const all = { releasePlan: planOf(facts, window('on-hand-in')), attemptsAllowed: 1 };

  it('are held back where that was not read and taken on, and shown once it is safe', () => {
    const sittingId = give(all);
    // Everyone who can write it is done with it: nothing is held back.
    for (const i of [0, 1, 2]) take(sittingId, student(i));
    expect(review(sittingId, 0, hour).visible).toContain('right-answers');
    // A make-up with the same questions comes: what gives keys away is hidden until its end.
    const other = at.school.sitting(at.examId, {
      who: { kind: 'some', sectionIds: [], studentIds: [student(2).userId] },
    });
    at.school.db.update(sitting).set({ acknowledged: [] }).where(eq(sitting.id, sittingId)).run();
    const later = review(sittingId, 0, hour + minute);
    expect(later.visible).toEqual(['score', 'questions', 'own-answers', 'comments']);
    expect(JSON.stringify(later)).not.toMatch(/MODELWORD|SOLUTIONWORD|"outcome":"/);
    expect(later.comes).toEqual([
      'What you had right and wrong, the right answers and the feedback: from Wed 4 Mar 2026, 10:00, once nobody can be writing these questions any more.',
    ]);
    expect(review(sittingId, 0, 2 * day).visible).toContain('right-answers');
    // More time for one of them moves that.
    must(
      arrange(teacher(hour), at.school.courseId, other, student(2).userId, {
        extraPercent: 0,
        extraMinutes: 0,
        opens: '',
        lastStart: '',
        due: '',
        closes: '2026-12-31T12:00',
        extraAttempts: 0,
        excused: false,
        entryCode: '',
        networks: [],
      }),
    );
    expect(review(sittingId, 0, 2 * day + minute).visible).not.toContain('right-answers');
  });

  it('are shown at once where whoever publishes takes it on by name', () => {
    const sittingId = give({ releasePlan: planOf(facts, window('on-publishing')) });
    for (const i of [0, 1]) take(sittingId, student(i));
    markEssays(sittingId);
    const page = must(sittingResults(teacher(), at.school.courseId, sittingId));
    expect(page.leaks).toHaveLength(1);
    expect(page.leaks[0]).toContain('others in this sitting may still be writing');
    publish(sittingId, 1, { userIds: [student(0).userId] });
    expect(review(sittingId, 0, hour).visible).not.toContain('right-answers');
    publish(sittingId, 1, { showAtOnce: true });
    expect(review(sittingId, 0, hour + minute).visible).toContain('right-answers');
    const row = at.school.db.select().from(sitting).where(eq(sitting.id, sittingId)).get();
    expect(row?.acknowledged?.at(-1)).toMatchObject({ name: at.school.teacher.name });
    // Publishing a change asks nobody anew, and does not promise that anything is held back.
    const again = must(sittingResults(teacher(hour), at.school.courseId, sittingId));
    expect(again.leaks).toEqual([]);
    expect(again.leaksTaken[0]).toContain(`${at.school.teacher.name} has accepted that: it is not held back.`);
  });

  it('stand on feedback sheets only of students who see them, unless that is asked for', () => {
    const sittingId = give({ releasePlan: planOf(facts, window('on-publishing')) });
    for (const i of [0, 1]) take(sittingId, student(i));
    markEssays(sittingId);
    publish(sittingId, 2);
    const layout = { fields: ['questions'], letter: '', signature: '', rightAnswers: true };
    const sheet = (later: number, early?: boolean) =>
      JSON.stringify(
        must(sampleSheet(teacher(later), at.school.courseId, sittingId, student(0).userId, layout, early)),
      );
    const page = (later: number) => must(sheetsPage(teacher(later), at.school.courseId, sittingId));
    expect(sheet(hour)).not.toMatch(/MODELWORD|SOLUTIONWORD|another shown choice/);
    expect(page(hour).students[0]?.seesRight).toBe(false);
    expect(page(hour).leaks[0]).toContain('others in this sitting may still be writing');
    expect(sheet(hour, true)).toMatch(/SOLUTIONWORD/);
    // Once nobody can be writing any more, they see them, and so do their sheets.
    take(sittingId, student(2));
    expect(sheet(3 * hour)).toMatch(/SOLUTIONWORD/);
    expect(page(3 * hour)).toMatchObject({ leaks: [], students: [{ seesRight: true }, { seesRight: true }, {}] });
  });
});

describe('one look', () => {
  it('begins with the student’s own act, lasts its minutes, and does not come again', () => {
    const once: ReleaseWindow = { begins: { kind: 'on-hand-in' }, ends: { kind: 'once', minutes: 10 } };
    const sittingId = give({
      releasePlan: { score: [window('on-hand-in')], ...planOf(['questions', 'own-answers'], once) },
    });
    for (const i of [0, 1, 2]) take(sittingId, student(i));
    expect(review(sittingId, 0, 20 * minute)).toMatchObject({
      visible: ['score'],
      once: { facts: ['questions', 'own-answers'], for: 10 * minute },
      questions: [],
    });
    expect(must(openOnce(at.school.as(student(0), 30 * minute), sittingId)).until).toBe(teacher(40 * minute).now);
    expect(review(sittingId, 0, 39 * minute).questions).toHaveLength(2);
    expect(review(sittingId, 0, 39 * minute).openUntil).toBe(teacher(40 * minute).now);
    expect(review(sittingId, 0, 40 * minute).questions).toEqual([]);
    expect(refusal(openOnce(at.school.as(student(0), 50 * minute), sittingId))).toBe('conflict');
    expect(review(sittingId, 1, 50 * minute).once).not.toBe(null);
  });

  it('does not run out while what it shows is held back: what gives keys away waits to be opened', () => {
    const once: ReleaseWindow = { begins: { kind: 'on-publishing' }, ends: { kind: 'once', minutes: 10 } };
    const sittingId = give({ releasePlan: planOf(['score', 'questions', 'right-answers'], once) });
    take(sittingId, student(0));
    markEssays(sittingId);
    publish(sittingId, 1);
    // Others may still be writing: the score can be looked at; the questions wait for their answers.
    expect(review(sittingId, 0, hour)).toMatchObject({
      once: { facts: ['score'] },
      comes: [
        'The questions and the right answers: from Wed 4 Mar 2026, 10:00, once nobody can be writing these questions any more.',
      ],
    });
    must(openOnce(at.school.as(student(0), hour), sittingId));
    expect(review(sittingId, 0, hour + minute).visible).toEqual(['score']);
    expect(refusal(openOnce(at.school.as(student(0), hour + 2 * minute), sittingId))).toBe('conflict');
    // Once nobody can be writing any more, they are opened by an act of their own.
    expect(review(sittingId, 0, 2 * day).once).toEqual({ facts: ['questions', 'right-answers'], for: 10 * minute });
    expect(myResults(at.school.as(student(0), 2 * day))[0]).toMatchObject({ once: true });
    must(openOnce(at.school.as(student(0), 2 * day), sittingId));
    expect(JSON.stringify(review(sittingId, 0, 2 * day + minute))).toContain('MODELWORD');
    expect(at.school.db.select().from(releaseView).all()).toHaveLength(3);
  });
});

describe('as a student', () => {
  it('is what the student sees, at any moment, and as if it had been published', () => {
    const sittingId = give({ releasePlan: planOf(facts, window('over-for-everyone')) });
    for (const i of [0, 1, 2]) take(sittingId, student(i));
    markEssays(sittingId);
    const as = (later: number, published = false) =>
      must(
        reviewAs(teacher(hour), at.school.courseId, sittingId, {
          userId: student(0).userId,
          at: teacher(later).now,
          number: null,
          published,
        }),
      );
    const { student: name, ...seen } = as(hour);
    expect(name).toBe('Student 1');
    expect(seen).toEqual(review(sittingId, 0, hour));
    expect(as(hour).visible).toEqual([]);
    // For two days it can still be written by nobody: every attempt is used, so that it is over with its closing.
    expect(as(2 * day + hour).visible).toContain('right-answers');
    expect(as(5 * minute).questions).toEqual([]);
    must(
      saveSitting(teacher(), at.school.courseId, sittingId, { releasePlan: planOf(facts, window('on-publishing')) }),
    );
    expect(as(hour, true).visible).toContain('questions');
    expect(as(hour).visible).toEqual([]);
    const whole = must(studentsToLookAs(teacher(), at.school.courseId, sittingId));
    expect(whole.students).toHaveLength(3);
    expect(whole.moments.map((one) => one.label)).toContain('it closes');
  });
});

describe('replies to the feedback', () => {
  it('are taken once there is something to reply to, read by the instructor, and bounded', () => {
    const sittingId = give({ releasePlan: planOf(['score'], window('on-publishing')) });
    take(sittingId, student(0));
    markEssays(sittingId);
    const reply = (text: string) => replyToFeedback(at.school.as(student(0), hour), sittingId, text);
    expect(refusal(reply('Too early'))).toBe('not-allowed');
    publish(sittingId, 1);
    expect(refusal(reply('  '))).toBe('bad-input');
    expect(refusal(reply('x'.repeat(4_001)))).toBe('bad-input');
    must(reply('Thank you.'));
    expect(must(repliesTo(teacher(hour), at.school.courseId, sittingId))).toMatchObject([
      { text: 'Thank you.', readAt: null },
    ]);
    must(readReplies(teacher(hour), at.school.courseId, sittingId));
    expect(review(sittingId, 0, hour).replies).toMatchObject([{ text: 'Thank you.', read: true }]);
    const [first] = must(repliesTo(teacher(hour), at.school.courseId, sittingId));
    const answer = (text: string) =>
      answerReply(teacher(2 * hour), at.school.courseId, sittingId, first?.id ?? '', text);
    expect(refusal(answer(' '))).toBe('bad-input');
    const other = give({});
    expect(refusal(answerReply(teacher(hour), at.school.courseId, other, first?.id ?? '', 'Astray'))).toBe('not-found');
    must(answer('You are welcome.'));
    expect(answer('And again')).toMatchObject({
      problems: [{ code: 'conflict', message: expect.stringContaining('has answered this reply: “You are welcome.”') }],
    });
    expect(review(sittingId, 0, 2 * hour).replies).toMatchObject([
      { text: 'Thank you.', read: true, answer: { text: 'You are welcome.', by: at.school.teacher.name } },
    ]);
    expect(at.school.db.select().from(outbox).all().at(-1)).toMatchObject({
      userId: student(0).userId,
      subject: expect.stringContaining('an answer to your reply'),
      body: 'You are welcome.\n\nYou wrote:\nThank you.',
    });
    // It is new to the student until they look.
    const news = () => {
      const context = at.school.as(student(0), 3 * hour);
      return newResults(context, myResults(context)).map((one) => one.what);
    };
    expect(news()).toEqual(['result']);
    must(noteSeen(at.school.as(student(0), hour + minute), sittingId));
    expect(news()).toEqual(['answer']);
    must(noteSeen(at.school.as(student(0), 3 * hour), sittingId));
    expect(news()).toEqual([]);
    for (let i = 0; i < 19; i++) must(reply(`Again ${i}`));
    expect(refusal(reply('Too many'))).toBe('conflict');
  });
});

describe('what is new', () => {
  it('is a result put in front of the student after they last looked at it', () => {
    const sittingId = give({});
    take(sittingId, student(0));
    markEssays(sittingId);
    const fresh = (later: number) => {
      const context = at.school.as(student(0), later);
      return newResults(context, myResults(context)).map((one) => one.sittingId);
    };
    expect(fresh(hour)).toEqual([]);
    publish(sittingId, 1);
    expect(fresh(hour)).toEqual([sittingId]);
    must(noteSeen(at.school.as(student(0), hour), sittingId));
    expect(fresh(2 * hour)).toEqual([]);
    markEssays(sittingId, 2 * hour, 5);
    publish(sittingId, 1, {}, 3 * hour);
    expect(fresh(4 * hour)).toEqual([sittingId]);
    expect(refusal(noteSeen(at.school.as(at.school.marker, hour), sittingId))).toBe('not-found');
  });
});
