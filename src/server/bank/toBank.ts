import { and, eq } from 'drizzle-orm';
import { notFound } from '@/core/base/result';
import type { Action } from '@/core/people/policy';
import { courseBank } from '@/db/schema';
import type { Door } from '../house/useCase';
import { type Admission, admit } from '../people/permission';

/** To a bank, through a course that uses it. */
export const toBank = (action: Action): Door<readonly ['courseId', 'bankId'], Admission & { bankId: string }> => ({
  ids: ['courseId', 'bankId'],
  action,
  open(context, courseId, bankId) {
    const admitted = admit(context, courseId, action);
    if (!admitted.ok) return admitted;
    const used = context.db
      .select({ bankId: courseBank.bankId })
      .from(courseBank)
      .where(and(eq(courseBank.courseId, courseId), eq(courseBank.bankId, bankId)))
      .get();
    return used ? { ok: true, value: { ...admitted.value, bankId } } : notFound('bank');
  },
});
