import { and, eq } from 'drizzle-orm';
import { beforeEach, describe, expect, it } from 'vitest';
import { richFromText } from '@/core/base/rich';
import { day, hour, minute } from '@/core/base/time';
import type { QuestionContent } from '@/core/question/content';
import { type Fact, facts, type ReleasePlan, type ReleaseWindow } from '@/core/release/plan';
import { outbox, publication, releaseView, sitting } from '@/db/schema';
import { sampleSheet } from '../gradebook/feedbackSheets';
import { gradebook } from '../gradebook/gradebook';
import type { Actor } from '../house/context';
import { adjustMark } from '../marking/adjust';
import { answersToMark } from '../marking/answersToMark';
import { giveMark } from '../marking/giveMark';
import { markedPaper } from '../marking/responses';
import { arrange } from '../sitting/arrange';
import { saveSitting } from '../sitting/saveRules';
import { must, refusal, School, writtenContent } from '../testing/school';
import { takePaper } from '../testing/takePaper';
import { studentsToLookAs } from './asStudent';
import { myResults } from './myResults';
import { publishReady, withdrawPublished } from './publish';
import { releaseDue } from './releaseDue';
import { readReplies, repliesTo, replyToFeedback } from './replies';
import { sittingResults } from './results';
import { newResults, noteSeen } from './resultsSeen';
import { myReview, openOnce, reviewAs } from './review';

let school: School;
let essay: string;
let examId: string;

/** A choice with its feedback and solution, and an essay with a rubric: every fact has a word that stands nowhere else. */
const choice: QuestionContent = {
  type: 'single-choice',
  stem: richFromText('STEMWORD'),
  shuffle: true,
  choices: [
    {
      id: 'a',
      content: richFromText('one shown choice'),
      right: false,
      pinned: false,
      feedback: richFromText('TOLDCHOICE'),
    },
    { id: 'b', content: richFromText('another shown choice'), right: true, pinned: false },
  ],
  feedback: {
    right: richFromText('TOLDRIGHT'),
    wrong: richFromText('TOLDWRONG'),
    solution: richFromText('SOLUTIONWORD'),
    hint: richFromText('HINTWORD'),
  },
};
const writing: QuestionContent = {
  ...(writtenContent('ESSAYSTEM') as Extract<QuestionContent, { type: 'written' }>),
  modelAnswer: richFromText('MODELWORD'),
  rubric: {
    criteria: [
      {
        id: 'c',
        name: 'CRITERIONWORD',
        weight: 1,
        levels: [
          { id: 'l', name: 'LEVELWORD', share: 1 },
          { id: 'm', name: 'low', share: 0 },
        ],
      },
    ],
  },
};

beforeEach(() => {
  school = new School(3);
  essay = school.question(writing);
  examId = school.exam([school.fixed(school.question(choice), 4), school.fixed(essay, 6)]);
});

const student = (i: number) => school.students[i] as Actor;
const teacher = (later = 30 * minute) => school.as(school.teacher, later);
const window = (kind: 'on-hand-in' | 'on-publishing' | 'over-for-everyone'): ReleaseWindow => ({ begins: { kind } });
const planOf = (some: readonly Fact[], one: ReleaseWindow): ReleasePlan =>
  Object.fromEntries(some.map((fact) => [fact, [one]]));
const give = (change: Record<string, unknown>) => school.sitting(examId, change);

/** Takes the sitting with an essay, and a pick that no choice of the paper carries: wrong, however they are laid out. */
const take = (sittingId: string, whom: Actor) =>
  takePaper(school, sittingId, whom, [{ picked: 'zzzz' }, { text: 'OWNWORD of mine' }]);

function markEssays(sittingId: string, later = 20 * minute): void {
  const page = must(answersToMark(teacher(later), school.courseId, sittingId, essay));
  for (const body of page.bodies)
    must(
      giveMark(teacher(later), school.courseId, body.slotId, {
        points: 3,
        comment: 'COMMENTWORD',
        rubric: { c: 'l' },
        revision: 1,
        before: null,
      }),
    );
}
function markEssaysAgain(sittingId: string): void {
  for (const body of must(answersToMark(teacher(2 * hour), school.courseId, sittingId, essay)).bodies)
    must(
      giveMark(teacher(2 * hour), school.courseId, body.slotId, {
        points: 5,
        comment: '',
        revision: 1,
        before: body.markId,
      }),
    );
}
const review = (sittingId: string, i: number, later: number) => must(myReview(school.as(student(i), later), sittingId));
const publish = (sittingId: string, expected: number, more: object = {}, later = 30 * minute) =>
  must(publishReady(teacher(later), school.courseId, sittingId, { expected, ...more }));

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
    const sent = JSON.stringify([review(sittingId, 0, hour), myResults(school.as(student(0), hour))]);
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
    const sent = () => JSON.stringify([review(sittingId, 0, hour), myResults(school.as(student(0), hour))]);
    const any = new RegExp(words.map(([, pattern]) => pattern.source).join('|'));
    expect(sent()).not.toMatch(any);
    publish(sittingId, 3, { showAtOnce: true });
    expect(sent()).toMatch(any);
    must(withdrawPublished(teacher(40 * minute), school.courseId, sittingId));
    expect(sent()).not.toMatch(any);
  });

  it('exists for its own student only', () => {
    const sittingId = give({ releasePlan: planOf(facts, window('on-hand-in')) });
    take(sittingId, student(0));
    expect(refusal(myReview(school.as(school.elsewhere.teacher, hour), sittingId))).toBe('not-found');
    expect(refusal(myReview(school.as(school.teacher, hour), sittingId))).toBe('not-found');
    expect(refusal(myReview(school.as(student(0), hour), 'no-such-sitting'))).toBe('not-found');
    expect(JSON.stringify(review(sittingId, 1, hour))).not.toContain('OWNWORD');
    expect(refusal(replyToFeedback(school.as(school.marker, hour), sittingId, 'Hello'))).toBe('not-found');
    expect(refusal(openOnce(school.as(school.marker, hour), sittingId))).toBe('not-found');
  });
});

describe('a preliminary score', () => {
  it('is there on hand-in, says what is marked of what, and no total rests on it', () => {
    const sittingId = give({ releasePlan: planOf(['score'], window('on-hand-in')) });
    take(sittingId, student(0));
    expect(review(sittingId, 0, 11 * minute).score).toMatchObject({
      preliminary: true,
      earned: 0,
      marked: 4,
      possible: 10,
      waiting: 1,
      band: null,
    });
    const book = must(gradebook(teacher(), school.courseId));
    expect([book.rows[0]?.signs, book.rows[0]?.total]).toEqual(['r', null]);
    expect(school.db.select().from(outbox).where(eq(outbox.subject, 'Sitting: your result')).all()).toEqual([]);
    // As marks come in it follows, and publishing takes its place.
    markEssays(sittingId);
    releaseDue(school.db, teacher(25 * minute).now);
    expect(review(sittingId, 0, 26 * minute).score).toMatchObject({ preliminary: true, earned: 3, waiting: 0 });
    publish(sittingId, 1);
    expect(review(sittingId, 0, hour).score).toMatchObject({ preliminary: false, earned: 3 });
    expect(must(gradebook(teacher(hour), school.courseId)).rows[0]?.signs).toBe('p');
  });

  it('comes by itself at its moment, without anybody’s browser', () => {
    const plan: ReleasePlan = { score: [{ begins: { kind: 'after-closing', days: 1 } }] };
    const sittingId = give({ releasePlan: plan });
    take(sittingId, student(0));
    const rows = () => school.db.select().from(publication).all().length;
    const sweep = (later: number) => releaseDue(school.db, teacher(later).now);
    sweep(2 * day);
    expect(rows()).toBe(0);
    expect(sweep(2 * day + hour)).toBe(0);
    sweep(3 * day);
    expect(rows()).toBe(1);
    sweep(3 * day + hour);
    expect(rows()).toBe(1);
    expect(review(sittingId, 0, 3 * day).score?.preliminary).toBe(true);
  });
});

describe('sittings that publish themselves', () => {
  const self = (kind: 'each' | 'all', notBefore: number | null = null) => ({ selfPublish: { kind, notBefore } });
  const sweep = (later: number) => releaseDue(school.db, teacher(later).now);
  const published = () => school.db.select().from(publication).where(eq(publication.preliminary, false)).all();

  it('each as soon as it is completely marked, and tell the student', () => {
    const sittingId = give(self('each'));
    take(sittingId, student(0));
    take(sittingId, student(1));
    sweep(15 * minute);
    expect(published()).toEqual([]);
    const [first] = must(answersToMark(teacher(20 * minute), school.courseId, sittingId, essay)).bodies;
    must(
      giveMark(teacher(20 * minute), school.courseId, first?.slotId ?? '', {
        points: 6,
        comment: '',
        revision: 1,
        before: null,
      }),
    );
    sweep(21 * minute);
    expect(published()).toHaveLength(1);
    expect(school.db.select().from(outbox).where(eq(outbox.subject, 'Sitting: your result')).all()).toHaveLength(1);
  });

  it('all once it is over and the last is marked, not before a moment', () => {
    const sittingId = give(self('all', teacher(4 * day).now));
    for (const i of [0, 1]) take(sittingId, student(i));
    markEssays(sittingId);
    for (const later of [hour, 2 * day, 3 * day]) sweep(later);
    expect(published()).toEqual([]);
    sweep(4 * day);
    expect(published()).toHaveLength(2);
  });

  it('leave alone what was withdrawn, and what a mark changed after it was published', () => {
    const sittingId = give(self('each'));
    for (const i of [0, 1]) take(sittingId, student(i));
    markEssays(sittingId);
    sweep(25 * minute);
    must(withdrawPublished(teacher(26 * minute), school.courseId, sittingId, [student(0).userId]));
    sweep(27 * minute);
    const standing = () => published().filter((row) => row.withdrawnAt === null);
    expect(standing().map((row) => row.userId)).toEqual([student(1).userId]);
    const [, second] = must(answersToMark(teacher(30 * minute), school.courseId, sittingId, essay)).bodies;
    for (const body of must(answersToMark(teacher(30 * minute), school.courseId, sittingId, essay)).bodies)
      must(
        giveMark(teacher(30 * minute), school.courseId, body.slotId, {
          points: 1,
          comment: '',
          revision: 1,
          before: body.markId,
        }),
      );
    expect(second).toBeDefined();
    sweep(31 * minute);
    expect(standing().map((row) => row.earned)).toEqual([3]);
    expect(must(sittingResults(teacher(32 * minute), school.courseId, sittingId)).rows[1]?.changed).toBe(true);
  });

  it('publish anew what a further attempt has changed', () => {
    const sittingId = give({ ...self('each'), attemptsAllowed: 2, attemptCounts: 'last' });
    take(sittingId, student(0));
    markEssays(sittingId);
    sweep(25 * minute);
    takePaper(school, sittingId, student(0), [null, null], 40);
    sweep(50 * minute);
    expect(
      published()
        .filter((row) => row.withdrawnAt === null)
        .map((row) => row.earned),
    ).toEqual([0]);
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
    const other = school.sitting(examId, { who: { kind: 'some', sectionIds: [], studentIds: [student(2).userId] } });
    school.db.update(sitting).set({ acknowledged: [] }).where(eq(sitting.id, sittingId)).run();
    const later = review(sittingId, 0, hour + minute);
    expect(later.visible).toEqual(['score', 'questions', 'own-answers', 'comments']);
    expect(JSON.stringify(later)).not.toMatch(/MODELWORD|SOLUTIONWORD|"outcome":"/);
    expect(later.heldUntil).toBe(teacher(2 * day).now);
    expect(review(sittingId, 0, 2 * day).visible).toContain('right-answers');
    // More time for one of them moves that.
    must(
      arrange(teacher(hour), school.courseId, other, student(2).userId, {
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
    const page = must(sittingResults(teacher(), school.courseId, sittingId));
    expect(page.leaks).toHaveLength(1);
    expect(page.leaks[0]).toContain('others in this sitting may still be writing');
    publish(sittingId, 1, { userIds: [student(0).userId] });
    expect(review(sittingId, 0, hour).visible).not.toContain('right-answers');
    publish(sittingId, 1, { showAtOnce: true });
    expect(review(sittingId, 0, hour + minute).visible).toContain('right-answers');
    const row = school.db.select().from(sitting).where(eq(sitting.id, sittingId)).get();
    expect(row?.acknowledged?.at(-1)).toMatchObject({ name: school.teacher.name });
  });
});

describe('what was published', () => {
  const everything = ['score', 'questions', 'own-answers', 'right-or-wrong', 'comments'] as const;
  let sittingId: string;
  let slotId: string;
  const adjust = (points: number, more: object = {}) => {
    const { questions } = must(markedPaper(teacher(hour), school.courseId, sittingId, student(0).userId));
    const one = questions.find((question) => question.slotId === slotId);
    return adjustMark(teacher(hour), school.courseId, slotId, {
      points,
      reason: 'Read again.',
      revision: one?.revision,
      before: one?.markId,
      ...more,
    });
  };
  const seen = (later: number) => {
    const shown = review(sittingId, 0, later);
    const question = shown.questions.find((one) => one.slotId === slotId);
    return [shown.score?.earned, question?.points, question?.comment];
  };
  const printed = () => {
    const layout = { fields: ['score', 'questions'], letter: '', signature: '', rightAnswers: false };
    const sheet = must(sampleSheet(teacher(2 * hour), school.courseId, sittingId, student(0).userId, layout));
    return sheet.blocks.flatMap((block) =>
      block.kind === 'result' ? [block.text] : block.kind === 'question' ? [block.points, block.comment] : [],
    );
  };

  beforeEach(() => {
    sittingId = give({ releasePlan: planOf(everything, window('on-publishing')) });
    // Everyone is done with it: nothing is held back.
    for (const i of [0, 1, 2]) take(sittingId, student(i));
    markEssays(sittingId);
    publish(sittingId, 3);
    slotId = review(sittingId, 0, 40 * minute).questions.find((one) => one.points === 3)?.slotId ?? '';
  });

  it('is not altered by a mark that changes: its points, too, stay until it is published anew', () => {
    expect(seen(40 * minute)).toEqual([3, 3, 'COMMENTWORD']);
    must(adjust(5, { comment: 'Better than I thought.' }));
    expect(seen(2 * hour)).toEqual([3, 3, 'COMMENTWORD']);
    expect(printed()).toEqual(expect.arrayContaining(['3 of 10 points', '3 of 6', 'COMMENTWORD']));
    publish(sittingId, 1, {}, 3 * hour);
    expect(seen(4 * hour)).toEqual([5, 5, 'Better than I thought.']);
    expect(printed()).toEqual(expect.arrayContaining(['5 of 10 points', '5 of 6', 'Better than I thought.']));
  });

  it('is told with a comment that was written anew, since there is nothing to publish', () => {
    must(adjust(3, { comment: 'Said more clearly.' }));
    expect(seen(2 * hour)).toEqual([3, 3, 'Said more clearly.']);
    expect(must(sittingResults(teacher(2 * hour), school.courseId, sittingId)).rows[0]?.changed).toBe(false);
  });

  it('shows what it would be, where the page is looked at as if it were published', () => {
    must(adjust(5));
    const order = { userId: student(0).userId, at: teacher(2 * hour).now, number: null };
    const as = (published: boolean) =>
      must(reviewAs(teacher(2 * hour), school.courseId, sittingId, { ...order, published })).questions.map(
        (one) => one.points,
      );
    expect(as(false)).toContain(3);
    expect(as(true)).toContain(5);
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
    expect(must(openOnce(school.as(student(0), 30 * minute), sittingId)).until).toBe(teacher(40 * minute).now);
    expect(review(sittingId, 0, 39 * minute).questions).toHaveLength(2);
    expect(review(sittingId, 0, 39 * minute).openUntil).toBe(teacher(40 * minute).now);
    expect(review(sittingId, 0, 40 * minute).questions).toEqual([]);
    expect(refusal(openOnce(school.as(student(0), 50 * minute), sittingId))).toBe('conflict');
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
      heldUntil: teacher(2 * day).now,
    });
    must(openOnce(school.as(student(0), hour), sittingId));
    expect(review(sittingId, 0, hour + minute).visible).toEqual(['score']);
    expect(refusal(openOnce(school.as(student(0), hour + 2 * minute), sittingId))).toBe('conflict');
    // Once nobody can be writing any more, they are opened by an act of their own.
    expect(review(sittingId, 0, 2 * day).once).toEqual({ facts: ['questions', 'right-answers'], for: 10 * minute });
    expect(myResults(school.as(student(0), 2 * day))[0]).toMatchObject({ once: true });
    must(openOnce(school.as(student(0), 2 * day), sittingId));
    expect(JSON.stringify(review(sittingId, 0, 2 * day + minute))).toContain('MODELWORD');
    expect(school.db.select().from(releaseView).all()).toHaveLength(3);
  });
});

describe('as a student', () => {
  it('is what the student sees, at any moment, and as if it had been published', () => {
    const sittingId = give({ releasePlan: planOf(facts, window('over-for-everyone')) });
    for (const i of [0, 1, 2]) take(sittingId, student(i));
    markEssays(sittingId);
    const as = (later: number, published = false) =>
      must(
        reviewAs(teacher(hour), school.courseId, sittingId, {
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
    must(saveSitting(teacher(), school.courseId, sittingId, { releasePlan: planOf(facts, window('on-publishing')) }));
    expect(as(hour, true).visible).toContain('questions');
    expect(as(hour).visible).toEqual([]);
    const whole = must(studentsToLookAs(teacher(), school.courseId, sittingId));
    expect(whole.students).toHaveLength(3);
    expect(whole.moments.map((one) => one.label)).toContain('it closes');
  });
});

describe('replies to the feedback', () => {
  it('are taken once there is something to reply to, read by the instructor, and bounded', () => {
    const sittingId = give({ releasePlan: planOf(['score'], window('on-publishing')) });
    take(sittingId, student(0));
    markEssays(sittingId);
    const reply = (text: string) => replyToFeedback(school.as(student(0), hour), sittingId, text);
    expect(refusal(reply('Too early'))).toBe('not-allowed');
    publish(sittingId, 1);
    expect(refusal(reply('  '))).toBe('bad-input');
    expect(refusal(reply('x'.repeat(4_001)))).toBe('bad-input');
    must(reply('Thank you.'));
    expect(must(repliesTo(teacher(hour), school.courseId, sittingId))).toMatchObject([
      { text: 'Thank you.', readAt: null },
    ]);
    must(readReplies(teacher(hour), school.courseId, sittingId));
    expect(review(sittingId, 0, hour).replies).toMatchObject([{ text: 'Thank you.', read: true }]);
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
      const context = school.as(student(0), later);
      return newResults(context, myResults(context)).map((one) => one.sittingId);
    };
    expect(fresh(hour)).toEqual([]);
    publish(sittingId, 1);
    expect(fresh(hour)).toEqual([sittingId]);
    must(noteSeen(school.as(student(0), hour), sittingId));
    expect(fresh(2 * hour)).toEqual([]);
    markEssaysAgain(sittingId);
    publish(sittingId, 1, {}, 3 * hour);
    expect(fresh(4 * hour)).toEqual([sittingId]);
    expect(refusal(noteSeen(school.as(school.marker, hour), sittingId))).toBe('not-found');
  });
});

describe('publishing', () => {
  it('tells the score in a message only where the plan shows it from then on, for good', () => {
    const body = (releasePlan: ReleasePlan) => {
      const sittingId = give({ releasePlan });
      take(sittingId, student(0));
      markEssays(sittingId);
      publish(sittingId, 1);
      return school.db.select().from(outbox).where(eq(outbox.subject, 'Sitting: your result')).all().at(-1)?.body;
    };
    expect(body({ score: [{ begins: { kind: 'on-publishing' } }] })).toContain(': 3 of 10 points.');
    for (const hidden of [
      { begins: { kind: 'after-closing', days: 7 } },
      { begins: { kind: 'over-for-everyone' } },
      { begins: { kind: 'on-publishing' }, ends: { kind: 'once', minutes: 10 } },
      { begins: { kind: 'on-publishing' }, ends: { kind: 'after-days', days: 2 } },
    ] satisfies ReleaseWindow[])
      expect(body({ score: [hidden] })).not.toMatch(/\d/);
  });

  it('acts on exactly those named, and says nothing of a score that the plan hides', () => {
    const sittingId = give({ releasePlan: planOf(['questions', 'own-answers'], window('on-publishing')) });
    for (const i of [0, 1, 2]) take(sittingId, student(i));
    markEssays(sittingId);
    const some = { userIds: [student(1).userId, student(2).userId] };
    expect(refusal(publishReady(teacher(), school.courseId, sittingId, { expected: 3, ...some }))).toBe('conflict');
    publish(sittingId, 2, some);
    const mails = school.db.select().from(outbox).where(eq(outbox.subject, 'Sitting: your result')).all();
    expect(mails.map((one) => one.userId).sort()).toEqual([...some.userIds].sort());
    expect(mails[0]?.body).not.toMatch(/\d/);
    const standing = school.db
      .select()
      .from(publication)
      .where(and(eq(publication.sittingId, sittingId), eq(publication.userId, student(0).userId)))
      .all();
    expect(standing).toEqual([]);
  });
});

describe('the sweeper', () => {
  it('looks again only where something has moved: a mark, a hand-in, a rule', () => {
    const first = give({ releasePlan: planOf(['score'], window('on-hand-in')) });
    const second = give({ releasePlan: planOf(['score'], window('on-hand-in')) });
    const sweep = (later: number) => releaseDue(school.db, teacher(later).now);
    take(first, student(0));
    take(second, student(1));
    expect(sweep(11 * minute)).toBe(2);
    expect(sweep(12 * minute)).toBe(0);
    markEssays(first);
    expect(sweep(21 * minute)).toBe(1);
    expect(review(first, 0, 22 * minute).score).toMatchObject({ earned: 3, waiting: 0 });
    take(second, student(0));
    expect(sweep(24 * minute)).toBe(1);
    must(saveSitting(teacher(25 * minute), school.courseId, first, { title: 'Another title' }));
    expect(sweep(26 * minute)).toBe(1);
  });
});
