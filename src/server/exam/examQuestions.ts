import { and, eq, inArray } from 'drizzle-orm';
import { z } from 'zod';
import { id } from '@/core/base/id';
import { notFound, ok, type Result } from '@/core/base/result';
import { withLines } from '@/core/exam/arrangeDesign';
import { type QuestionLook, questionLook } from '@/core/exam/questionLook';
import { neededFor } from '@/core/exam/snapshot';
import { stemLine } from '@/core/question/content';
import { courseBank, question, questionVersion } from '@/db/schema';
import { courseSnapshot } from '../bank/courseSnapshot';
import { pointsIn } from '../bank/points';
import { createQuestion } from '../bank/questions';
import { newId } from '../house/context';
import { command, query } from '../house/useCase';
import { saveExam } from './exams';
import { toExam } from './toExam';

export type ExamQuestionLook = Omit<QuestionLook, 'findings'> & {
  findings: (QuestionLook['findings'][number] & { name: string; bankId: string })[];
  /** How many findings there are in all; the first {@link mostFindings} are given. */
  findingsInAll: number;
};

const mostFindings = 40;

/** Looks through every question that an exam can put on a paper, as the exam would show it. */
export const lookThroughQuestions = query({
  admits: toExam('exam.change'),
  does({ courseId, examId, revision, context }): Result<ExamQuestionLook> {
    const { design } = revision;
    const { snapshot } = courseSnapshot(context.db, courseId, { design, examId, now: context.now });
    const ids = neededFor(design, snapshot).entries.map((entry) => entry.questionId);
    const rows = context.db
      .select({
        id: question.id,
        bankId: question.bankId,
        shortName: question.shortName,
        content: questionVersion.content,
      })
      .from(question)
      .innerJoin(questionVersion, eq(questionVersion.id, question.currentVersionId))
      .where(inArray(question.id, ids))
      .orderBy(question.createdAt, question.id)
      .all();
    const byId = new Map(rows.map((row) => [row.id, row]));
    const { findings, ...look } = questionLook(design, rows);
    return ok({
      ...look,
      findingsInAll: findings.length,
      findings: findings.slice(0, mostFindings).map((one) => {
        const row = byId.get(one.questionId) as (typeof rows)[number];
        return { ...one, bankId: row.bankId, name: row.shortName || stemLine(row.content) };
      }),
    });
  },
});

/**
 * Writes a new question for an exam: it is kept in a bank of the course, and stands on a fixed line at the end of a part,
 * with the points its bank usually gives it. Where the part is gone meanwhile, it stands at the end of the last one.
 */
export const writeForExam = command({
  admits: toExam('exam.change'),
  takes: [z.object({ partId: id('part'), bankId: id('bank') }), z.unknown()],
  logs: 'exam.write-question',
  does({ courseId, examId, revision, context, exam }, where, input): Result<{ questionId: string; lineId: string }> {
    // The lines of an off-screen exam are its items.
    if (revision.design.offScreen) return notFound('part');
    const used = context.db
      .select()
      .from(courseBank)
      .where(and(eq(courseBank.courseId, courseId), eq(courseBank.bankId, where.bankId)))
      .get();
    if (!used) return notFound('bank');
    const created = createQuestion(context, courseId, where.bankId, input);
    if (!created.ok) return created;
    const { questionId } = created.value;
    const row = context.db.select().from(question).where(eq(question.id, questionId)).get();
    const { parts } = revision.design;
    const part = parts.find((one) => one.id === where.partId) ?? parts.at(-1);
    if (!row || !part) return notFound('part');
    const lineId = newId();
    const points = row.points ?? pointsIn(context.db, where.bankId)(row.type);
    const line = { kind: 'fixed' as const, id: lineId, questionId, points };
    const saved = saveExam(context, courseId, examId, {
      title: exam.title,
      edit: revision.edit,
      design: {
        ...revision.design,
        parts: parts.map((one) => (one.id === part.id ? withLines(one, [line]) : one)),
      },
    });
    return saved.ok ? ok({ questionId, lineId }) : saved;
  },
});
