import { eq } from 'drizzle-orm';
import { beforeEach, describe, expect, it } from 'vitest';
import { minute } from '@/core/base/time';
import type { ExamDesign } from '@/core/exam/design';
import { paperSlot, sitting } from '@/db/schema';
import { startAttempt } from '../attempt/startAttempt';
import { openForWriting } from '../attempt/takeAttempt';
import type { Actor } from '../house/context';
import { createSitting } from '../sitting/sittings';
import { takeUpRevision } from '../sitting/takeUpRevision';
import { must, refusal, School } from '../testing/school';
import { openExam, saveExam } from './exams';
import { examRevisions } from './revisions';

let school: School;
let examId: string;
let sittingId: string;

beforeEach(() => {
  school = new School(3);
  school.questions(8);
  examId = school.exam([school.draw(3)]);
  sittingId = school.sitting(examId);
});

const teacher = (later = minute) => school.as(school.teacher, later);
const change = (to: (design: ExamDesign) => ExamDesign) => {
  const { design, edit, title } = must(openExam(teacher(), school.courseId, examId));
  return must(saveExam(teacher(), school.courseId, examId, { title, edit, design: to(design) }));
};
const drawing =
  (count: number) =>
  (design: ExamDesign): ExamDesign => ({
    ...design,
    parts: design.parts.map((part) => ({ ...part, lines: part.lines.map((line) => ({ ...line, count })) as never })),
  });
const paperOf = (who: Actor, later: number) => {
  const { attemptId } = must(startAttempt(school.as(who, later), sittingId));
  return school.db.select().from(paperSlot).where(eq(paperSlot.attemptId, attemptId)).all();
};

describe('the revisions of an exam', () => {
  it('say what changed and which sittings keep which', () => {
    paperOf(school.students[0] as Actor, minute);
    change(drawing(5));
    const { revisions, newest } = must(examRevisions(teacher(), school.courseId, examId));
    expect(newest).toBe(2);
    expect(
      revisions.map((one) => [
        one.number,
        one.changes?.length ?? null,
        one.sittings.map(({ id, attempts }) => [id, attempts]),
      ]),
    ).toEqual([
      [2, 1, []],
      [1, null, [[sittingId, 1]]],
    ]);
    expect(revisions[0]?.changes?.[0]?.says).toMatch(/^draw 5 from .+; before: draw 3 from .+\.$/);
  });

  it('tell the plan how many sittings are behind', () => {
    expect(must(openExam(teacher(), school.courseId, examId)).behind).toBe(0);
    expect(change(drawing(5)).behind).toBe(1);
    must(takeUpRevision(teacher(), school.courseId, sittingId));
    expect(must(openExam(teacher(), school.courseId, examId)).behind).toBe(0);
  });
});

it('a new sitting begins with the exam’s usual rules', () => {
  change((design) => ({ ...design, usual: { timeLimitMinutes: 45, attemptsAllowed: 3, attemptCounts: 'last' } }));
  const { sittingId: fresh } = must(createSitting(teacher(), school.courseId, { examId }));
  expect(school.db.select().from(sitting).where(eq(sitting.id, fresh)).get()).toMatchObject({
    timeLimit: 45 * minute,
    attemptsAllowed: 3,
    attemptCounts: 'last',
  });
});

describe('a sitting that takes up the newest revision', () => {
  it('draws by it from then on, and leaves papers already drawn as they are', () => {
    const [a, b] = school.students as [Actor, Actor];
    const before = paperOf(a, minute);
    expect(before).toHaveLength(3);
    change((design) => ({ ...drawing(5)(design), pages: 'all', labels: '1' }));
    must(takeUpRevision(teacher(2 * minute), school.courseId, sittingId));
    expect(paperOf(b, 3 * minute)).toHaveLength(5);
    expect(paperOf(a, 3 * minute)).toEqual(before);
    const opened = must(openForWriting(school.as(a, 3 * minute), before[0]?.attemptId ?? ''));
    expect(opened.slots.map((slot) => slot.page)).toEqual([0, 1, 2]);
  });

  it('draws from the bank of today', () => {
    const [a, b] = school.students as [Actor, Actor];
    paperOf(a, minute);
    const added = new Set(school.questions(40));
    change(drawing(8));
    must(takeUpRevision(teacher(2 * minute), school.courseId, sittingId));
    expect(paperOf(b, 3 * minute).some((slot) => added.has(slot.questionId))).toBe(true);
  });

  it('is refused without anything newer, without papers to draw, and by others', () => {
    expect(refusal(takeUpRevision(teacher(), school.courseId, sittingId))).toBe('conflict');
    change(drawing(30));
    const refused = takeUpRevision(teacher(), school.courseId, sittingId);
    expect(refused.ok ? '' : refused.problems[0]?.message).toContain('draws 30 from a pool of 8');
    for (const who of [school.students[0], school.marker, school.elsewhere.teacher])
      expect(['not-allowed', 'not-found']).toContain(
        refusal(takeUpRevision(school.as(who as Actor, minute), school.courseId, sittingId)),
      );
  });

  it('cannot become anonymous or unscored once someone has begun, but can before', () => {
    const anonymous = (design: ExamDesign): ExamDesign => ({
      ...design,
      purpose: { scored: false, counts: 'no', anonymous: true },
    });
    change(anonymous);
    const other = school.sitting(examId);
    paperOf(school.students[0] as Actor, minute);
    expect(refusal(takeUpRevision(teacher(2 * minute), school.courseId, sittingId))).toBe('conflict');
    expect(school.db.select().from(sitting).where(eq(sitting.id, sittingId)).get()?.anonymous).toBe(false);
    expect(school.db.select().from(sitting).where(eq(sitting.id, other)).get()?.anonymous).toBe(true);
  });
});
