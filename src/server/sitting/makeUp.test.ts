import { eq } from 'drizzle-orm';
import { beforeEach, describe, expect, it } from 'vitest';
import { day, hour, minute } from '@/core/base/time';
import { arrangement, membership, outbox, sitting } from '@/db/schema';
import { startAttempt } from '../attempt/startAttempt';
import { openForWriting } from '../attempt/takeAttempt';
import { saveNumbers } from '../gradebook/bookSettings';
import { gradebook } from '../gradebook/gradebook';
import type { Actor } from '../house/context';
import { publishReady } from '../release/publish';
import { voidAttempt } from '../room/invigilate';
import { must, nothingArranged, numberContent, refusal, School } from '../testing/school';
import { takePaper } from '../testing/takePaper';
import { arrange, makeUp } from './arrange';
import { giveAgain } from './copySitting';

let school: School;
let sittingId: string;
const teacher = (later = 3 * day) => school.as(school.teacher, later);
const student = (i: number) => school.students[i] as Actor;
const give = (i: number, input: object, later?: number) =>
  makeUp(teacher(later), school.courseId, sittingId, student(i).userId, input);
const row = (i: number, later: number) => {
  const found = must(gradebook(teacher(later), school.courseId)).rows[i];
  return [found?.points[0], Object.keys(found?.marks ?? {}).join()];
};

/** A quiz of 40 minutes on the second of March, from 9 to 11 with a last start at 10 and due at 10:30; one student was ill. */
beforeEach(() => {
  school = new School(3);
  sittingId = school.sitting(school.exam([school.fixed(school.question(numberContent('number', '7')), 10)]), {
    opens: '2026-03-02T09:00',
    lastStart: '2026-03-02T10:30',
    due: '2026-03-02T10:45',
    closes: '2026-03-02T11:00',
    timeLimitMinutes: 40,
    attemptsAllowed: 1,
  });
  must(saveNumbers(teacher(), school.courseId, { rules: { missing: 'zero' } }));
  takePaper(school, sittingId, student(0), [{ text: '7' }]);
});

describe('a make-up', () => {
  it('stands in the same column: the 0 is held back, more time stays, and what is written then counts', () => {
    must(
      arrange(teacher(-hour), school.courseId, sittingId, student(2).userId, { ...nothingArranged, extraPercent: 25 }),
    );
    expect(row(2, 3 * day)).toEqual([0, 'missing']);
    must(give(2, { opens: '2026-03-10T14:30', entryCode: 'KELP' }));
    expect(row(2, 4 * day)).toEqual([null, '']);
    const told = school.db
      .select()
      .from(outbox)
      .where(eq(outbox.userId, student(2).userId))
      .all()
      .at(-1);
    expect(told?.body).toContain('Tue 10 Mar 2026, 14:30');
    // Before it, and without the code, nobody starts; then they have their 50 minutes.
    const at = (later: number) => school.as(student(2), later);
    const begins = 8 * day + 4 * hour + 30 * minute;
    expect(refusal(startAttempt(at(4 * day), sittingId))).toBe('too-early');
    expect(refusal(startAttempt(at(begins), sittingId, 'WRONG'))).toBe('not-allowed');
    const { attemptId } = must(startAttempt(at(begins), sittingId, 'KELP'));
    const { standing } = must(openForWriting(at(begins), attemptId));
    expect(standing).toMatchObject({ kind: 'running', deadline: at(begins + 50 * minute).now });
    // Nobody else is let in again.
    expect(refusal(startAttempt(school.as(student(1), begins), sittingId))).toBe('too-late');
    expect(row(1, 9 * day)).toEqual([0, 'missing']);
  });

  it('counts as missing once its own times are over, and is never late by the others’ due', () => {
    must(give(2, { opens: '2026-03-10T14:30', closes: '2026-03-10T16:00' }));
    expect(row(2, 8 * day + 5 * hour)).toEqual([null, '']);
    expect(row(2, 9 * day)).toEqual([0, 'missing']);
    takePaper(school, sittingId, student(2), [{ text: '7' }], 8 * 24 * 60 + 4 * 60 + 30);
    must(publishReady(teacher(9 * day), school.courseId, sittingId, { expected: 2 }));
    expect(row(2, 9 * day)).toEqual([10, '']);
  });

  it('of which the day is not known holds the 0 back until one is', () => {
    must(give(2, { opens: '' }));
    expect(row(2, 4 * day)).toEqual([null, 'excused']);
    must(give(2, { opens: '2026-03-10T14:30' }));
    expect(row(2, 4 * day)).toEqual([null, '']);
    expect(row(2, 9 * day)).toEqual([0, 'missing']);
  });

  it('is given to who came into the course when it was over', () => {
    school.db
      .update(membership)
      .set({ addedAt: teacher(2 * day).now })
      .where(eq(membership.userId, student(2).userId))
      .run();
    expect(row(2, 3 * day)).toEqual([null, 'before-joining']);
    must(give(2, { opens: '2026-03-10T14:30' }));
    takePaper(school, sittingId, student(2), [{ text: '7' }], 8 * 24 * 60 + 4 * 60 + 30);
    expect(row(2, 9 * day)[1]).toBe('not-published');
  });

  it('gives who broke off one attempt more, whether that was voided or handed in', () => {
    const { attemptId } = takePaper(school, sittingId, student(1), [null]);
    must(voidAttempt(teacher(hour), school.courseId, sittingId, attemptId, 'fainted'));
    must(give(1, { opens: '2026-03-10T14:30' }));
    takePaper(school, sittingId, student(1), [{ text: '7' }], 8 * 24 * 60 + 4 * 60 + 30);
    must(give(0, { opens: '2026-03-11T14:30' }, 9 * day));
    takePaper(school, sittingId, student(0), [{ text: '7' }], 9 * 24 * 60 + 4 * 60 + 30);
    const kept = school.db.select().from(arrangement).all();
    expect(kept.map((one) => one.extraAttempts)).toEqual([0, 1]);
  });

  it.each([
    [{ opens: 'soon' }, 'opens'],
    [{ opens: '2026-03-29T02:30', zone: 'Europe/Oslo' }, 'opens'],
    [{ opens: '2026-03-10T14:30', closes: '2026-03-10T14:00' }, 'closes'],
  ])(
    '%o is refused at its field, and changes nothing',
    ({ zone, ...input }: { opens: string; closes?: string; zone?: string }, field) => {
      const answer = give(2, input);
      if (zone && answer.ok) return;
      expect(answer.ok ? '' : answer.problems[0]?.field).toBe(field);
      expect(school.db.select().from(arrangement).all()).toEqual([]);
    },
  );

  it('is not given while they write, in a draft, or to somebody else', () => {
    const { attemptId } = must(startAttempt(school.as(student(1), 20 * minute), sittingId));
    expect(attemptId).toBeTruthy();
    expect(refusal(give(1, { opens: '2026-03-10T14:30' }, 21 * minute))).toBe('conflict');
    const stranger = makeUp(teacher(), school.courseId, sittingId, school.elsewhere.teacher.userId, {
      opens: '2026-03-10T14:30',
    });
    expect(refusal(stranger)).toBe('not-found');
    school.db.update(sitting).set({ state: 'draft' }).where(eq(sitting.id, sittingId)).run();
    expect(refusal(give(2, { opens: '2026-03-10T14:30' }))).toBe('conflict');
  });
});

describe('a sitting given again', () => {
  it('takes more time along, and neither the dates nor the codes of one student', () => {
    must(
      arrange(teacher(-hour), school.courseId, sittingId, student(2).userId, {
        ...nothingArranged,
        extraMinutes: 15,
        closes: '2026-03-05T11:00',
        entryCode: 'KELP',
      }),
    );
    must(arrange(teacher(-hour), school.courseId, sittingId, student(1).userId, { ...nothingArranged, excused: true }));
    const copy = must(giveAgain(teacher(), school.courseId, sittingId, '2026-04-06')).sittingId;
    expect(school.db.select().from(arrangement).where(eq(arrangement.sittingId, copy)).all()).toMatchObject([
      { userId: student(2).userId, extraMinutes: 15, closes: null, entryCode: null, excused: false },
    ]);
  });
});
