import { randomBytes } from 'node:crypto';
import { and, asc, eq, isNull, ne } from 'drizzle-orm';
import { notFound, ok, type Result, refused } from '@/core/base/result';
import type { Instant } from '@/core/base/time';
import type { ExamDesign } from '@/core/exam/design';
import { planLater, selfLater } from '@/core/release/planShift';
import { sittingMoments, type Term } from '@/core/sitting/teachingWeeks';
import type { Tx } from '@/db/client';
import {
  course,
  courseBank,
  courseNote,
  exam,
  examRevision,
  membership,
  section,
  sitting,
  sittingAudience,
} from '@/db/schema';
import { copyDesign } from '../exam/keepExams';
import { record } from '../house/audit';
import { type Context, newId } from '../house/context';
import { command, query } from '../house/useCase';
import { toCourse } from '../people/toCourse';
import { gatherTerm, type MovedMoment, nextTermInput, type ShiftedSitting } from './termBefore';

export type NextTermPlan = {
  exams: { id: string; title: string; looks: string[] }[];
  sittings: { id: string; title: string; moments: MovedMoment[]; looks: string[] }[];
  sections: string[];
  staff: number;
  /** What stays behind, in numbers. */
  leftBehind: { students: number; archivedExams: number; cancelledSittings: number };
  looks: number;
};

/** What the next term of a course would be: every date before and after, and what will need a look. Nothing is made. */
export const planNextTerm = query({
  admits: toCourse('people.change'),
  takes: [nextTermInput],
  does({ courseId, timeZone, context }, input): Result<NextTermPlan> {
    const found = gatherTerm(context.db, courseId, timeZone, input, context.now);
    const exams = found.exams.map((one) => ({ id: one.exam.id, title: one.exam.title, looks: one.looks }));
    const sittings = found.sittings.map(({ row, moved, looks }) => ({
      id: row.id,
      title: row.title,
      moments: moved,
      looks,
    }));
    return ok({
      exams,
      sittings,
      sections: found.sections.map((one) => one.name),
      staff: found.people.filter((one) => one.role !== 'student' && one.userId !== context.actor.userId).length,
      leftBehind: {
        students: found.people.filter((one) => one.role === 'student').length,
        archivedExams: found.archivedExams,
        cancelledSittings: found.cancelledSittings,
      },
      looks: [...exams, ...sittings].reduce((sum, one) => sum + one.looks.length, 0) + 1,
    });
  },
});

/**
 * Begins the next term of a course in one step: a course of its own with the same banks, sections and, if wanted,
 * colleagues; copies of its exams; and its sittings as drafts with their dates shifted by teaching week. Students and what
 * they did stay behind. What needs a look is listed in the new course.
 */
export const beginNextTerm = command({
  admits: toCourse('people.change'),
  takes: [nextTermInput],
  logs: 'course.next-term',
  does({ tx, courseId, context, timeZone }, asked): Result<{ courseId: string }> {
    const taken = tx
      .select({ id: course.id })
      .from(course)
      .innerJoin(membership, eq(membership.courseId, course.id))
      .where(
        and(
          eq(course.name, asked.name),
          eq(course.term, asked.term),
          eq(membership.userId, context.actor.userId),
          isNull(course.archivedAt),
        ),
      )
      .get();
    if (taken)
      return refused(
        'conflict',
        `You have a course ${asked.name}, ${asked.term} already. Name the new term otherwise.`,
        'term',
      );
    const found = gatherTerm(tx, courseId, timeZone, asked, context.now);
    const next = newId();
    tx.update(course)
      .set({ firstDay: asked.before.firstDay, freeDays: asked.before.freeDays })
      .where(eq(course.id, courseId))
      .run();
    tx.insert(course)
      .values({
        id: next,
        name: asked.name,
        term: asked.term,
        timeZone,
        firstDay: asked.after.firstDay,
        freeDays: asked.after.freeDays,
        createdAt: context.now,
      })
      .run();
    const sectionIds = new Map(found.sections.map((one) => [one.id, newId()]));
    for (const { id, name, position } of found.sections)
      tx.insert(section)
        .values({ id: sectionIds.get(id) as string, courseId: next, name, position })
        .run();
    const staff = found.people.filter(
      (one) => one.userId === context.actor.userId || (asked.staff && one.role !== 'student'),
    );
    for (const { userId, role } of staff)
      tx.insert(membership).values({ id: newId(), courseId: next, userId, role, addedAt: context.now }).run();
    for (const { bankId } of tx.select().from(courseBank).where(eq(courseBank.courseId, courseId)).all())
      tx.insert(courseBank).values({ courseId: next, bankId }).run();
    const exams = copyExams(tx, context, next, asked.term, found.exams);
    const sittings = copySittings(tx, context, { from: courseId, to: next }, found.sittings, exams, sectionIds);
    const notes = [
      { about: 'course' as const, subjectId: next, text: 'It has no students yet: add the class list.' },
      ...found.exams.flatMap(({ exam: row, looks }) =>
        looks.map((text) => ({ about: 'exam' as const, subjectId: exams.get(row.id)?.examId ?? '', text })),
      ),
      ...found.sittings.flatMap(({ row, looks }) =>
        looks.map((text) => ({ about: 'sitting' as const, subjectId: sittings.get(row.id) ?? '', text })),
      ),
    ];
    for (const note of notes)
      tx.insert(courseNote)
        .values({ id: newId(), courseId: next, ...note, createdAt: context.now })
        .run();
    record(tx, context, {
      action: 'course.next-term',
      courseId: next,
      subjectId: courseId,
      detail: { exams: exams.size, sittings: sittings.size, notes: notes.length },
    });
    return ok({ courseId: next });
  },
});

type CopiedExam = { examId: string; revisionId: string; design: ExamDesign };

/** Copies exams with ids of their own; where they draw from one another, the copies do so among themselves. */
function copyExams(
  tx: Tx,
  context: Context,
  courseId: string,
  term: string,
  exams: readonly { exam: typeof exam.$inferSelect; revision: typeof examRevision.$inferSelect }[],
): Map<string, CopiedExam> {
  const ids = new Map(exams.map((one) => [one.exam.id, newId()]));
  const copies = new Map<string, CopiedExam>();
  for (const { exam: row, revision } of exams) {
    const examId = ids.get(row.id) as string;
    const revisionId = newId();
    tx.insert(exam)
      .values({
        id: examId,
        courseId,
        title: row.title,
        year: term.slice(0, 40),
        subject: row.subject,
        level: row.level,
        currentRevisionId: revisionId,
        createdBy: context.actor.userId,
        // In the order in which the old ones stand.
        createdAt: context.now + copies.size,
      })
      .run();
    const design = withPoolsOf(copyDesign(tx, context, revision.design, { examId, title: row.title }), ids);
    tx.insert(examRevision).values({ id: revisionId, examId, number: 1, design, createdAt: context.now }).run();
    copies.set(row.id, { examId, revisionId, design });
  }
  return copies;
}

const withPoolsOf = (design: ExamDesign, ids: ReadonlyMap<string, string>): ExamDesign => ({
  ...design,
  parts: design.parts.map((part) => ({
    ...part,
    lines: part.lines.map((line) =>
      line.kind === 'fixed' || !line.pool.exams
        ? line
        : { ...line, pool: { ...line.pool, exams: line.pool.exams.map((id) => ids.get(id) ?? id) } },
    ),
  })),
});

function copySittings(
  tx: Tx,
  context: Context,
  courses: { from: string; to: string },
  sittings: readonly (ShiftedSitting & { audience: { kind: string; refId: string }[] })[],
  exams: ReadonlyMap<string, CopiedExam>,
  sectionIds: ReadonlyMap<string, string>,
): Map<string, string> {
  const copies = new Map<string, string>();
  for (const { row, moments, audience } of sittings) {
    const copy = exams.get(row.examId);
    if (!copy) continue;
    const id = newId();
    // What lies on the calendar moves as far as the first of the sitting's own moments.
    const [first] = sittingMoments.flatMap((name) => {
      const [before, after] = [row[name], moments[name]];
      return before !== null && after !== null ? [after - before] : [];
    });
    const later = (at: number) => at + (first ?? 0);
    tx.insert(sitting)
      .values({
        ...row,
        ...moments,
        id,
        courseId: courses.to,
        examId: copy.examId,
        revisionId: copy.revisionId,
        state: 'draft',
        // Days on which it was shut were days of the old term, and nobody has read the warnings of the new one.
        further: row.further ? { ...row.further, shutDays: [] } : null,
        acknowledged: null,
        releasePlan: planLater(row.releasePlan, later),
        selfPublish: selfLater(row.selfPublish, later),
        createdBy: context.actor.userId,
        createdAt: context.now + copies.size,
      })
      .run();
    for (const { kind, refId } of audience) {
      const to =
        kind === 'course'
          ? courses.to
          : kind === 'section'
            ? sectionIds.get(refId)
            : kind === 'link'
              ? randomBytes(18).toString('base64url')
              : undefined;
      if (to)
        tx.insert(sittingAudience)
          .values({ sittingId: id, kind: kind as 'course' | 'section' | 'link', refId: to })
          .run();
    }
    copies.set(row.id, id);
  }
  return copies;
}

/** What the form of the next term begins with: the terms as far as they are known. */
export const nextTermBeginning = query({
  admits: toCourse('people.change'),
  does({ courseId, context }): Result<{
    name: string;
    term: string;
    firstDay: string;
    freeDays: Term['freeDays'];
    earliest: Instant | null;
    timeZone: string;
  }> {
    const row = context.db.select().from(course).where(eq(course.id, courseId)).get();
    if (!row) return notFound('course');
    const first = context.db
      .select({ opens: sitting.opens })
      .from(sitting)
      .where(and(eq(sitting.courseId, courseId), ne(sitting.state, 'cancelled')))
      .orderBy(asc(sitting.opens))
      .all()
      .find((one) => one.opens !== null);
    return ok({
      name: row.name,
      term: row.term,
      firstDay: row.firstDay ?? '',
      freeDays: row.freeDays ?? [],
      earliest: first?.opens ?? null,
      timeZone: row.timeZone,
    });
  },
});
