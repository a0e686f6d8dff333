import { localFromInstant } from '@/core/base/localTime';
import type { Result } from '@/core/base/result';
import { richFromText } from '@/core/base/rich';
import { day, hour } from '@/core/base/time';
import type { ExamDesign, ExamLine } from '@/core/exam/design';
import type { QuestionContent } from '@/core/question/content';
import { usualMatching } from '@/core/question/text/acceptedText';
import { type Db, openDatabase } from '@/db/client';
import { migrateDatabase } from '@/db/migrate';
import { user } from '@/db/schema';
import { seeCategories } from '../bank/categories';
import { createQuestion } from '../bank/questions';
import { createExam, openExam, saveExam } from '../exam/exams';
import { type Actor, type Context, newId } from '../house/context';
import { claimFolder, keepOwnSecret } from '../house/installation';
import { beginCourse } from '../people/courses';
import { addPerson } from '../people/roster';
import { saveSitting } from '../sitting/saveRules';
import { createSitting } from '../sitting/sittings';
import { scheduleAcknowledged } from './scheduleAcknowledged';

/** The value of a result that a test expects to be one. */
export function must<T>(result: Result<T>): T {
  if (!result.ok)
    throw new Error(result.problems.map((problem) => `${problem.field ?? ''}: ${problem.message}`).join('; '));
  return result.value;
}

/** The code of the first problem of a result that a test expects to be refused. */
export const refusal = (result: Result<unknown>): string =>
  result.ok ? 'accepted' : (result.problems[0]?.code ?? 'none');

/** Monday 2 March 2026, 09:00 UTC: where every test's clock begins. */
export const begins = Date.UTC(2026, 2, 2, 9);

/** What is sent to arrange nothing for somebody: each test says what differs. */
export const nothingArranged = {
  extraPercent: 0,
  extraMinutes: 0,
  extraAttempts: 0,
  excused: false,
  opens: '',
  lastStart: '',
  due: '',
  closes: '',
};

export const choiceContent = (stem: string, right = 'right'): QuestionContent => ({
  type: 'single-choice',
  stem: richFromText(stem),
  shuffle: true,
  feedback: { solution: richFromText(`solution of ${stem}`) },
  choices: [right, 'wrong 1', 'wrong 2', 'wrong 3'].map((text, i) => ({
    id: `c${i}`,
    content: richFromText(text),
    right: i === 0,
    pinned: false,
    feedback: richFromText(`feedback on ${text}`),
  })),
});

export const numberContent = (stem: string, value: string, tolerance = 0): QuestionContent => ({
  type: 'numeric',
  stem: richFromText(stem),
  feedback: {},
  accepted: [{ value, tolerance: { kind: 'absolute', amount: tolerance }, credit: 1 }],
});

export const shortTextContent = (stem: string, accepted: string): QuestionContent => ({
  type: 'short-text',
  stem: richFromText(stem),
  feedback: {},
  accepted: [{ text: accepted, credit: 1 }],
  matching: usualMatching,
});

export const writtenContent = (stem: string): QuestionContent => ({
  type: 'written',
  stem: richFromText(stem),
  feedback: {},
  modelAnswer: richFromText('model answer'),
  words: { least: null, most: null },
});

let empty: Buffer | undefined;

/**
 * A database in memory with its schema and nothing in it. The migrations are run once; running them for every test took
 * longer than the tests.
 */
function emptyDatabase(): Db {
  if (!empty) {
    const db = openDatabase(':memory:');
    migrateDatabase(db, null);
    empty = db.$client.serialize();
    db.$client.close();
  }
  return openDatabase(empty);
}

/** A small school in memory: a course with two instructors, a marker, students and a bank; and a second course beside it. */
export class School {
  readonly db: Db;
  readonly teacher: Actor = { userId: newId(), name: 'Tove Teacher' };
  readonly courseId: string;
  readonly bankId: string;
  readonly categoryId: string;
  readonly marker: Actor;
  readonly students: Actor[];
  /** A course this teacher has no part in. */
  readonly elsewhere: { teacher: Actor; courseId: string; bankId: string };

  constructor(students = 3, file?: string) {
    this.db = file ? openDatabase(file) : emptyDatabase();
    if (file) migrateDatabase(this.db, null);
    claimFolder(this.db, 'test');
    keepOwnSecret(this.db, 'the secret of a school in memory');
    const course = this.begin(this.teacher, 'Seamanship');
    this.courseId = course.courseId;
    this.bankId = course.bankId;
    this.categoryId = must(seeCategories(this.as(this.teacher), this.courseId, this.bankId))[0]?.id ?? '';
    this.marker = this.add('Mara Marker', 'marker');
    this.students = Array.from({ length: students }, (_, i) => this.add(`Student ${i + 1}`, 'student'));
    const other = { userId: newId(), name: 'Otto Other' };
    this.elsewhere = { teacher: other, ...this.begin(other, 'Elsewhere') };
  }

  /** The other course, as if it were the school's own. */
  elsewhereAsSchool(): School {
    const { teacher, courseId, bankId } = this.elsewhere;
    const categoryId = must(seeCategories(this.as(teacher), courseId, bankId))[0]?.id ?? '';
    return Object.assign(Object.create(School.prototype) as School, this, { teacher, courseId, bankId, categoryId });
  }

  /** The context of a person at a moment, given as time since the beginning. */
  as(actor: Actor, later = 0): Context {
    return { db: this.db, actor, now: begins + later };
  }

  private begin(actor: Actor, name: string) {
    const at = new Date(begins);
    this.db
      .insert(user)
      .values({
        id: actor.userId,
        name: actor.name,
        email: `${actor.userId.toLowerCase()}@school.example`,
        keepsSchool: actor === this.teacher,
        createdAt: at,
        updatedAt: at,
      })
      .run();
    return beginCourse(this.as(actor), { name, term: '', timeZone: 'Europe/Oslo' });
  }

  add(name: string, role: string): Actor {
    const email = `${name.toLowerCase().replace(/\s+/g, '.')}@school.example`;
    const { userId } = must(
      addPerson(this.as(this.teacher), this.courseId, { name, email, role, studentNumber: '', section: '' }),
    );
    return { userId, name };
  }

  question(content: QuestionContent, more: { points?: number; categoryId?: string } = {}): string {
    return must(
      createQuestion(this.as(this.teacher), this.courseId, this.bankId, {
        categoryId: this.categoryId,
        shortName: '',
        difficulty: null,
        points: 1,
        content,
        ...more,
      }),
    ).questionId;
  }

  /** Questions named `stem 1 … stem n` with the right choice `right`. */
  questions(count: number): string[] {
    return Array.from({ length: count }, (_, i) => this.question(choiceContent(`stem ${i + 1}`)));
  }

  draw(count: number, points = 1): ExamLine {
    return {
      kind: 'draw',
      id: newId(),
      count,
      points,
      pool: { categories: [{ id: this.categoryId, below: true }], difficulties: [] },
    };
  }

  fixed(questionId: string, points = 1): ExamLine {
    return { kind: 'fixed', id: newId(), questionId, points };
  }

  /** @param change what the design says besides its one part of these lines */
  exam(
    lines: ExamLine[],
    worth: number | null = null,
    change: (design: ExamDesign) => ExamDesign = (same) => same,
  ): string {
    const context = this.as(this.teacher);
    const { examId } = must(createExam(context, this.courseId, { title: 'Exam' }));
    const { design, edit } = must(openExam(context, this.courseId, examId));
    const [part] = design.parts;
    if (!part) throw new Error('An exam begins with a part');
    must(
      saveExam(context, this.courseId, examId, {
        title: 'Exam',
        edit,
        design: change({ ...design, worth, parts: [{ ...part, lines }] }),
      }),
    );
    return examId;
  }

  rules(change: Record<string, unknown> = {}): Record<string, unknown> {
    const local = (later: number) => localFromInstant(begins + later, 'Europe/Oslo');
    return {
      title: 'Sitting',
      opens: local(0),
      closes: local(2 * day),
      lastStart: '',
      due: '',
      timeLimitMinutes: 60,
      attemptsAllowed: 1,
      attemptCounts: 'best',
      who: { kind: 'course' },
      markerIds: [],
      ...change,
    };
  }

  /** A scheduled sitting of an exam: open from the beginning, for two days, an hour and one attempt each. */
  sitting(examId: string, change: Record<string, unknown> = {}): string {
    const context = this.as(this.teacher, -hour);
    const { sittingId } = must(createSitting(context, this.courseId, { examId }));
    must(saveSitting(context, this.courseId, sittingId, this.rules(change)));
    must(scheduleAcknowledged(context, this.courseId, sittingId));
    return sittingId;
  }
}
