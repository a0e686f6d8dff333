import { eq } from 'drizzle-orm';
import { beforeEach, describe, expect, it } from 'vitest';
import { minute } from '@/core/base/time';
import { publishingNumbers } from '@/core/release/publishingNumbers';
import { attempt, audit, mark, outbox, publication, sitting, user } from '@/db/schema';
import { seeReceipt } from '../attempt/handIn';
import { desk } from '../desk/desk';
import { gradebook } from '../gradebook/gradebook';
import { gradebookSheet } from '../gradebook/gradeSheets';
import type { Actor } from '../house/context';
import { answersToMark } from '../marking/answersToMark';
import { giveMark } from '../marking/giveMark';
import { markingQueue, waitingForMarks } from '../marking/markingQueue';
import { changePerson } from '../people/changePerson';
import { listPeople } from '../people/roster';
import { must, numberContent, refusal, School, writtenContent } from '../testing/school';
import { takePaper } from '../testing/takePaper';
import { myResults } from './myResults';
import { publishReady, withdrawPublished } from './publish';
import { sittingResults } from './results';

let school: School;
let sittingId: string;
let essay: string;

/** Two questions: a number for 4 points and an essay for 6; the exam is worth 20. */
beforeEach(() => {
  school = new School(3);
  essay = school.question(writtenContent('essay'));
  const number = school.question(numberContent('number', '7'));
  sittingId = school.sitting(school.exam([school.fixed(number, 4), school.fixed(essay, 6)], 20));
});

const take = (student: Actor, number: string, text: string): string =>
  takePaper(school, sittingId, student, [{ text: number }, text ? { text } : null]).attemptId;

const teacher = (later = 20 * minute) => school.as(school.teacher, later);
const page = () => must(answersToMark(teacher(), school.courseId, sittingId, essay));
const give = (slotId: string, points: number, before: number | null, more: object = {}) =>
  giveMark(teacher(), school.courseId, slotId, { points, comment: '', revision: 1, before, ...more });
const numbers = () => publishingNumbers(must(sittingResults(teacher(), school.courseId, sittingId)).rows);
const [one, two, three] = [0, 1, 2].map((i) => () => school.students[i] as Actor) as [
  () => Actor,
  () => Actor,
  () => Actor,
];

describe('marking by hand', () => {
  it('hides names and keeps one marker’s order, which differs from another’s', () => {
    const many = new School(12);
    school = many;
    essay = many.question(writtenContent('essay'));
    sittingId = many.sitting(many.exam([many.fixed(many.question(numberContent('n', '7')), 4), many.fixed(essay, 6)]), {
      markerIds: [many.marker.userId],
    });
    for (const student of many.students) take(student, '7', `The answer of ${student.userId}`);
    const order = (actor: Actor) =>
      must(answersToMark(many.as(actor, 20 * minute), many.courseId, sittingId, essay)).heads.map(
        (head) => head.slotId,
      );
    expect(order(many.teacher)).toEqual(order(many.teacher));
    expect(order(many.teacher)).not.toEqual(order(many.marker));
    const sent = JSON.stringify(
      must(answersToMark(many.as(many.marker, 20 * minute), many.courseId, sittingId, essay)),
    );
    for (const student of many.students) expect(sent).not.toContain(student.name);
  });

  it('adds marks and never changes one; the newest counts', () => {
    take(one(), '7', 'an answer');
    const slotId = page().bodies[0]?.slotId ?? '';
    must(give(slotId, 3, null));
    must(give(slotId, 4.5, page().bodies[0]?.markId ?? null, { comment: 'better than I thought' }));
    expect(
      school.db
        .select()
        .from(mark)
        .where(eq(mark.slotId, slotId))
        .all()
        .map((row) => row.points),
    ).toEqual([3, 4.5]);
    expect(page().bodies[0]).toMatchObject({ points: 4.5, comment: 'better than I thought' });
  });

  it('refuses points above the question’s, below 0, without a number, over another’s unseen mark, or for an older answer', () => {
    take(one(), '7', 'an answer');
    const slotId = page().bodies[0]?.slotId ?? '';
    expect(refusal(give(slotId, 6.5, null))).toBe('bad-input');
    expect(refusal(give(slotId, -1, null))).toBe('bad-input');
    expect(refusal(give(slotId, Number.NaN, null))).toBe('bad-input');
    expect(refusal(give(slotId, 3, null, { revision: 0 }))).toBe('conflict');
    must(give(slotId, 3, null));
    expect(refusal(give(slotId, 5, null))).toBe('conflict');
    expect(page().bodies[0]?.points).toBe(3);
  });

  it('lets a marker mark only what is assigned', () => {
    take(one(), '7', 'an answer');
    const slotId = page().bodies[0]?.slotId ?? '';
    const marker = school.as(school.marker, 20 * minute);
    expect(must(markingQueue(marker, school.courseId))).toEqual([]);
    expect(waitingForMarks(marker, school.courseId)).toBe(0);
    expect(refusal(answersToMark(marker, school.courseId, sittingId, essay))).toBe('not-found');
    expect(
      refusal(giveMark(marker, school.courseId, slotId, { points: 1, comment: '', revision: 1, before: null })),
    ).toBe('not-found');
    expect(refusal(markingQueue(school.as(one()), school.courseId))).toBe('not-allowed');
    expect(
      refusal(
        giveMark(school.as(school.elsewhere.teacher), school.elsewhere.courseId, slotId, {
          points: 1,
          comment: '',
          revision: 1,
          before: null,
        }),
      ),
    ).toBe('not-found');
  });

  it('leaves out empty answers, which have their 0 already', () => {
    take(one(), '7', '');
    take(two(), '7', 'words');
    expect(must(markingQueue(teacher(), school.courseId))).toMatchObject([{ waiting: 1, marked: 0 }]);
    expect(page().bodies).toHaveLength(1);
  });
});

describe('publishing', () => {
  beforeEach(() => {
    take(one(), '7', 'good');
    take(two(), '8', 'middling');
  });

  it('says in numbers what will happen, acts on exactly those, and stores a copy', () => {
    expect(numbers()).toMatchObject({ ready: 0, changed: 0, stillToMark: 2, notHandedIn: 1, running: 0, published: 0 });
    must(give(page().bodies[0]?.slotId ?? '', 5, null));
    expect(numbers()).toMatchObject({ ready: 1, stillToMark: 1 });
    expect(refusal(publishReady(teacher(), school.courseId, sittingId, { expected: 2 }))).toBe('conflict');
    expect(school.db.select().from(publication).all()).toHaveLength(0);
    expect(must(publishReady(teacher(), school.courseId, sittingId, { expected: 1 }))).toEqual({ published: 1 });
    expect(numbers()).toMatchObject({ ready: 0, published: 1, stillToMark: 1 });
    expect(
      school.db
        .select()
        .from(outbox)
        .all()
        .filter((message) => message.subject === 'Sitting: your result'),
    ).toHaveLength(1);
    expect(school.db.select().from(audit).where(eq(audit.action, 'results.publish')).all()).toHaveLength(1);
  });

  it('keeps what was published until the change is published too', () => {
    const answers = page().bodies;
    for (const answer of answers) must(give(answer.slotId, 3, null));
    must(publishReady(teacher(), school.courseId, sittingId, { expected: 2 }));
    must(
      give(answers[0]?.slotId ?? '', 6, page().bodies.find((one) => one.slotId === answers[0]?.slotId)?.markId ?? null),
    );
    const shown = () =>
      school.students.flatMap((student) =>
        myResults(school.as(student, 30 * minute)).map((result) => result.score?.earned),
      );
    expect(shown().sort()).toEqual([3, 7]);
    expect(numbers()).toMatchObject({ ready: 1, changed: 1 });
    expect(must(desk(teacher(), school.courseId)).changedSince).toMatchObject([{ sittingId, count: 1 }]);
    must(publishReady(teacher(), school.courseId, sittingId, { expected: 1 }));
    expect(must(desk(teacher(), school.courseId)).changedSince).toEqual([]);
    expect(numbers()).toMatchObject({ ready: 0, changed: 0, published: 2 });
    expect(school.db.select().from(publication).all()).toHaveLength(3);
  });

  it('shows the instructor the code that stands on the student’s receipt', () => {
    const attemptId = school.db.select().from(attempt).where(eq(attempt.userId, one().userId)).get()?.id ?? '';
    const { code } = must(seeReceipt(school.as(one(), 12 * minute), attemptId));
    const rows = must(sittingResults(teacher(), school.courseId, sittingId)).rows;
    expect(rows.find((row) => row.userId === one().userId)?.receipt).toBe(code);
    expect(rows.find((row) => row.userId === three().userId)?.receipt).toBeNull();
  });

  it('can be taken back, and then nobody sees anything', () => {
    for (const answer of page().bodies) must(give(answer.slotId, 3, null));
    must(publishReady(teacher(), school.courseId, sittingId, { expected: 2 }));
    expect(must(withdrawPublished(teacher(), school.courseId, sittingId))).toEqual({ withdrawn: 2 });
    for (const student of [one(), two()]) {
      const [shown] = myResults(school.as(student, 30 * minute));
      expect(shown).toMatchObject({ score: null, visible: [], takenBack: teacher().now });
      // They are told, so that nobody looks for it in vain.
      const told = school.db.select().from(outbox).where(eq(outbox.userId, student.userId)).all().at(-1);
      expect(told?.subject).toBe('Sitting: your result was taken back');
    }
    expect(numbers()).toMatchObject({ ready: 2, published: 0 });
    expect(school.db.select().from(publication).all()).toHaveLength(2);
  });

  it('shows a student nothing before, and a plan without the score nothing at all', () => {
    for (const answer of page().bodies) must(give(answer.slotId, 3, null));
    expect(myResults(school.as(one(), 30 * minute))).toEqual([]);
    must(publishReady(teacher(), school.courseId, sittingId, { expected: 2 }));
    expect(myResults(school.as(one(), 30 * minute))).toMatchObject([{ score: { earned: 7, possible: 10 } }]);
    school.db.update(sitting).set({ releasePlan: {} }).run();
    expect(myResults(school.as(one(), 30 * minute))).toEqual([]);
  });

  it('is the instructor’s alone, and of this course', () => {
    expect(refusal(publishReady(school.as(one()), school.courseId, sittingId, { expected: 0 }))).toBe('not-allowed');
    expect(refusal(publishReady(school.as(school.marker), school.courseId, sittingId, { expected: 0 }))).toBe(
      'not-allowed',
    );
    expect(
      refusal(publishReady(school.as(school.elsewhere.teacher), school.elsewhere.courseId, sittingId, { expected: 0 })),
    ).toBe('not-found');
    expect(refusal(sittingResults(school.as(one()), school.courseId, sittingId))).toBe('not-allowed');
  });

  it('hides names from a guest', () => {
    const guest = school.add('Gina Guest', 'guest');
    // A name that is not by chance what stands in its place.
    school.db.update(user).set({ name: 'Ada Lund' }).where(eq(user.id, one().userId)).run();
    const seen = must(sittingResults(school.as(guest, 20 * minute), school.courseId, sittingId));
    const attempts = school.db.select().from(attempt).all();
    const codes = must(sittingResults(teacher(20 * minute), school.courseId, sittingId)).rows.flatMap(
      (row) => row.receipt ?? [],
    );
    expect([attempts.length, codes.length]).toEqual([2, 2]);
    for (const known of [
      'Ada Lund',
      ...attempts.map((attempt) => attempt.id),
      ...codes,
      ...school.students.map((who) => who.userId),
    ])
      expect(JSON.stringify(seen)).not.toContain(known);
    expect(seen.rows.map((row) => row.name)).toEqual(['Student 1', 'Student 2', 'Student 3']);
    expect(seen.rows.every((row) => row.userId === '')).toBe(true);
  });
});

describe('the gradebook', () => {
  it('scales what is published to what the exam is worth, and leaves the rest out', () => {
    take(one(), '7', 'good');
    take(two(), '8', 'middling');
    for (const answer of page().bodies) must(give(answer.slotId, 6, null));
    const before = must(gradebook(teacher(), school.courseId));
    expect(before.columns).toMatchObject([{ id: sittingId, worth: 20 }]);
    const waits = { 'not-published': [0] };
    expect(before.rows.map((row) => row.marks)).toEqual([waits, waits, {}]);
    must(publishReady(teacher(), school.courseId, sittingId, { expected: 2 }));
    const rows = must(gradebook(teacher(), school.courseId)).rows;
    expect(rows.map((row) => row.points[0])).toEqual([20, 12, null]);
    expect(rows.map((row) => row.total)).toEqual([100, 60, null]);
    expect(three().name).toBe(rows[2]?.name);
  });

  it('goes out as CSV that a spreadsheet opens safely', async () => {
    const person = must(listPeople(teacher(), school.courseId)).people.find((row) => row.name === 'Student 1');
    must(
      changePerson(teacher(), school.courseId, person?.membershipId ?? '', {
        section: '=HYPERLINK("x")',
        studentNumber: '+41',
        extraPercent: 0,
      }),
    );
    const { bytes, fileName } = must(await gradebookSheet(teacher(), school.courseId, { format: 'csv', names: true }));
    const text = new TextDecoder('utf-8', { ignoreBOM: true }).decode(bytes);
    expect(fileName).toBe('Seamanship-gradebook.csv');
    expect(text.charCodeAt(0)).toBe(0xfeff);
    expect(text.split('\r\n')[0]).toBe('\ufeffName,Student number,Email,Section,Sitting (of 20),Total %');
    expect(text).toContain(`Student 1,'+41,student.1@school.example,"'=HYPERLINK(""x"")"`);
    expect(refusal(await gradebookSheet(school.as(one()), school.courseId, { format: 'csv', names: true }))).toBe(
      'not-allowed',
    );
  });
});
