import { and, asc, eq, inArray } from 'drizzle-orm';
import { z } from 'zod';
import type { Db, Tx } from '@/db/client';
import { objective, question, questionObjective, questionTag } from '@/db/schema';

/** A free tag: a few words without commas, which divide tags where they are typed. */
export const tagInput = z
  .string()
  .trim()
  .min(1, 'A tag needs a word.')
  .max(60, 'At most 60 characters.')
  .regex(/^[^,;]*$/, 'A tag holds no comma.');
export const tagsInput = z.array(tagInput).max(30, 'At most 30 tags.');

export const tagsOf = (db: Db | Tx, questionId: string): string[] =>
  db
    .select({ tag: questionTag.tag })
    .from(questionTag)
    .where(eq(questionTag.questionId, questionId))
    .orderBy(asc(questionTag.tag))
    .all()
    .map((row) => row.tag);

/** Every tag of a bank's questions. */
export const tagsInBank = (db: Db | Tx, bankId: string): string[] =>
  db
    .selectDistinct({ tag: questionTag.tag })
    .from(questionTag)
    .innerJoin(question, eq(question.id, questionTag.questionId))
    .where(eq(question.bankId, bankId))
    .orderBy(asc(questionTag.tag))
    .all()
    .map((row) => row.tag);

/** Puts a question's objectives and tags to exactly those named; what is undefined stays. Foreign objectives are left out. */
export function setLabels(
  tx: Tx,
  bankId: string,
  questionId: string,
  labels: { objectives?: string[]; tags?: string[] },
): void {
  if (labels.tags) {
    tx.delete(questionTag).where(eq(questionTag.questionId, questionId)).run();
    const tags = [...new Set(labels.tags)];
    if (tags.length)
      tx.insert(questionTag)
        .values(tags.map((tag) => ({ questionId, tag })))
        .run();
  }
  if (labels.objectives) {
    const own = labels.objectives.length
      ? tx
          .select({ id: objective.id })
          .from(objective)
          .where(and(eq(objective.bankId, bankId), inArray(objective.id, labels.objectives)))
          .all()
      : [];
    tx.delete(questionObjective).where(eq(questionObjective.questionId, questionId)).run();
    if (own.length)
      tx.insert(questionObjective)
        .values(own.map(({ id }) => ({ questionId, objectiveId: id })))
        .run();
  }
}

/** The values that belong to each id, in the order in which they came. */
export function grouped(rows: { id: string; value: string }[]): Map<string, string[]> {
  const all = new Map<string, string[]>();
  for (const { id, value } of rows) {
    const own = all.get(id);
    if (own) own.push(value);
    else all.set(id, [value]);
  }
  return all;
}
