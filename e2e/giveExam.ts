import { eq } from 'drizzle-orm';
import { localFromInstant } from '../src/core/base/localTime';
import { hour } from '../src/core/base/time';
import type { ExamDesign } from '../src/core/exam/design';
import type { Db } from '../src/db/client';
import { course, question, sitting, user } from '../src/db/schema';
import { createExam, openExam, saveExam } from '../src/server/exam/exams';
import { saveSitting } from '../src/server/sitting/saveRules';
import { createSitting } from '../src/server/sitting/sittings';
import { scheduleAcknowledged } from '../src/server/testing/scheduleAcknowledged';
import { must } from '../src/server/testing/school';
import { teacher } from './house';

export const courseIdOf = (db: Db): string => db.select().from(sitting).get()?.courseId ?? '';
export const questionNamed = (db: Db, name: string) =>
  db.select().from(question).where(eq(question.shortName, name)).get();

/** Fixed lines of the demo's questions with these names. */
export const fixedLines = (db: Db, names: readonly string[]): ExamDesign['parts'][number]['lines'] =>
  names.map((name, i) => ({
    kind: 'fixed',
    id: `line-${i}-fixed`,
    questionId: questionNamed(db, name)?.id ?? '',
    points: 1,
  }));

/** The demo's instructor at work, an hour ago. */
function instructor(db: Db) {
  const row = db.select().from(user).where(eq(user.email, teacher)).get();
  return { db, actor: { userId: row?.id ?? '', name: row?.name ?? '' }, now: Date.now() - hour };
}

/** Gives the demo's course an exam that is open now, for two hours each, as its instructor would. */
export function giveExam(
  db: Db,
  title: string,
  change: (design: ExamDesign) => ExamDesign,
  rules: Record<string, unknown> = {},
): { examId: string; sittingId: string } {
  const courseId = courseIdOf(db);
  const context = instructor(db);
  const { examId } = must(createExam(context, courseId, { title }));
  const { design, edit } = must(openExam(context, courseId, examId));
  must(saveExam(context, courseId, examId, { title, edit, design: change(design) }));
  return { examId, sittingId: giveSitting(db, examId, title, rules) };
}

/** Gives an exam of the demo's course to all of it: open now, for two hours each. */
export function giveSitting(db: Db, examId: string, title: string, rules: Record<string, unknown> = {}): string {
  const courseId = courseIdOf(db);
  const context = instructor(db);
  const zone = db.select().from(course).where(eq(course.id, courseId)).get()?.timeZone ?? 'UTC';
  const { sittingId } = must(createSitting(context, courseId, { examId }));
  const local = (later: number) => localFromInstant(context.now + hour + later, zone);
  must(
    saveSitting(context, courseId, sittingId, {
      title,
      opens: local(-hour / 2),
      closes: local(5 * hour),
      lastStart: '',
      due: '',
      timeLimitMinutes: 120,
      attemptsAllowed: 1,
      attemptCounts: 'best',
      who: { kind: 'course' },
      markerIds: [],
      ...rules,
    }),
  );
  must(scheduleAcknowledged(context, courseId, sittingId));
  return sittingId;
}
