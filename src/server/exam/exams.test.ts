import { eq } from 'drizzle-orm';
import { describe, expect, it } from 'vitest';
import { minute } from '@/core/base/time';
import type { ExamLine } from '@/core/exam/design';
import { paperSlot } from '@/db/schema';
import { startAttempt } from '../attempt/startAttempt';
import { editMany } from '../bank/editMany';
import type { Actor } from '../house/context';
import { createSitting } from '../sitting/sittings';
import { must, refusal, School } from '../testing/school';
import { countPool, listExams, openExam, saveExam } from './exams';
import { archiveExam, duplicateExam, labelExam } from './keepExams';
import { samplePaper } from './samplePaper';

describe('an exam that draws from others', () => {
  const school = new School(1);
  const ids = school.questions(6);
  const teacher = school.as(school.teacher);
  const from = (exams: string[], count = 1): ExamLine => {
    const line = school.draw(count);
    return line.kind === 'draw' ? { ...line, pool: { categories: [], difficulties: [], exams } } : line;
  };
  const week1 = school.exam([school.fixed(ids[0] as string), school.fixed(ids[1] as string)]);
  const week2 = school.exam([school.fixed(ids[2] as string)]);
  const check = school.exam([from([week1]), from([week2])]);
  const save = (examId: string, lines: ExamLine[]) => {
    const { design, edit, title } = must(openExam(teacher, school.courseId, examId));
    const parts = design.parts.map((part) => ({ ...part, lines }));
    return saveExam(teacher, school.courseId, examId, { title, edit, design: { ...design, parts } });
  };

  it('counts their questions, puts one of each on a paper, and offers only what makes no ring', () => {
    const opened = must(openExam(teacher, school.courseId, check));
    expect([Object.values(opened.check.poolSizes), opened.check.problems]).toEqual([[2, 1], []]);
    expect(opened.sources.exams.map((one) => one.id).sort()).toEqual([week1, week2].sort());
    expect(must(openExam(teacher, school.courseId, week1)).sources.exams.map((one) => one.id)).toEqual([week2]);
    for (const seed of ['a', 'b', 'c'])
      expect(must(samplePaper(teacher, school.courseId, check, seed)).slots).toHaveLength(2);
  });

  it('refuses a ring by its titles and keeps what was there', () => {
    const answer = save(week2, [from([check])]);
    expect(answer.ok ? '' : answer.problems[0]?.message).toBe('This exam would draw from itself: Exam → Exam → Exam.');
    expect(refusal(save(week1, [from([week1])]))).toBe('bad-input');
    expect(must(openExam(teacher, school.courseId, week2)).design.parts[0]?.lines[0]?.kind).toBe('fixed');
  });

  it('keeps on a sitting what the other exams held when it began', () => {
    const sittingId = school.sitting(check);
    const [ada] = school.students as [Actor];
    must(startAttempt(school.as(ada, minute), sittingId));
    must(save(week1, [school.fixed(ids[3] as string)]));
    expect(must(openExam(teacher, school.courseId, check)).check.poolSizes).toEqual({
      [must(openExam(teacher, school.courseId, check)).design.parts[0]?.lines[0]?.id ?? '']: 1,
      [must(openExam(teacher, school.courseId, check)).design.parts[0]?.lines[1]?.id ?? '']: 1,
    });
    const ben = school.add('Ben', 'student');
    const { attemptId } = must(startAttempt(school.as(ben, minute), sittingId));
    const paper = school.db.select().from(paperSlot).where(eq(paperSlot.attemptId, attemptId)).all();
    expect(paper).toHaveLength(2);
    for (const { questionId } of paper) expect(ids.slice(0, 3)).toContain(questionId);
  });

  it('draws by tag, and rests what has been used lately', () => {
    must(
      editMany(teacher, school.courseId, school.bankId, {
        selection: { ids: [ids[0], ids[4]] },
        change: { kind: 'add-tags', tags: ['night'] },
      }),
    );
    const night = school.draw(1);
    if (night.kind !== 'draw') throw new Error('It is a draw.');
    const size = (pool: object) => {
      const examId = school.exam([{ ...night, pool: { ...night.pool, ...pool } }]);
      const at = school.as(school.teacher, 60 * minute);
      return must(openExam(at, school.courseId, examId)).check.poolSizes[night.id];
    };
    expect([size({ tags: ['night'] }), size({ tags: ['day'] }), size({ tags: ['night', 'day'] })]).toEqual([2, 0, 2]);
    const used = new Set(
      school.db
        .select()
        .from(paperSlot)
        .all()
        .map((slot) => slot.questionId),
    );
    const rested = (some: readonly string[]) => some.filter((id) => !used.has(id)).length;
    expect(used.size).toBeGreaterThan(1);
    expect(size({ restDays: 30 })).toBe(rested(ids));
    expect(size({ tags: ['night'], restDays: 30 })).toBe(rested([ids[0] as string, ids[4] as string]));
  });
});

describe('a draw that is being typed', () => {
  it('is counted beside what the exam holds, as the plan would count it once it is added', () => {
    const school = new School(1);
    const ids = school.questions(6);
    const teacher = school.as(school.teacher);
    const other = school.exam([school.fixed(ids[4] as string)]);
    const examId = school.exam([school.fixed(ids[0] as string)]);
    const line = school.draw(2);
    if (line.kind !== 'draw') throw new Error('It is a draw.');
    const holds = (pool: object) =>
      must(countPool(teacher, school.courseId, examId, { ...line, pool: { ...line.pool, ...pool } })).holds;
    const { design, edit, title } = must(openExam(teacher, school.courseId, examId));
    const parts = design.parts.map((part) => ({ ...part, lines: [...part.lines, line] }));
    expect([holds({}), holds({ difficulties: ['hard'] }), holds({ categories: [], exams: [other] })]).toEqual([
      5, 0, 1,
    ]);
    const saved = must(saveExam(teacher, school.courseId, examId, { title, edit, design: { ...design, parts } }));
    expect(saved.check.poolSizes[line.id]).toBe(5);
    expect(refusal(countPool(teacher, school.courseId, examId, { ...line, count: 0 }))).toBe('bad-input');
  });
});

describe('exams kept for next year', () => {
  const school = new School(1);
  const [id] = school.questions(2);
  const teacher = school.as(school.teacher);
  const where = school.courseId;
  const examId = school.exam([school.fixed(id as string, 3), school.draw(1)], 20);
  const rows = () => must(listExams(teacher, where));

  it('are duplicated with parts and lines of their own, each copy under a title of its own', () => {
    must(labelExam(teacher, where, examId, { year: ' 2026 ', subject: 'Navigation', level: 'basic' }));
    const copies = [1, 2].map(() => must(duplicateExam(teacher, where, examId)).examId);
    expect(
      rows()
        .map((row) => row.title)
        .sort(),
    ).toEqual(['Exam', 'Exam (copy 2)', 'Exam (copy)']);
    const [before, after] = [examId, copies[0] as string].map((one) => must(openExam(teacher, where, one)));
    expect(after?.labels).toEqual({ year: '2026', subject: 'Navigation', level: 'basic' });
    const bare = (exam: typeof before) =>
      exam && {
        ...exam.design,
        parts: exam.design.parts.map((part) => ({
          ...part,
          id: '',
          lines: part.lines.map((line) => ({ ...line, id: '' })),
        })),
      };
    expect(bare(after)).toEqual(bare(before));
    const ids = (exam: typeof before) =>
      exam?.design.parts.flatMap((part) => [part.id, ...part.lines.map((line) => line.id)]) ?? [];
    expect(ids(after).filter((one) => ids(before).includes(one))).toEqual([]);
    expect([after?.revision, after?.frozen, rows().find((row) => row.id === copies[0])?.sittings]).toEqual([
      1,
      false,
      0,
    ]);
  });

  it('are put away and brought back; what is away is not given, and its sittings go on', () => {
    const sittingId = school.sitting(examId);
    must(archiveExam(teacher, where, examId, true));
    expect(rows().find((row) => row.id === examId)?.archived).toBe(true);
    expect(refusal(archiveExam(teacher, where, examId, true))).toBe('conflict');
    expect(refusal(createSitting(teacher, where, { examId }))).toBe('conflict');
    const [ada] = school.students as [Actor];
    must(startAttempt(school.as(ada, minute), sittingId));
    must(archiveExam(teacher, where, examId, false));
    must(createSitting(teacher, where, { examId }));
  });

  it('refuse a label that is too long, at its field', () => {
    const answer = labelExam(teacher, where, examId, { year: 'x'.repeat(41), subject: '', level: '' });
    expect(answer.ok ? [] : answer.problems.map((problem) => problem.field)).toEqual(['year']);
    expect(refusal(labelExam(teacher, where, 'none', { year: '', subject: '', level: '' }))).toBe('not-found');
  });
});
