import { and, asc, count, eq, isNull } from 'drizzle-orm';
import { ok, type Result } from '@/core/base/result';
import { bank, courseBank, question } from '@/db/schema';
import { query } from '../house/useCase';
import { toCourse } from '../people/toCourse';

type BankRow = { id: string; name: string; questions: number };

/** The banks a course uses. */
export const listBanks = query({
  admits: toCourse('bank.see'),
  does({ courseId, context }): Result<BankRow[]> {
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
  },
});
