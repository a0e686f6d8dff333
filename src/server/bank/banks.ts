import { and, asc, count, eq, inArray, isNull } from 'drizzle-orm';
import { z } from 'zod';
import { id } from '@/core/base/id';
import { notFound, ok, type Result, refused } from '@/core/base/result';
import { listed } from '@/core/base/words';
import { type ExamDesign, linesOf } from '@/core/exam/design';
import type { Tx } from '@/db/client';
import { bank, category, courseBank, exam, examRevision, question, sitting } from '@/db/schema';
import { inSlices } from '../house/inSlices';
import { undoable } from '../house/undoable';
import { command, query } from '../house/useCase';
import { type BankElsewhere, type BankRow, banksTaught, insertBank } from '../people/courseBanks';
import { toCourse } from '../people/toCourse';
import { toBank } from './toBank';

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

/** Banks that this course does not use, of other courses that the same person teaches: those they can bring in. */
export const banksElsewhere = query({
  admits: toCourse('bank.change'),
  does: ({ db, courseId, actor }): Result<BankElsewhere[]> => ok(banksTaught(db, actor.userId, courseId)),
});

const bankName = z.string().trim().min(1, 'Give the bank a name.').max(120, 'At most 120 characters.');

const isTaken = (tx: Tx, courseId: string, name: string, but: string | null): boolean =>
  tx
    .select({ id: bank.id })
    .from(courseBank)
    .innerJoin(bank, eq(bank.id, courseBank.bankId))
    .where(and(eq(courseBank.courseId, courseId), eq(bank.name, name)))
    .all()
    .some((row) => row.id !== but);

const takenSaid = 'A bank of this course is called so already.';

/** Begins another bank in the course. */
export const beginBank = command({
  admits: toCourse('bank.change'),
  takes: [z.object({ name: bankName })],
  logs: 'bank.begin',
  does({ tx, courseId, context, record }, { name }): Result<{ bankId: string }> {
    if (isTaken(tx, courseId, name, null)) return refused('bad-input', takenSaid, 'name');
    const bankId = insertBank(tx, context, courseId, name);
    record({ subjectId: bankId, detail: { name } });
    return ok({ bankId });
  },
});

/** Calls a bank something else, in every course that uses it. */
export const renameBank = command({
  admits: toBank('bank.change'),
  takes: [z.object({ name: bankName })],
  logs: 'bank.rename',
  does({ tx, courseId, bankId, record }, { name }): Result<null> {
    if (isTaken(tx, courseId, name, bankId)) return refused('bad-input', takenSaid, 'name');
    tx.update(bank).set({ name }).where(eq(bank.id, bankId)).run();
    record({ subjectId: bankId, detail: { name } });
    return ok(null);
  },
});

type Use = { courseId: string; bankId: string };

const use = (tx: Tx, { courseId, bankId }: Use) => tx.insert(courseBank).values({ courseId, bankId }).run();
const stopUsing = (tx: Tx, { courseId, bankId }: Use) =>
  tx
    .delete(courseBank)
    .where(and(eq(courseBank.courseId, courseId), eq(courseBank.bankId, bankId)))
    .run();

/** A course took up a bank: taken back, the course no longer uses it. */
export const bankBroughtIn = undoable<Use>('bank.take-up', {
  action: 'bank.change',
  says: (_kept, { name }) => `The bank ${name} taken up by the course`,
  hindered: (tx, kept) => whyStays(tx, kept),
  apply(tx, _context, kept) {
    stopUsing(tx, kept);
  },
});

/** A course stopped using a bank: taken back, it uses it again. */
export const bankTakenOut = undoable<Use>('bank.give-up', {
  action: 'bank.change',
  says: (_kept, { name }) => `The bank ${name} no longer used by the course`,
  apply(tx, _context, kept) {
    use(tx, kept);
  },
});

/** Takes up a bank of another course that the same person teaches; both use the same questions from then on. */
export const takeUpBank = command({
  admits: toCourse('bank.change'),
  takes: [id('bank')],
  logs: 'bank.take-up',
  does({ tx, courseId, actor, record }, bankId): Result<{ auditId: number }> {
    const found = banksTaught(tx, actor.userId, courseId).find((one) => one.id === bankId);
    if (!found) return notFound('bank');
    const { name } = found;
    if (isTaken(tx, courseId, name, null))
      return refused('conflict', `${takenSaid} Give one of the two another name first.`);
    use(tx, { courseId, bankId });
    const undo = bankBroughtIn.of({ courseId, bankId });
    return ok({ auditId: record({ subjectId: bankId, within: bankId, detail: { name }, undo }) });
  },
});

/**
 * Stops using a bank in a course; all its questions stay where else it is used. Refused while an exam of the course
 * names anything of it, and where no other course uses it: nobody could reach it any more.
 */
export const giveUpBank = command({
  admits: toBank('bank.change'),
  logs: 'bank.give-up',
  does({ tx, courseId, bankId, record }): Result<{ auditId: number }> {
    const why = whyStays(tx, { courseId, bankId });
    if (why) return refused('conflict', why);
    const others = tx.select().from(courseBank).where(eq(courseBank.bankId, bankId)).all();
    if (others.length < 2)
      return refused('conflict', 'No other course uses this bank: out of this one, nobody could reach its questions.');
    const name = tx.select({ name: bank.name }).from(bank).where(eq(bank.id, bankId)).get()?.name ?? '';
    stopUsing(tx, { courseId, bankId });
    const undo = bankTakenOut.of({ courseId, bankId });
    return ok({ auditId: record({ subjectId: bankId, detail: { name }, undo }) });
  },
});

/** What in a course hangs on a bank, in words: exams whose newest design, or one that a sitting was given with, names anything of it. */
function whyStays(tx: Tx, { courseId, bankId }: Use): string | null {
  const designs = [
    ...tx
      .select({ title: exam.title, design: examRevision.design })
      .from(exam)
      .innerJoin(examRevision, eq(examRevision.id, exam.currentRevisionId))
      .where(eq(exam.courseId, courseId))
      .all(),
    ...tx
      .select({ title: exam.title, design: examRevision.design })
      .from(sitting)
      .innerJoin(exam, eq(exam.id, sitting.examId))
      .innerJoin(examRevision, eq(examRevision.id, sitting.revisionId))
      .where(eq(sitting.courseId, courseId))
      .all(),
  ];
  const named = namedIn(designs.map((one) => one.design));
  const held = new Set([
    ...inSlices([...named.categories], (slice) =>
      tx
        .select({ id: category.id })
        .from(category)
        .where(and(eq(category.bankId, bankId), inArray(category.id, slice)))
        .all(),
    ).map((row) => row.id),
    ...inSlices([...named.questions], (slice) =>
      tx
        .select({ id: question.id })
        .from(question)
        .where(and(eq(question.bankId, bankId), inArray(question.id, slice)))
        .all(),
    ).map((row) => row.id),
  ]);
  const titles = new Set(
    designs.flatMap(({ title, design }) => {
      const { categories, questions } = namedIn([design]);
      return [...categories, ...questions].some((one) => held.has(one)) ? [title] : [];
    }),
  );
  return titles.size === 0 ? null : `Exams of this course take questions from it: ${listed([...titles], 5)}.`;
}

/** The categories and questions that designs name. */
function namedIn(designs: readonly ExamDesign[]): { categories: Set<string>; questions: Set<string> } {
  const categories = new Set<string>();
  const questions = new Set<string>();
  for (const { line } of designs.flatMap((design) => linesOf(design))) {
    if (line.kind === 'fixed') questions.add(line.questionId);
    else {
      for (const one of line.pool.categories) categories.add(one.id);
      for (const one of line.pool.questions ?? []) questions.add(one);
    }
  }
  return { categories, questions };
}
