import { and, eq, isNull } from 'drizzle-orm';
import { notFound, ok } from '@/core/base/result';
import { examLook } from '@/db/schema';
import type { Door } from '../house/useCase';
import { admit } from '../people/permission';
import { type AdmittedToExam, examWithRevision } from './toExam';

/**
 * To an exam, its key included, for who composes it, and for a colleague who was asked to look at it. To a colleague who
 * was not asked it does not exist.
 */
export const toLook: Door<readonly ['courseId', 'examId'], AdmittedToExam> = {
  ids: ['courseId', 'examId'],
  action: 'exam.look',
  open(context, courseId, examId) {
    const asked = context.db
      .select({ id: examLook.id })
      .from(examLook)
      .where(
        and(eq(examLook.examId, examId), eq(examLook.colleagueId, context.actor.userId), isNull(examLook.withdrawnAt)),
      )
      .get();
    const admitted = admit(context, courseId, 'exam.look', asked !== undefined);
    if (!admitted.ok) return admitted;
    const found = examWithRevision(context.db, courseId, examId);
    return found ? ok({ ...admitted.value, ...found }) : notFound('exam');
  },
};
