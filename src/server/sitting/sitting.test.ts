import { eq } from 'drizzle-orm';
import { beforeEach, describe, expect, it } from 'vitest';
import { localFromInstant } from '@/core/base/localTime';
import { richText } from '@/core/base/rich';
import { hour } from '@/core/base/time';
import type { ExamLine } from '@/core/exam/design';
import { examRevision, outbox, sitting } from '@/db/schema';
import { startAttempt } from '../attempt/startAttempt';
import { createExam, listExams, openExam, saveExam } from '../exam/exams';
import { samplePaper } from '../exam/samplePaper';
import { addRoster, listPeople } from '../people/roster';
import { begins, must, refusal, School, writtenContent } from '../testing/school';
import { arrange } from './arrange';
import { keepAsUsual } from './keepAsUsual';
import { openSitting } from './openSitting';
import { saveSitting } from './saveRules';
import { scheduleSitting } from './schedule';
import { createSitting, listSittings } from './sittings';

let school: School;
const teacher = (later = -hour) => school.as(school.teacher, later);

beforeEach(() => {
  school = new School(2);
});

describe('what waits for a person on a paper', () => {
  it('is counted once, and as many at most where it hangs on the draw', () => {
    const [choice] = school.questions(2);
    const one = school.question(writtenContent('one'));
    const said = (lines: ExamLine[]) => {
      const { sittingId } = must(createSitting(teacher(), school.courseId, { examId: school.exam(lines) }));
      const { findings } = must(openSitting(teacher(), school.courseId, sittingId));
      return findings.find((found) => found.key === 'nobody-marks')?.message.split(' to be')[0];
    };
    expect(said([school.fixed(choice as string)])).toBeUndefined();
    // What is fixed is drawn by nobody: it was counted twice.
    expect(said([school.fixed(one), school.draw(2)])).toBe('Every paper has 1 answer');
    expect(said([school.draw(1)])).toBe('A paper has at most 1 answer');
    expect(said([school.draw(3)])).toBe('Every paper has 1 answer');
  });
});

describe('an exam', () => {
  it('is saved as a revision that a scheduled sitting pins, and edited into the next', () => {
    school.questions(4);
    const examId = school.exam([school.draw(2)]);
    const sittingId = school.sitting(examId);
    const exam = must(openExam(teacher(), school.courseId, examId));
    expect(exam).toMatchObject({ revision: 1, frozen: true });
    const [part] = exam.design.parts;
    if (!part) throw new Error('A part');
    const saved = must(
      saveExam(teacher(), school.courseId, examId, {
        title: 'Exam',
        edit: exam.edit,
        design: { ...exam.design, parts: [{ ...part, lines: [school.draw(3)] }] },
      }),
    );
    expect(saved.revision).toBe(2);
    expect(must(openSitting(teacher(), school.courseId, sittingId)).questions).toBe(2);
    expect(school.db.select().from(examRevision).all()).toHaveLength(2);
  });

  it('tells the second of two editors, and refuses what cannot be', () => {
    const [id] = school.questions(2);
    const examId = school.exam([school.draw(1)]);
    const { edit, design } = must(openExam(teacher(), school.courseId, examId));
    const [part] = design.parts;
    if (!part) throw new Error('A part');
    const save = (lines: unknown[], on = edit) =>
      saveExam(teacher(), school.courseId, examId, {
        title: 'Exam',
        edit: on,
        design: { ...design, parts: [{ ...part, lines }] },
      });
    expect(refusal(save([school.draw(1)], edit - 1))).toBe('conflict');
    for (const bad of [
      { ...school.draw(1), count: 0 },
      { ...school.draw(1), count: 1.5 },
      { ...school.draw(1), points: 0 },
      { ...school.draw(1), points: -2 },
      { ...school.draw(1), points: 1e9 },
    ])
      expect(refusal(save([bad]))).toBe('bad-input');
    expect(refusal(save([school.fixed('question-of-nobody')]))).toBe('not-found');
    const line = school.fixed(id ?? '');
    expect(refusal(save([line, line]))).toBe('bad-input');
    must(save([line]));
  });

  it('shows sample papers that store and freeze nothing', () => {
    school.questions(6);
    const examId = school.exam([school.draw(3)]);
    const paper = (seed: string) =>
      must(samplePaper(teacher(), school.courseId, examId, seed)).slots.map((slot) => richText(slot.content.stem));
    expect(paper('1')).toEqual(paper('1'));
    expect(new Set(['1', '2', '3', '4', '5', '6'].map((seed) => paper(seed).join())).size).toBeGreaterThan(1);
    expect(
      school.db.$client.prepare('select count(*) as n from question_version where frozen_at is not null').get(),
    ).toEqual({ n: 0 });
  });

  it('is not for students to see, nor for other courses', () => {
    const examId = school.exam([]);
    expect(refusal(openExam(school.as(school.students[0] ?? school.marker), school.courseId, examId))).toBe(
      'not-allowed',
    );
    expect(refusal(openExam(school.as(school.elsewhere.teacher), school.elsewhere.courseId, examId))).toBe('not-found');
    expect(refusal(createExam(school.as(school.marker), school.courseId, { title: 'x' }))).toBe('not-allowed');
    expect(must(listExams(teacher(), school.courseId))).toHaveLength(1);
  });
});

describe('scheduling', () => {
  const local = (later: number) => localFromInstant(begins + later, 'Europe/Oslo');
  const draft = (lines = [school.draw(1)]) =>
    must(createSitting(teacher(), school.courseId, { examId: school.exam(lines) })).sittingId;
  const fieldsOf = (result: ReturnType<typeof scheduleSitting>) =>
    result.ok ? [] : result.problems.map((problem) => problem.field);

  it('is held back by everything that is wrong, at its field', () => {
    const sittingId = draft([school.draw(3)]);
    expect(fieldsOf(scheduleSitting(teacher(), school.courseId, sittingId))).toEqual(['exam', 'closes']);
    school.questions(3);
    must(saveSitting(teacher(), school.courseId, sittingId, school.rules({ opens: local(hour), closes: local(0) })));
    expect(fieldsOf(scheduleSitting(teacher(), school.courseId, sittingId))).toContain('closes');
    must(saveSitting(teacher(), school.courseId, sittingId, school.rules({ closes: local(hour / 2) })));
    expect(fieldsOf(scheduleSitting(teacher(), school.courseId, sittingId))).toEqual(['timeLimitMinutes']);
    must(
      saveSitting(
        teacher(),
        school.courseId,
        sittingId,
        school.rules({ opens: local(-5 * hour), closes: local(-3 * hour) }),
      ),
    );
    expect(fieldsOf(scheduleSitting(teacher(), school.courseId, sittingId))).toEqual(['closes']);
    expect(school.db.select().from(sitting).get()?.state).toBe('draft');
  });

  it('pins the exam, tells the students, and happens once', () => {
    school.questions(3);
    const sittingId = draft();
    must(saveSitting(teacher(), school.courseId, sittingId, school.rules()));
    expect(must(scheduleSitting(teacher(), school.courseId, sittingId))).toEqual({ students: 2 });
    expect(refusal(scheduleSitting(teacher(), school.courseId, sittingId))).toBe('conflict');
    expect(
      school.db
        .select()
        .from(outbox)
        .all()
        .filter((message) => message.subject.startsWith('Sitting: ')),
    ).toHaveLength(2);
  });

  it('reads times in the zone of the course, and refuses what is no time', () => {
    school.questions(1);
    const sittingId = draft();
    must(
      saveSitting(
        teacher(),
        school.courseId,
        sittingId,
        school.rules({ opens: '2026-07-01T10:00', closes: '2026-12-01T10:00' }),
      ),
    );
    const row = school.db.select().from(sitting).where(eq(sitting.id, sittingId)).get();
    expect(row?.opens).toBe(Date.UTC(2026, 6, 1, 8));
    expect(row?.closes).toBe(Date.UTC(2026, 11, 1, 9));
    for (const opens of ['2026-02-30T10:00', 'tomorrow', '2026-13-01T10:00']) {
      const result = saveSitting(teacher(), school.courseId, sittingId, school.rules({ opens }));
      expect(result.ok ? null : result.problems[0]?.field).toBe('opens');
    }
    const bad = saveSitting(
      teacher(),
      school.courseId,
      sittingId,
      school.rules({ timeLimitMinutes: 0, attemptsAllowed: 0 }),
    );
    expect(bad.ok ? [] : bad.problems.map((problem) => problem.field)).toEqual(['timeLimitMinutes', 'attemptsAllowed']);
  });
});

describe('who takes it', () => {
  it('is a section when one is named, and an arrangement applies to one of them only', () => {
    must(addRoster(teacher(), school.courseId, 'name,email,section\nAda,ada@school.example,A\nBo,bo@school.example,B'));
    const { sections, people } = must(listPeople(teacher(), school.courseId));
    school.questions(2);
    const sittingId = school.sitting(school.exam([school.draw(1)]), {
      who: { kind: 'some', sectionIds: [sections.find((one) => one.name === 'A')?.id ?? ''], studentIds: [] },
    });
    const ada = people.find((one) => one.name === 'Ada');
    const bo = people.find((one) => one.name === 'Bo');
    const open = must(openSitting(teacher(), school.courseId, sittingId));
    expect(open.audience.map((one) => one.name)).toEqual(['Ada']);
    expect(must(listSittings(teacher(), school.courseId))).toMatchObject([{ students: 1, phase: 'coming' }]);
    const nothing = { extraPercent: 0, extraMinutes: 0, extraAttempts: 0 };
    expect(
      refusal(arrange(teacher(), school.courseId, sittingId, bo?.userId ?? '', { ...nothing, excused: false })),
    ).toBe('not-found');
    must(arrange(teacher(), school.courseId, sittingId, ada?.userId ?? '', { ...nothing, excused: true }));
    expect(refusal(startAttempt(school.as({ userId: ada?.userId ?? '', name: 'Ada' }, hour), sittingId))).toBe(
      'too-late',
    );
    expect(refusal(startAttempt(school.as({ userId: bo?.userId ?? '', name: 'Bo' }, hour), sittingId))).toBe(
      'not-found',
    );
  });

  it('cannot name a section or marker of another course', () => {
    school.questions(1);
    const sittingId = school.sitting(school.exam([school.draw(1)]));
    expect(
      refusal(
        saveSitting(
          teacher(),
          school.courseId,
          sittingId,
          school.rules({ who: { kind: 'some', sectionIds: ['nobody'], studentIds: [] } }),
        ),
      ),
    ).toBe('not-found');
    expect(
      refusal(saveSitting(teacher(), school.courseId, sittingId, school.rules({ markerIds: [school.teacher.userId] }))),
    ).toBe('not-found');
    expect(
      refusal(saveSitting(school.as(school.elsewhere.teacher), school.elsewhere.courseId, sittingId, school.rules())),
    ).toBe('not-found');
  });
});

describe('the rules an exam is usually given under', () => {
  const further = {
    expiry: { kind: 'grace', minutes: 5 },
    tries: { most: 3, cost: 0.25 },
    learning: 'as-they-go',
    onwardOnly: true,
    minutesPerQuestion: 2,
  };

  it('are kept from a sitting, and the next sitting begins with them, without code, networks and shut days', () => {
    school.questions(3);
    const examId = school.exam([school.draw(2)]);
    const { sittingId } = must(createSitting(teacher(), school.courseId, { examId }));
    expect(must(openSitting(teacher(), school.courseId, sittingId)).unusual).toBe(false);
    must(
      saveSitting(teacher(), school.courseId, sittingId, {
        timeLimitMinutes: 25,
        fullTimeOnceStarted: true,
        attemptsAllowed: 4,
        attemptCounts: 'mean',
        further: { ...further, entryCode: 'tern', networks: ['10.0.0.0/8'], shutDays: ['2026-12-25'] },
      }),
    );
    expect(must(openSitting(teacher(), school.courseId, sittingId)).unusual).toBe(true);
    must(keepAsUsual(teacher(), school.courseId, sittingId));
    expect(must(openSitting(teacher(), school.courseId, sittingId)).unusual).toBe(false);
    expect(must(openExam(teacher(), school.courseId, examId)).design.usual).toEqual({
      timeLimitMinutes: 25,
      attemptsAllowed: 4,
      attemptCounts: 'mean',
      fullTimeOnceStarted: true,
      further,
    });
    const next = must(createSitting(teacher(), school.courseId, { examId }));
    const begun = must(openSitting(teacher(), school.courseId, next.sittingId));
    expect(begun.sitting).toMatchObject({ fullTimeOnceStarted: true, attemptsAllowed: 4, attemptCounts: 'mean' });
    expect(begun.sitting.further).toEqual({
      ...further,
      between: { kind: 'none' },
      nextPaper: 'new',
      missedAgain: null,
      entryCode: '',
      networks: [],
      shutDays: [],
    });
    expect(begun.unusual).toBe(false);
  });

  it('kept twice make no second revision, and rules that no longer differ are left out again', () => {
    school.questions(3);
    const examId = school.exam([school.draw(2)]);
    const sittingId = school.sitting(examId);
    const revisions = () => school.db.select().from(examRevision).all().length;
    must(saveSitting(teacher(), school.courseId, sittingId, { further }));
    must(keepAsUsual(teacher(), school.courseId, sittingId));
    expect(revisions()).toBe(2);
    must(keepAsUsual(teacher(), school.courseId, sittingId));
    expect(revisions()).toBe(2);
    must(
      saveSitting(teacher(), school.courseId, sittingId, {
        further: {
          expiry: { kind: 'hand-in' },
          tries: null,
          learning: 'by-plan',
          onwardOnly: false,
          minutesPerQuestion: null,
        },
      }),
    );
    must(keepAsUsual(teacher(), school.courseId, sittingId));
    expect(must(openExam(teacher(), school.courseId, examId)).design.usual?.further).toBeUndefined();
  });
});
