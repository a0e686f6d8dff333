import { eq } from 'drizzle-orm';
import { beforeEach, describe, expect, it } from 'vitest';
import { instantFromLocal, localFromInstant } from '@/core/base/localTime';
import { exam, examRevision, membership, sitting, sittingAudience } from '@/db/schema';
import { listExams, openExam } from '../exam/exams';
import { archiveExam } from '../exam/keepExams';
import { courseNotes, openNotes, tickNote } from '../people/courseNotes';
import { changeCourse, courseFields } from '../people/courses';
import { listPeople } from '../people/roster';
import { arrange } from '../sitting/arrange';
import { giveAgain } from '../sitting/copySitting';
import { openSitting } from '../sitting/openSitting';
import { must, refusal, School } from '../testing/school';
import { beginNextTerm, planNextTerm } from './nextTerm';

let school: School;
const zone = 'Europe/Oslo';
// The school's clock begins on Monday 2 March 2026, in week 9 of a term that began on 5 January.
const before = { firstDay: '2026-01-05', freeDays: [] };
const after = { firstDay: '2026-08-17', freeDays: [{ from: '2026-10-12', to: '2026-10-12', name: 'Founders’ day' }] };
const asked = { name: 'Seamanship', term: 'Autumn 2026', before, after, staff: true };
const teacher = () => school.as(school.teacher);

beforeEach(() => {
  school = new School(2);
});

describe('the next term of a course', () => {
  it('takes exams and sittings over, each date to its teaching week, and leaves students behind', () => {
    const weekly = school.exam([school.draw(2)].map((line) => line));
    school.questions(4);
    const cumulative = school.exam([
      {
        kind: 'draw',
        id: 'from-weekly',
        count: 1,
        points: 1,
        pool: { categories: [], exams: [weekly], difficulties: [] },
      },
    ]);
    const given = school.sitting(cumulative, { title: 'Cumulative' });
    const student = school.students[0] as { userId: string };
    must(
      arrange(teacher(), school.courseId, given, student.userId, {
        extraPercent: 25,
        extraMinutes: 0,
        extraAttempts: 0,
        excused: false,
      }),
    );

    const plan = must(planNextTerm(teacher(), school.courseId, asked));
    expect(plan.leftBehind.students).toBe(2);
    expect(plan.sittings[0]?.moments.map(({ what, after: at, place }) => [what, at, place])).toEqual([
      ['opens', 'Tue 13 Oct 2026, 10:00', 'Mon of week 9, now Tue of week 9'],
      ['closes', 'Wed 14 Oct 2026, 10:00', 'Wed of week 9'],
    ]);
    expect(plan.sittings[0]?.looks).toEqual([
      'Opens would fall on Founders’ day: moved to Tue 13 Oct 2026, 10:00.',
      'One arrangement for a student is not taken over.',
    ]);

    const { courseId } = must(beginNextTerm(teacher(), school.courseId, asked));
    const copies = school.db.select().from(exam).where(eq(exam.courseId, courseId)).all();
    expect(copies.map((one) => [one.title, one.year])).toEqual([
      ['Exam', 'Autumn 2026'],
      ['Exam', 'Autumn 2026'],
    ]);
    const copyOfWeekly = copies[0]?.id;
    const designs = school.db
      .select()
      .from(examRevision)
      .where(eq(examRevision.examId, copies[1]?.id ?? ''))
      .all();
    const [line] = designs[0]?.design.parts[0]?.lines ?? [];
    expect(line?.kind === 'draw' && [line.pool.exams, line.id === 'from-weekly']).toEqual([[copyOfWeekly], false]);
    const [copy] = school.db.select().from(sitting).where(eq(sitting.courseId, courseId)).all();
    expect([copy?.state, copy?.title, localFromInstant(copy?.opens ?? 0, zone)]).toEqual([
      'draft',
      'Cumulative',
      '2026-10-13T10:00',
    ]);
    expect(
      must(openSitting(teacher(), courseId, copy?.id ?? '')).findings.filter((one) => one.field === 'exam'),
    ).toEqual([]);
    expect(
      must(listPeople(teacher(), courseId))
        .people.map((one) => one.role)
        .sort(),
    ).toEqual(['instructor', 'marker']);

    const notes = must(courseNotes(teacher(), courseId));
    expect(notes.map((note) => [note.about, note.title])).toEqual([
      ['course', 'Seamanship'],
      ['sitting', 'Cumulative'],
      ['sitting', 'Cumulative'],
    ]);
    must(tickNote(teacher(), courseId, notes[1]?.id ?? '', true));
    expect(openNotes(school.db, courseId)).toBe(2);
    expect(must(courseNotes(teacher(), courseId)).at(-1)?.done).toBe(true);
    // The old course stays as it is, but knows its term now.
    expect(school.db.select().from(sitting).where(eq(sitting.id, given)).get()?.state).toBe('scheduled');
    expect(must(courseFields(teacher(), school.courseId)).firstDay).toBe('2026-01-05');
  });

  it('lists what an exam loses, and who has to be named anew', () => {
    school.questions(3);
    const gone = school.exam([school.draw(1)]);
    const from = school.exam([
      {
        kind: 'draw',
        id: 'from-gone',
        count: 1,
        points: 1,
        pool: { categories: [], exams: [gone], difficulties: [], restDays: 30 },
      },
    ]);
    must(archiveExam(teacher(), school.courseId, gone, true));
    const sittingId = school.sitting(from);
    school.db.delete(sittingAudience).where(eq(sittingAudience.sittingId, sittingId)).run();
    school.db
      .insert(sittingAudience)
      .values({ sittingId, kind: 'student', refId: school.students[0]?.userId ?? '' })
      .run();
    const plan = must(planNextTerm(teacher(), school.courseId, { ...asked, after: { ...after, freeDays: [] } }));
    expect(plan.exams.map((one) => one.looks)).toEqual([
      [
        'It draws from the questions of “Exam”, which is archived and stays behind.',
        'One draw rests questions used of late: look at the pools again.',
      ],
    ]);
    expect(plan.sittings[0]?.looks).toEqual(['It was given to one student by name: say who takes it now.']);
    const { courseId } = must(beginNextTerm(teacher(), school.courseId, asked));
    const [copy] = must(listExams(teacher(), courseId));
    const problems = must(openExam(teacher(), courseId, copy?.id ?? '')).check.problems;
    expect(problems.map((one) => one.code)).toContain('exam-missing');
    const [given] = school.db.select().from(sitting).where(eq(sitting.courseId, courseId)).all();
    expect(must(openSitting(teacher(), courseId, given?.id ?? '')).audience).toEqual([]);
  });

  it('is made once, by an instructor, from terms that can be understood', () => {
    const begin = (input: unknown, who = school.teacher) =>
      refusal(beginNextTerm(school.as(who), school.courseId, input));
    expect(begin({ ...asked, after: { ...after, firstDay: '2026-02-30' } })).toBe('bad-input');
    expect(
      begin({ ...asked, after: { ...after, freeDays: [{ from: '2026-09-02', to: '2026-09-01', name: '' }] } }),
    ).toBe('bad-input');
    expect(begin({ ...asked, term: ' ' })).toBe('bad-input');
    expect(begin(asked, school.marker)).toBe('not-allowed');
    expect(begin(asked, school.elsewhere.teacher)).toBe('not-found');
    expect(begin({ ...asked, staff: false })).toBe('accepted');
    expect(begin(asked)).toBe('conflict');
    const made = school.db
      .select()
      .from(membership)
      .all()
      .filter((one) => one.courseId !== school.courseId && one.userId === school.teacher.userId);
    expect(made).toHaveLength(1);
  });

  it('a course keeps when it teaches', () => {
    const fields = { name: 'Seamanship', term: 'Spring', timeZone: zone, firstDay: '', freeDays: [] };
    must(changeCourse(teacher(), school.courseId, { ...fields, ...after }));
    expect(must(courseFields(teacher(), school.courseId))).toMatchObject(after);
    must(changeCourse(teacher(), school.courseId, fields));
    expect(must(courseFields(teacher(), school.courseId)).firstDay).toBe('');
  });
});

describe('a sitting given again', () => {
  it('is a draft with the rules and people of the earlier one, and its dates as many days later', () => {
    school.questions(2);
    const sittingId = school.sitting(school.exam([school.draw(1)]), {
      markerIds: [school.marker.userId],
      attemptsAllowed: 3,
    });
    const next = must(giveAgain(teacher(), school.courseId, sittingId, '2026-04-06')).sittingId;
    const opened = must(openSitting(teacher(), school.courseId, next));
    expect(opened.sitting).toMatchObject({
      state: 'draft',
      attemptsAllowed: 3,
      // 10:00 in Oslo on both days, though the clock has changed in between.
      opens: instantFromLocal('2026-04-06T10:00', zone),
      closes: instantFromLocal('2026-04-08T10:00', zone),
    });
    expect([opened.audience.length, opened.markers.filter((one) => one.assigned).length]).toEqual([2, 1]);
    expect(refusal(giveAgain(teacher(), school.courseId, sittingId, 'soon'))).toBe('bad-input');
    expect(refusal(giveAgain(school.as(school.marker), school.courseId, sittingId, '2026-04-06'))).toBe('not-allowed');
  });
});
