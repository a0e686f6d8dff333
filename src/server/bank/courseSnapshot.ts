import { and, eq, inArray, isNull } from 'drizzle-orm';
import { categoryPathNames, categoryPaths } from '@/core/bank/categoryTree';
import { expectedCredit, type PoolSnapshot, snapshotOf } from '@/core/exam/snapshot';
import type { Db, Tx } from '@/db/client';
import { category, courseBank, question, questionObjective } from '@/db/schema';

import { observed } from './observed';

export type CourseQuestions = {
  snapshot: PoolSnapshot;
  /** Every category of the course's banks with those above it, by id. */
  categoryNames: Map<string, string>;
};

/**
 * All questions of the banks a course uses, as drawing sees them today.
 *
 * @param withRetired also those taken out of use
 */
export function courseSnapshot(db: Db | Tx, courseId: string, withRetired = false): CourseQuestions {
  const bankIds = db
    .select({ id: courseBank.bankId })
    .from(courseBank)
    .where(eq(courseBank.courseId, courseId))
    .all()
    .map((row) => row.id);
  if (bankIds.length === 0) return { snapshot: snapshotOf([]), categoryNames: new Map() };
  const categories = db.select().from(category).where(inArray(category.bankId, bankIds)).all();
  const paths = categoryPaths(categories);
  const objectives = new Map<string, string[]>();
  const aligned = db
    .select({ questionId: questionObjective.questionId, objectiveId: questionObjective.objectiveId })
    .from(questionObjective)
    .innerJoin(question, eq(question.id, questionObjective.questionId))
    .where(inArray(question.bankId, bankIds))
    .all();
  for (const row of aligned)
    objectives.set(row.questionId, [...(objectives.get(row.questionId) ?? []), row.objectiveId]);
  const rows = db
    .select()
    .from(question)
    .where(and(inArray(question.bankId, bankIds), withRetired ? undefined : isNull(question.retiredAt)))
    .all();
  const seen = observed(
    db,
    rows.map((row) => row.id),
  );
  const snapshot = snapshotOf(
    rows.map((row) => {
      const success = seen.get(row.id)?.success ?? null;
      return {
        questionId: row.id,
        versionId: row.currentVersionId,
        type: row.type,
        categoryPath: paths.get(row.categoryId) ?? [row.categoryId],
        difficulty: row.difficulty,
        objectives: objectives.get(row.id) ?? [],
        passageId: row.passageId,
        success,
        expected: expectedCredit(row.difficulty, success),
      };
    }),
  );
  return { snapshot, categoryNames: categoryPathNames(categories) };
}
