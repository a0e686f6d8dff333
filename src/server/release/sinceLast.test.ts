import { desc, eq } from 'drizzle-orm';
import { beforeEach, describe, expect, it } from 'vitest';
import { minute } from '@/core/base/time';
import type { QuestionContent } from '@/core/question/content';
import { facts, type ReleasePlan } from '@/core/release/plan';
import { outbox, publication } from '@/db/schema';
import { openQuestion, saveQuestion } from '../bank/questions';
import { saveNumbers } from '../gradebook/bookSettings';
import { sampleSheet } from '../gradebook/feedbackSheets';
import type { Actor } from '../house/context';
import { adjustMark, adjustPaper } from '../marking/adjust';
import { applyRemarking, previewRemarking } from '../marking/remarking';
import { markedPaper } from '../marking/responses';
import { must, numberContent, School } from '../testing/school';
import { takePaper } from '../testing/takePaper';
import { changedSince } from './changedSince';
import { myResults } from './myResults';
import { publishReady, withdrawPublished } from './publish';
import { sittingResults } from './results';
import { myReview } from './review';

let school: School;
let number: string;
let sittingId: string;
const teacher = (later = 60) => school.as(school.teacher, later * minute);
const student = (i = 0) => school.students[i] as Actor;
const review = (later: number, i = 0) => must(myReview(school.as(student(i), later * minute), sittingId));
const mine = (later: number, i = 0) => myResults(school.as(student(i), later * minute))[0];
const publish = (later: number, expected: number) =>
  must(publishReady(teacher(later), school.courseId, sittingId, { expected }));
const message = (i = 0) =>
  school.db
    .select()
    .from(outbox)
    .where(eq(outbox.userId, student(i).userId))
    .orderBy(desc(outbox.id))
    .limit(1)
    .get();
const onPublishing = (some: readonly (typeof facts)[number][]): ReleasePlan =>
  Object.fromEntries(some.map((fact) => [fact, [{ begins: { kind: 'on-publishing' as const } }]]));

const begin = (releasePlan: ReleasePlan, more: object = {}) => {
  school = new School(3);
  number = school.question(numberContent('number', '7'));
  const other = school.question(numberContent('other', '1'));
  sittingId = school.sitting(school.exam([school.fixed(number, 4), school.fixed(other, 6)]), { releasePlan, ...more });
  // Everyone has handed in: nothing is held back for others.
  for (const [i, text] of ['8', '7', null].entries())
    takePaper(school, sittingId, student(i), [text && { text }, { text: '1' }]);
};
const mendTo = (value: string, later: number) => {
  const open = must(openQuestion(teacher(later), school.courseId, school.bankId, number));
  const content = {
    ...open.content,
    accepted: [{ value, tolerance: { kind: 'absolute', amount: 0 }, credit: 1 }],
  } as QuestionContent;
  must(saveQuestion(teacher(later), school.courseId, school.bankId, number, { ...open, content, edit: open.edit }));
};
const markAnew = (policy: string, later: number) => {
  const { key } = must(previewRemarking(teacher(later), school.courseId, number, { policy }));
  must(applyRemarking(teacher(later), school.courseId, number, { policy, key, reason: 'The book says eight.' }));
};

describe('what has changed since a result was published', () => {
  beforeEach(() => begin(onPublishing(facts)));

  it('is told with its reason, from a wrong key to what the student reads', () => {
    publish(30, 3);
    expect(review(31).changed).toEqual([]);
    expect(message()?.body).toContain('has been published: 6 of 10 points');
    mendTo('8', 40);
    markAnew('new-key', 41);
    // Until it is published again, nothing has changed for the student.
    expect(review(42)).toMatchObject({ score: { earned: 6 }, changed: [] });
    publish(50, 2);
    expect(review(51)).toMatchObject({ score: { earned: 10, possible: 10 } });
    expect(review(51).changed).toEqual([
      'Your score was 6 of 10 until Mon 2 Mar 2026, 10:50; now it is 10 of 10.',
      'Question 1: 4 points instead of 0. The key of this question was mended, and your answer was marked anew by it. Why: The book says eight.',
    ]);
    expect(message()).toMatchObject({
      subject: 'Sitting: your result has changed',
      body: 'Your result of Sitting has changed: 6 of 10 points before, 10 of 10 points now. Why it has stands under My results.',
    });
    expect(mine(51)).toMatchObject({ score: { earned: 10 }, before: { earned: 6, possible: 10 } });
    // Who had it right by the old key has lost by it; whose result is the same is told nothing.
    expect(review(51, 1).changed[1]).toContain('Question 1: 0 points instead of 4.');
    expect(review(51, 2).changed).toEqual([]);
    expect(mine(51, 2)?.before).toBeNull();
  });

  it('tells of a question that is taken out, and of one that counts for everyone', () => {
    publish(30, 3);
    markAnew('left-out', 40);
    publish(50, 3);
    expect(review(51).changed).toEqual([
      'Your score was 6 of 10 until Mon 2 Mar 2026, 10:50; now it is 6 of 6.',
      'Question 1: This question does not count for anyone. Why: The book says eight.',
    ]);
    markAnew('everyone', 60);
    publish(70, 3);
    expect(review(71).changed).toEqual([
      'Your score was 6 of 6 until Mon 2 Mar 2026, 11:10; now it is 10 of 10.',
      'Question 1 counts now, with 4 points. Everyone has full points for this question. Why: The book says eight.',
    ]);
    // The answer was not right for that.
    expect(review(71).questions[0]).toMatchObject({ outcome: 'given', points: 4 });
  });

  it('tells of one answer, of the whole paper, and of both at once', () => {
    publish(30, 3);
    const paper = () => must(markedPaper(teacher(40), school.courseId, sittingId, student().userId));
    const one = paper().questions[0];
    must(
      adjustMark(teacher(40), school.courseId, one?.slotId ?? '', {
        points: 2,
        reason: 'after your appeal',
        revision: one?.revision,
        before: one?.markId,
      }),
    );
    const attemptId = review(41).attemptId ?? '';
    must(adjustPaper(teacher(41), school.courseId, attemptId, { points: -1, reason: 'handed in late', before: null }));
    publish(50, 1);
    expect(review(51)).toMatchObject({
      score: { earned: 7 },
      adjusted: ['1 point was taken from the whole paper: handed in late.'],
    });
    expect(review(51).changed).toEqual([
      'Your score was 6 of 10 until Mon 2 Mar 2026, 10:50; now it is 7 of 10.',
      'Question 1: 2 points instead of 0. Your points were set by hand: after your appeal.',
      '1 point was taken from the whole paper: handed in late.',
    ]);
  });

  it('tells of a result that was taken back and published again, and of the time between', () => {
    publish(30, 3);
    must(withdrawPublished(teacher(40), school.courseId, sittingId));
    expect(review(41)).toMatchObject({ visible: [], score: null, takenBack: teacher(40).now });
    expect(review(41).comes[0]).toMatch(/: when your instructor publishes them\.$/);
    expect(mine(41)).toMatchObject({ score: null, takenBack: teacher(40).now });
    expect(message()?.body).toBe(
      'Your result of Sitting was taken back for now. You get a message when it is published again.',
    );
    publish(50, 3);
    expect(review(51)).toMatchObject({ takenBack: null, changed: [], score: { earned: 6 } });
  });
});

describe('where another attempt counts with the same points', () => {
  it('stands as it was published until it is published again, and that is told', () => {
    begin(onPublishing(facts), { attemptsAllowed: 2, attemptCounts: 'best' });
    // The first attempt of the first student earned 6, the second 4.
    takePaper(school, sittingId, student(), [{ text: '7' }, { text: '0' }], 12);
    const rests = () =>
      review(60)
        .attempts.filter((one) => one.counts)
        .map((one) => one.number);
    publish(30, 3);
    expect([review(31).score?.earned, rests()]).toEqual([6, [1]]);
    must(
      adjustPaper(teacher(40), school.courseId, review(40).attemptId ?? '', {
        points: -4,
        reason: 'made late',
        before: null,
      }),
    );
    const one = must(markedPaper(teacher(42), school.courseId, sittingId, student().userId, 2)).questions[1];
    must(
      adjustMark(teacher(42), school.courseId, one?.slotId ?? '', {
        points: 2,
        reason: 'read anew',
        revision: one?.revision,
        before: one?.markId,
      }),
    );
    // The first attempt has 2 now, the second 6: as many as were published for the first.
    const row = () => must(sittingResults(teacher(43), school.courseId, sittingId)).rows[0];
    expect(row()).toMatchObject({ result: { earned: 6 }, published: { earned: 6 }, changed: true });
    expect(review(43)).toMatchObject({ score: { earned: 6 }, adjusted: [], attempt: 1 });
    publish(50, 1);
    expect(review(51)).toMatchObject({ score: { earned: 6 }, attempt: 2, changed: ['Your attempt 2 counts now.'] });
    expect(message()?.body).toContain('has been published again: 6 of 10 points, as before.');
    expect(rests()).toEqual([2]);
  });
});

describe('where students see their score and nothing of the questions', () => {
  it('no question is named, and the reason is', () => {
    begin(onPublishing(['score']));
    publish(30, 3);
    mendTo('8', 40);
    markAnew('new-key', 41);
    publish(50, 2);
    expect(review(51).changed).toEqual([
      'Your score was 6 of 10 until Mon 2 Mar 2026, 10:50; now it is 10 of 10.',
      '1 of your answers was marked again.',
      'The key of this question was mended, and your answer was marked anew by it. Why: The book says eight.',
    ]);
  });

  it('nothing is told of a score that is hidden', () => {
    begin(onPublishing(['questions']));
    publish(30, 3);
    mendTo('8', 40);
    markAnew('new-key', 41);
    publish(50, 2);
    expect(review(51)).toMatchObject({ score: null, changed: [] });
    expect(mine(51)?.before).toBeNull();
    expect(message()?.body).not.toMatch(/\d/);
  });
});

describe('bands', () => {
  const bands = (...from: [string, number, string?][]) =>
    must(
      saveNumbers(teacher(35), school.courseId, {
        rules: { bands: from.map(([label, at, comment]) => ({ label, from: at, comment: comment ?? '' })) },
      }),
    );
  const changedNow = (later: number) =>
    must(sittingResults(teacher(later), school.courseId, sittingId)).rows.map((row) => row.changed);
  const sheet = () => {
    const layout = { fields: ['score', 'band'], letter: '', signature: '', rightAnswers: false };
    return must(sampleSheet(teacher(60), school.courseId, sittingId, student().userId, layout)).blocks.flatMap((one) =>
      one.kind === 'result' ? one.text : [],
    );
  };

  beforeEach(() => {
    begin(onPublishing(facts));
    bands(['good', 60], ['weak', 0]);
    publish(30, 3);
  });

  it('stay as they were published when boundaries move, and the change waits to be published', () => {
    expect(review(31).score?.band?.label).toBe('good');
    bands(['good', 70], ['weak', 0]);
    expect(review(40).score?.band?.label).toBe('good');
    expect(mine(40)?.score?.band?.label).toBe('good');
    expect(sheet()).toContain('good');
    expect(changedNow(40)).toEqual([true, false, true]);
    expect(changedSince(teacher(40), school.courseId).changed.get(sittingId)?.size).toBe(2);
    publish(50, 2);
    expect(review(51).score?.band?.label).toBe('weak');
    expect(review(51).changed).toEqual(['It was called “good” and is “weak” now, because the bands have changed.']);
    expect(message()?.body).toBe(
      'Your result of Sitting has been published again: 6 of 10 points, as before. What has changed stands under My results.',
    );
    expect(sheet()).toContain('weak');
    expect(changedNow(60)).toEqual([false, false, false]);
  });

  it('given or taken away after publishing are told as that', () => {
    bands();
    expect(review(40).score?.band?.label).toBe('good');
    publish(50, 3);
    expect(review(51)).toMatchObject({ score: { band: null } });
    expect(review(51).changed).toEqual(['The band “good” is no longer given, because the bands have changed.']);
    bands(['fine', 0]);
    publish(60, 3);
    expect(review(61).changed).toEqual(['It is called “fine” now, because the bands have changed.']);
  });

  it('of what was published before they were kept with it are those of today, and wait for nothing', () => {
    school.db.update(publication).set({ told: null }).run();
    bands(['good', 70], ['weak', 0]);
    expect(review(40).score?.band?.label).toBe('weak');
    expect(changedNow(40)).toEqual([false, false, false]);
  });
});
