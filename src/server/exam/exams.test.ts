import { describe, expect, it } from 'vitest';
import { minute } from '@/core/base/time';
import type { ExamLine } from '@/core/exam/design';
import { startAttempt } from '../attempt/startAttempt';
import { editMany } from '../bank/editMany';
import type { Actor } from '../house/context';
import { must, refusal, School } from '../testing/school';
import { openExam, samplePaper, saveExam } from './exams';

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
      expect(must(samplePaper(teacher, school.courseId, check, seed))).toHaveLength(2);
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
    must(startAttempt(school.as(ben, minute), sittingId));
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
    const used = 6 - (size({ restDays: 30 }) ?? 0);
    expect(used).toBeGreaterThan(0);
    expect(size({ tags: ['night'], restDays: 30 })).toBeLessThanOrEqual(2);
  });
});
