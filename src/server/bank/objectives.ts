import { and, eq, inArray } from 'drizzle-orm';
import { z } from 'zod';
import { parse } from '@/core/base/parse';
import { notFound, ok, type Result, refused } from '@/core/base/result';
import type { Db } from '@/db/client';
import { courseBank, objective, question, questionObjective } from '@/db/schema';
import { record } from '../house/audit';
import { type Context, newId } from '../house/context';
import { admitToBank } from './banks';

const objectiveInput = z.object({
  code: z.string().trim().min(1, 'Give the objective a code.').max(20),
  wording: z.string().trim().min(1, 'Word the objective.').max(300),
});

/** The objectives of a bank by code, numbers in codes counting as numbers. */
export const objectivesOf = (db: Db, bankId: string): { id: string; code: string; wording: string }[] =>
  db
    .select({ id: objective.id, code: objective.code, wording: objective.wording })
    .from(objective)
    .where(eq(objective.bankId, bankId))
    .all()
    .sort((a, b) => a.code.localeCompare(b.code, 'en', { numeric: true }));

/** The objectives of all banks a course uses, by code. */
export const objectivesInCourse = (db: Db, courseId: string): { id: string; code: string; wording: string }[] =>
  db
    .select({ id: objective.id, code: objective.code, wording: objective.wording })
    .from(objective)
    .innerJoin(courseBank, eq(courseBank.bankId, objective.bankId))
    .where(eq(courseBank.courseId, courseId))
    .all()
    .sort((a, b) => a.code.localeCompare(b.code, 'en', { numeric: true }));

/** Adds a learning objective to a bank; its code is its own there. */
export function createObjective(
  context: Context,
  courseId: string,
  bankId: string,
  input: unknown,
): Result<{ objectiveId: string }> {
  const admitted = admitToBank(context, courseId, bankId, 'bank.change');
  if (!admitted.ok) return admitted;
  const parsed = parse(objectiveInput, input);
  if (!parsed.ok) return parsed;
  return context.db.transaction(
    (tx) => {
      const objectiveId = newId();
      const added = tx
        .insert(objective)
        .values({ id: objectiveId, bankId, ...parsed.value })
        .onConflictDoNothing()
        .run();
      if (added.changes === 0) return refused('conflict', 'There is already an objective with this code.', 'code');
      record(tx, context, { action: 'objective.create', courseId, subjectId: objectiveId });
      return ok({ objectiveId });
    },
    { behavior: 'immediate' },
  );
}

/** Aligns a question with exactly the objectives named. */
export function alignQuestion(
  context: Context,
  courseId: string,
  bankId: string,
  questionId: string,
  objectiveIds: string[],
): Result<null> {
  const admitted = admitToBank(context, courseId, bankId, 'bank.change');
  if (!admitted.ok) return admitted;
  return context.db.transaction(
    (tx) => {
      const row = tx
        .select({ id: question.id })
        .from(question)
        .where(and(eq(question.id, questionId), eq(question.bankId, bankId)))
        .get();
      const known = tx
        .select({ id: objective.id })
        .from(objective)
        .where(and(eq(objective.bankId, bankId), inArray(objective.id, objectiveIds)))
        .all();
      if (!row) return notFound('question');
      if (known.length !== new Set(objectiveIds).size) return notFound('objective');
      tx.delete(questionObjective).where(eq(questionObjective.questionId, questionId)).run();
      if (known.length)
        tx.insert(questionObjective)
          .values(known.map(({ id }) => ({ questionId, objectiveId: id })))
          .run();
      record(tx, context, { action: 'question.align', courseId, subjectId: questionId, detail: { objectiveIds } });
      return ok(null);
    },
    { behavior: 'immediate' },
  );
}
