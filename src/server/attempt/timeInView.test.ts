import { eq } from 'drizzle-orm';
import { beforeEach, describe, expect, it } from 'vitest';
import { minute } from '@/core/base/time';
import { paperSlot } from '@/db/schema';
import { courseSnapshot } from '../bank/courseSnapshot';
import type { Actor } from '../house/context';
import { must, School } from '../testing/school';
import { handIn } from './handIn';
import { startAttempt } from './startAttempt';

let school: School;
let sittingId: string;
let questionId: string;

beforeEach(() => {
  school = new School(5);
  [questionId] = school.questions(2) as [string];
  sittingId = school.sitting(school.exam([school.fixed(questionId)]));
});

/** A student takes the paper for ten minutes, and the browser says how long the question was in view. */
function take(student: Actor, said: (slotId: string) => unknown): void {
  const { attemptId } = must(startAttempt(school.as(student, minute), sittingId));
  const slotId = school.db.select().from(paperSlot).where(eq(paperSlot.attemptId, attemptId)).get()?.id ?? '';
  must(handIn(school.as(student, 11 * minute), attemptId, said(slotId)));
}
const question = () =>
  courseSnapshot(school.db, school.courseId, { now: school.as(school.teacher).now }).snapshot.entries.find(
    (entry) => entry.questionId === questionId,
  );
const stored = () =>
  school.db
    .select()
    .from(paperSlot)
    .all()
    .map((slot) => slot.inView);

describe('how long a question was in view', () => {
  it('makes the expected minutes give way to the observed median', () => {
    const before = question()?.minutes ?? 0;
    expect(question()?.timed).toBe(0);
    for (const [i, minutes] of [1, 2, 3, 9].entries())
      take(school.students[i] as Actor, (slotId) => ({ inView: { [slotId]: minutes * minute } }));
    // The median of 1, 2, 3 and 9 is 2.5: (4 · 2.5 + 10 · expected) / 14.
    expect(question()?.minutes).toBeCloseTo((4 * 2.5 + 10 * before) / 14, 12);
    expect(question()?.timed).toBe(4);
  });

  it('is left out where it cannot be true, and no hand-in is lost for it', () => {
    const said: ((slotId: string) => unknown)[] = [
      (slotId) => ({ inView: { [slotId]: 11 * minute } }),
      (slotId) => ({ inView: { [slotId]: -5 } }),
      () => ({ inView: 'long' }),
      () => 'nothing that can be read',
      () => ({ inView: { 'another-slot': minute } }),
    ];
    said.forEach((one, i) => {
      take(school.students[i] as Actor, one);
    });
    expect(stored()).toEqual([null, null, null, null, null]);
  });
});
