import { and, eq } from 'drizzle-orm';
import { notFound, ok } from '@/core/base/result';
import type { Action } from '@/core/people/policy';
import type { Db, Tx } from '@/db/client';
import { exam, examRevision } from '@/db/schema';
import type { Door } from '../house/useCase';
import { type Admission, admit } from '../people/permission';

/** Finds an exam with its current revision. */
export function examWithRevision(db: Db | Tx, courseId: string, examId: string) {
  return db
    .select({ exam, revision: examRevision })
    .from(exam)
    .innerJoin(examRevision, eq(examRevision.id, exam.currentRevisionId))
    .where(and(eq(exam.id, examId), eq(exam.courseId, courseId)))
    .get();
}

export type ExamWithRevision = NonNullable<ReturnType<typeof examWithRevision>>;
export type AdmittedToExam = Admission & ExamWithRevision;

/** To an exam of a course, with its current revision. */
export const toExam = (action: Action): Door<readonly ['courseId', 'examId'], AdmittedToExam> => ({
  ids: ['courseId', 'examId'],
  action,
  open(context, courseId, examId) {
    const admitted = admit(context, courseId, action);
    if (!admitted.ok) return admitted;
    const found = examWithRevision(context.db, courseId, examId);
    return found ? ok({ ...admitted.value, ...found }) : notFound('exam');
  },
});
