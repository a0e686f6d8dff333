import { eq } from 'drizzle-orm';
import { describe, expect, it } from 'vitest';
import { day, hour } from '@/core/base/time';
import { course, membership, publication, question, sitting } from '@/db/schema';
import type { Actor } from '../house/context';
import { publishReady } from '../release/publish';
import { arrange } from '../sitting/arrange';
import { createSitting } from '../sitting/sittings';
import { must, nothingArranged, numberContent, School } from '../testing/school';
import { takePaper } from '../testing/takePaper';
import { desk } from './desk';
import { studentLine } from './term';

describe('the desk', () => {
  it('says the next step of the way to a first sitting, one at a time, and none once one is scheduled', () => {
    const school = new School(1);
    const next = () => must(desk(school.as(school.teacher), school.courseId)).next;
    const students = school.db.select().from(membership).where(eq(membership.role, 'student')).all();
    school.db.update(membership).set({ removedAt: 1 }).where(eq(membership.role, 'student')).run();
    expect(next()).toBe('people');
    school.db
      .update(membership)
      .set({ removedAt: null })
      .where(eq(membership.id, students[0]?.id ?? ''))
      .run();
    school.db.update(question).set({ retiredAt: 1 }).run();
    expect(next()).toBe('banks');
    const number = school.question(numberContent('number', '7'));
    expect(next()).toBe('exams');
    const examId = school.exam([school.fixed(number, 1)]);
    expect(next()).toBe('sittings');
    must(createSitting(school.as(school.teacher), school.courseId, { examId }));
    expect(next()).toBe('sittings');
    school.sitting(examId);
    expect(next()).toBeNull();
  });

  it('begins with the term on one line: weeks, free days, sittings, and when results came or come', () => {
    const school = new School(1);
    school.db
      .update(course)
      .set({ firstDay: '2026-02-16', freeDays: [{ from: '2026-03-09', to: '2026-03-13', name: 'Field week' }] })
      .run();
    const examId = school.exam([school.fixed(school.question(numberContent('number', '7')), 1)]);
    const sittingId = school.sitting(examId, { opens: '2026-03-02T09:00', closes: '2026-03-03T09:00' });
    const later = school.sitting(examId, {
      opens: '2026-03-20T09:00',
      closes: '2026-03-20T10:00',
      releasePlan: { score: [{ begins: { kind: 'after-closing', days: 2 } }] },
    });
    const line = (at: number) => must(desk(school.as(school.teacher, at), school.courseId)).line;
    const bar = (id: string, at = 0) => line(at)?.bars.find((one) => one.id === id);
    expect(line(0)?.weeks.map((one) => one.week)).toEqual([1, 2, 3, null, 4]);
    expect(line(0)?.free.map((one) => one.name)).toEqual(['Field week']);
    expect(bar(sittingId)?.results).toBeNull();
    expect(bar(later)?.results).toBe(Date.parse('2026-03-22T09:00Z'));
    takePaper(school, sittingId, school.students[0] as Actor, [{ text: '7' }]);
    must(publishReady(school.as(school.teacher, hour), school.courseId, sittingId, { expected: 1 }));
    expect(bar(sittingId, 2 * hour)?.results).toBe(school.as(school.teacher, hour).now);
    school.db.update(publication).set({ withdrawnAt: 1 }).run();
    expect(bar(sittingId, 2 * hour)?.results).toBeNull();
    expect(school.db.select().from(sitting).all()).toHaveLength(2);
  });
});

describe('the line of a student', () => {
  it('holds their own times over all courses, without what they are excused from, and says two exams on a day', () => {
    const school = new School(2);
    const student = school.students[0] as Actor;
    const examId = school.exam([school.fixed(school.question(numberContent('number', '7')), 1)]);
    const on = (title: string, from: string, to: string) =>
      school.sitting(examId, { title, opens: `2026-03-${from}`, closes: `2026-03-${to}` });
    on('Theory', '11T09:00', '11T11:00');
    const moved = on('Weather', '12T09:00', '12T11:00');
    const excused = on('Knots', '11T15:00', '11T16:00');
    const line = () => studentLine(school.as(student, day));
    expect(line()?.together).toEqual([{ day: 'Wed 11 Mar', titles: ['Theory', 'Knots'] }]);
    const set = (id: string, more: object) =>
      must(arrange(school.as(school.teacher), school.courseId, id, student.userId, { ...nothingArranged, ...more }));
    set(excused, { excused: true });
    expect(line()?.together).toEqual([]);
    set(moved, { opens: '2026-03-11T13:00', closes: '2026-03-11T15:00' });
    expect(line()?.together).toEqual([{ day: 'Wed 11 Mar', titles: ['Theory', 'Weather'] }]);
    expect(line()?.line.bars.map((one) => one.title)).toEqual(['Theory', 'Weather']);
    // Nobody else's times are theirs.
    expect(studentLine(school.as(school.students[1] as Actor, day))?.together[0]?.titles).toEqual(['Theory', 'Knots']);
    expect(studentLine(school.as(school.teacher, day))).toBeNull();
  });
});
