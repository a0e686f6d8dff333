import { and, eq } from 'drizzle-orm';
import { beforeEach, describe, expect, it } from 'vitest';
import { day, hour, minute } from '@/core/base/time';
import { membership, sitting } from '@/db/schema';
import type { Actor } from '../house/context';
import { removePerson } from '../people/leaving';
import { publishReady, withdrawPublished } from '../release/publish';
import { must, numberContent, refusal, School } from '../testing/school';
import { takePaper } from '../testing/takePaper';
import { addColumn, saveNumbers } from './bookSettings';
import { enterCell } from './entries';
import { gradebook } from './gradebook';
import { myTotal, myTotals, totalAs } from './myTotal';

let school: School;
let quiz: string;
let later: string;
let columnId: string;

const teacher = (at = hour) => school.as(school.teacher, at);
const student = (i = 0) => school.students[i] as Actor;
const mine = (at = hour, i = 0) => must(myTotal(school.as(student(i), at), school.courseId));
const inBook = (i = 0, at = hour) => must(gradebook(teacher(at), school.courseId)).rows[i]?.total;
const publish = (at = 30 * minute) => must(publishReady(teacher(at), school.courseId, quiz, { expected: 2 }));

/** A quiz of 10 points that two of three take, one that is still to come, and a column by hand; students see their total. */
beforeEach(() => {
  school = new School(3);
  const exam = school.exam([
    school.fixed(school.question(numberContent('number', '7')), 6),
    school.fixed(school.question(numberContent('other', '8')), 4),
  ]);
  quiz = school.sitting(exam, { title: 'Quiz' });
  later = school.sitting(exam, { title: 'Final', opens: '2026-03-20T10:00', closes: '2026-03-20T12:00' });
  columnId = must(addColumn(teacher(), school.courseId, { title: 'Oral', worth: 20 })).columnId;
  must(
    saveNumbers(teacher(), school.courseId, {
      rules: {
        showsTotal: true,
        missing: 'zero',
        bands: [
          { label: 'pass', from: 50, comment: '' },
          { label: 'fail', from: 0, comment: '' },
        ],
      },
    }),
  );
  takePaper(school, quiz, student(0), [{ text: '7' }, { text: '0' }]);
  takePaper(school, quiz, student(1), [{ text: '7' }, { text: '8' }]);
});
const enter = (points: number) =>
  must(enterCell(teacher(), school.courseId, columnId, student().userId, { points, before: 0 }));

describe('a student’s own total', () => {
  it('is the gradebook’s, with what it was computed from and what is still to come', () => {
    expect(mine()).toMatchObject({ percent: '', soFar: true, hidden: [] });
    expect(mine().parts[0]?.lines).toEqual([
      'Oral: nothing entered yet, does not count yet.',
      'Quiz: handed in; it counts once your result is published.',
      'Final: still to come, opens Fri 20 Mar 2026, 10:00.',
      'Nothing of this group counts yet.',
    ]);
    publish();
    enter(15);
    const total = mine();
    expect(total).toMatchObject({ percent: '70.0', band: 'pass', soFar: true });
    expect(Number(total.percent)).toBe(inBook());
    expect(total.parts.flatMap((part) => part.lines)).toEqual([
      'Oral: 15 of 20.',
      'Quiz: 6 of 10.',
      'Final: still to come, opens Fri 20 Mar 2026, 10:00.',
      'Together: 21 of 30 points = 70 %, with a weight of 100 %: brings 70 %.',
      'All columns 70 % = 70 %',
    ]);
    expect(total.results).toEqual([{ sittingId: quiz, title: 'Quiz' }]);
    // Once all is over, what was missed counts, and nothing is still to come.
    expect(mine(60 * day)).toMatchObject({ percent: String(inBook(0, 60 * day)?.toFixed(1)), soFar: false });
    expect(myTotals(school.as(student(), hour))).toEqual([total]);
  });

  it('leaves out a score that the student does not see, since the total would tell it', () => {
    publish();
    enter(15);
    school.db.update(sitting).set({ releasePlan: {} }).where(eq(sitting.id, quiz)).run();
    const hidden = mine(2 * hour);
    expect(hidden).toMatchObject({ percent: '75.0', hidden: ['Quiz'], results: [] });
    expect(inBook(0, 2 * hour)).toBe(70);
    expect(JSON.stringify(hidden)).not.toContain('6 of 10');
    expect(hidden.parts[0]?.lines).toContain('Quiz: its score is not shown to you now, so it is not in this total.');
    // The instructor sees the same page.
    expect(must(totalAs(teacher(2 * hour), school.courseId, student().userId))).toEqual({ ...hidden, isShown: true });
  });

  it('follows what is taken back, and what is still to be published', () => {
    publish();
    expect(mine().percent).toBe('60.0');
    must(withdrawPublished(teacher(hour), school.courseId, quiz));
    expect(mine(2 * hour).percent).toBe('');
    expect(mine(2 * hour).parts[0]?.lines[1]).toBe('Quiz: handed in; it counts once your result is published.');
  });

  it('says nothing of what is not theirs, and nothing to others', () => {
    school.db.update(sitting).set({ title: 'SECRETSITTING', state: 'draft' }).where(eq(sitting.id, later)).run();
    publish();
    expect(JSON.stringify(mine())).not.toMatch(/SECRETSITTING|"10 of 10/);
    expect(mine(hour, 1).percent).toBe('100.0');
    expect(refusal(myTotal(teacher(), school.courseId))).toBe('not-allowed');
    expect(refusal(myTotal(school.as(school.elsewhere.teacher), school.courseId))).toBe('not-found');
    expect(refusal(totalAs(school.as(student(), hour), school.courseId, student(1).userId))).toBe('not-allowed');
    expect(refusal(totalAs(teacher(), school.courseId, school.elsewhere.teacher.userId))).toBe('not-found');
  });

  it('stands there only where the course shows it, and stays readable for who has left', () => {
    publish();
    const member = school.db
      .select()
      .from(membership)
      .where(and(eq(membership.courseId, school.courseId), eq(membership.userId, student().userId)))
      .get();
    must(removePerson(teacher(), school.courseId, member?.id ?? ''));
    expect(mine(2 * hour).percent).toBe('60.0');
    expect(myTotals(school.as(student(), 2 * hour))).toEqual([]);
    must(saveNumbers(teacher(3 * hour), school.courseId, { rules: { showsTotal: false } }));
    expect(refusal(myTotal(school.as(student(1), 4 * hour), school.courseId))).toBe('not-found');
    expect(myTotals(school.as(student(1), 4 * hour))).toEqual([]);
    expect(must(totalAs(teacher(4 * hour), school.courseId, student(1).userId)).isShown).toBe(false);
  });
});
