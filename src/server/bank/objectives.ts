import { and, eq, inArray } from 'drizzle-orm';
import { z } from 'zod';
import { id } from '@/core/base/id';
import { notFound, ok, type Result, refused } from '@/core/base/result';
import type { Db } from '@/db/client';
import { courseBank, objective, question, questionObjective } from '@/db/schema';
import { newId } from '../house/context';
import { command } from '../house/useCase';
import { toBank } from './toBank';

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
export const createObjective = command({
  admits: toBank('bank.change'),
  takes: [objectiveInput],
  logs: 'objective.create',
  does({ tx, bankId, record }, input): Result<{ objectiveId: string }> {
    const objectiveId = newId();
    const added = tx
      .insert(objective)
      .values({ id: objectiveId, bankId, ...input })
      .onConflictDoNothing()
      .run();
    if (added.changes === 0) return refused('conflict', 'There is already an objective with this code.', 'code');
    record({ subjectId: objectiveId });
    return ok({ objectiveId });
  },
});

/** Aligns a question with exactly the objectives named. */
export const alignQuestion = command({
  admits: toBank('bank.change'),
  takes: [id('question'), z.array(id('objective')).max(1_000)],
  logs: 'question.align',
  does({ tx, bankId, record }, questionId, objectiveIds): Result<null> {
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
    record({ subjectId: questionId, detail: { objectiveIds } });
    return ok(null);
  },
});
