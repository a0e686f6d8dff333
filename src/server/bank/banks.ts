import { and, asc, count, eq, isNull } from 'drizzle-orm';
import { notFound, ok, type Result } from '@/core/base/result';
import type { Action } from '@/core/people/policy';
import { bank, courseBank, question } from '@/db/schema';
import type { Context } from '../house/context';
import { type Admission, admit } from '../people/permission';

export type BankRow = { id: string; name: string; questions: number };

/** The banks a course uses. */
export function listBanks(context: Context, courseId: string): Result<BankRow[]> {
  const admitted = admit(context, courseId, 'bank.see');
  if (!admitted.ok) return admitted;
  return ok(
    context.db
      .select({ id: bank.id, name: bank.name, questions: count(question.id) })
      .from(courseBank)
      .innerJoin(bank, eq(bank.id, courseBank.bankId))
      .leftJoin(question, and(eq(question.bankId, bank.id), isNull(question.retiredAt)))
      .where(eq(courseBank.courseId, courseId))
      .groupBy(bank.id)
      .orderBy(asc(bank.name))
      .all(),
  );
}

/** Admits to a bank through a course that uses it: ids from a browser are not trusted to belong together. */
export function admitToBank(context: Context, courseId: string, bankId: string, action: Action): Result<Admission> {
  const admitted = admit(context, courseId, action);
  if (!admitted.ok) return admitted;
  const used = context.db
    .select({ bankId: courseBank.bankId })
    .from(courseBank)
    .where(and(eq(courseBank.courseId, courseId), eq(courseBank.bankId, bankId)))
    .get();
  return used ? admitted : notFound('bank');
}
