import { and, asc, count, eq, inArray, isNull, ne } from 'drizzle-orm';
import { permits } from '@/core/people/policy';
import type { Db, Tx } from '@/db/client';
import { bank, category, course, courseBank, membership, question } from '@/db/schema';
import { type Context, newId } from '../house/context';
import { inSlices } from '../house/inSlices';

/** A bank in a list, with how many questions in use it holds. */
export type BankRow = { id: string; name: string; questions: number };

/** A bank of other courses, with those of them that the asking person teaches. */
export type BankElsewhere = BankRow & { courses: string[] };

/** The banks of all courses, but for one, in which a person may change banks: by name. */
export function banksTaught(db: Db | Tx, userId: string, but: string | null): BankElsewhere[] {
  const rows = db
    .select({ id: bank.id, name: bank.name, course: course.name, term: course.term, role: membership.role })
    .from(membership)
    .innerJoin(course, eq(course.id, membership.courseId))
    .innerJoin(courseBank, eq(courseBank.courseId, course.id))
    .innerJoin(bank, eq(bank.id, courseBank.bankId))
    .where(
      and(eq(membership.userId, userId), isNull(membership.removedAt), but === null ? undefined : ne(course.id, but)),
    )
    .orderBy(asc(bank.name), asc(course.createdAt))
    .all()
    .filter((row) => permits('bank.change', row.role, true));
  const own = new Set(
    but === null
      ? []
      : db
          .select({ id: courseBank.bankId })
          .from(courseBank)
          .where(eq(courseBank.courseId, but))
          .all()
          .map((row) => row.id),
  );
  const banks = new Map<string, BankElsewhere>();
  for (const row of rows) {
    if (own.has(row.id)) continue;
    const known = banks.get(row.id) ?? { id: row.id, name: row.name, questions: 0, courses: [] };
    known.courses.push([row.course, row.term].filter(Boolean).join(', '));
    banks.set(row.id, known);
  }
  const counts = inSlices([...banks.keys()], (slice) =>
    db
      .select({ id: question.bankId, questions: count() })
      .from(question)
      .where(and(inArray(question.bankId, slice), isNull(question.retiredAt)))
      .groupBy(question.bankId)
      .all(),
  );
  for (const { id: bankId, questions } of counts) {
    const one = banks.get(bankId);
    if (one) one.questions = questions;
  }
  return [...banks.values()];
}

/** A new bank with one category, so that a question can be written at once. */
export function insertBank(tx: Tx, context: Context, courseId: string, name: string): string {
  const bankId = newId();
  tx.insert(bank).values({ id: bankId, name, createdBy: context.actor.userId, createdAt: context.now }).run();
  tx.insert(courseBank).values({ courseId, bankId }).run();
  tx.insert(category).values({ id: newId(), bankId, parentId: null, name: 'General', position: 0 }).run();
  return bankId;
}
