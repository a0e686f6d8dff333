import { and, eq, isNull } from 'drizzle-orm';
import { notFound, ok, type Result } from '@/core/base/result';
import { examLook } from '@/db/schema';
import type { Context } from '../house/context';
import { type Admission, admit } from '../people/permission';
import { examWithRevision } from './exams';

/**
 * Admits to an exam, its key included, who composes it, and a colleague who was asked to look at it. To a colleague who was
 * not asked it does not exist.
 */
export function admitToLook(
  context: Context,
  courseId: string,
  examId: string,
): Result<Admission & NonNullable<ReturnType<typeof examWithRevision>>> {
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
}
