import { and, asc, count, eq, inArray, isNull, sql } from 'drizzle-orm';
import { z } from 'zod';
import { type CategoryNode, type CategoryRow, categoryTree, mayMoveBelow } from '@/core/bank/categoryTree';
import { parse } from '@/core/base/parse';
import { notFound, ok, type Result, refused } from '@/core/base/result';
import type { Db, Tx } from '@/db/client';
import { category, question } from '@/db/schema';
import { record } from '../house/audit';
import { type Context, newId } from '../house/context';
import { admitToBank } from './banks';

/** All categories of a bank as stored. */
export const categoryRows = (db: Db | Tx, bankId: string): CategoryRow[] =>
  db
    .select({ id: category.id, parentId: category.parentId, name: category.name, position: category.position })
    .from(category)
    .where(eq(category.bankId, bankId))
    .orderBy(asc(category.position))
    .all();

/** The tree of a bank with its counts; retired questions are not counted. */
export function seeCategories(context: Context, courseId: string, bankId: string): Result<CategoryNode[]> {
  const admitted = admitToBank(context, courseId, bankId, 'bank.see');
  if (!admitted.ok) return admitted;
  const counts = context.db
    .select({ id: question.categoryId, n: count() })
    .from(question)
    .where(and(eq(question.bankId, bankId), isNull(question.retiredAt)))
    .groupBy(question.categoryId)
    .all();
  return ok(categoryTree(categoryRows(context.db, bankId), new Map(counts.map((row) => [row.id, row.n]))));
}

const nameInput = z.string().trim().min(1, 'Give the category a name.').max(120, 'At most 120 characters.');

/** Adds a category as the last one below another, or at the top. */
export function createCategory(
  context: Context,
  courseId: string,
  bankId: string,
  input: { name: unknown; parentId: string | null },
): Result<{ categoryId: string }> {
  const admitted = admitToBank(context, courseId, bankId, 'bank.change');
  if (!admitted.ok) return admitted;
  const name = parse(nameInput, input.name);
  if (!name.ok) return name;
  return context.db.transaction(
    (tx) => {
      const rows = categoryRows(tx, bankId);
      if (input.parentId !== null && !rows.some((row) => row.id === input.parentId)) return notFound('category');
      const categoryId = newId();
      const position = rows.filter((row) => row.parentId === input.parentId).length;
      tx.insert(category)
        .values({ id: categoryId, bankId, parentId: input.parentId, name: name.value, position })
        .run();
      const undo = { kind: 'category.create', categoryId };
      record(tx, context, {
        action: 'category.create',
        courseId,
        subjectId: categoryId,
        detail: { name: name.value },
        undo,
      });
      return ok({ categoryId });
    },
    { behavior: 'immediate' },
  );
}

export function renameCategory(
  context: Context,
  courseId: string,
  bankId: string,
  categoryId: string,
  input: unknown,
): Result<{ auditId: number }> {
  const admitted = admitToBank(context, courseId, bankId, 'bank.change');
  if (!admitted.ok) return admitted;
  const name = parse(nameInput, input);
  if (!name.ok) return name;
  return context.db.transaction(
    (tx) => {
      const before = categoryRows(tx, bankId).find((row) => row.id === categoryId);
      if (!before) return notFound('category');
      tx.update(category).set({ name: name.value }).where(eq(category.id, categoryId)).run();
      const undo = { kind: 'category.rename', categoryId, name: before.name };
      return ok({
        auditId: record(tx, context, {
          action: 'category.rename',
          courseId,
          subjectId: categoryId,
          detail: { name: name.value },
          undo,
        }),
      });
    },
    { behavior: 'immediate' },
  );
}

/**
 * Moves a category, with all it holds, below another (or to the top), to a place among its new neighbours.
 *
 * @param place 0 is first; larger than the number of neighbours is last
 */
export function moveCategory(
  context: Context,
  courseId: string,
  bankId: string,
  categoryId: string,
  target: { parentId: string | null; place: number },
): Result<{ auditId: number }> {
  const admitted = admitToBank(context, courseId, bankId, 'bank.change');
  if (!admitted.ok) return admitted;
  return context.db.transaction(
    (tx) => {
      const rows = categoryRows(tx, bankId);
      const moved = rows.find((row) => row.id === categoryId);
      if (!moved || (target.parentId !== null && !rows.some((row) => row.id === target.parentId)))
        return notFound('category');
      if (!mayMoveBelow(rows, categoryId, target.parentId))
        return refused('conflict', `${moved.name} cannot be moved below itself.`, 'parentId');
      const oldPlace = rows.filter((row) => row.parentId === moved.parentId && row.position < moved.position).length;
      placeCategory(tx, bankId, categoryId, target);
      const undo = { kind: 'category.move', bankId, categoryId, parentId: moved.parentId, place: oldPlace };
      return ok({
        auditId: record(tx, context, {
          action: 'category.move',
          courseId,
          subjectId: categoryId,
          detail: target,
          undo,
        }),
      });
    },
    { behavior: 'immediate' },
  );
}

/** Puts a category at a place among its new neighbours and numbers them anew. */
export function placeCategory(
  tx: Tx,
  bankId: string,
  categoryId: string,
  target: { parentId: string | null; place: number },
) {
  const neighbours = categoryRows(tx, bankId).filter(
    (row) => row.parentId === target.parentId && row.id !== categoryId,
  );
  const order = neighbours.map((row) => row.id);
  order.splice(Math.max(0, target.place), 0, categoryId);
  for (const [position, id] of order.entries())
    tx.update(category).set({ position, parentId: target.parentId }).where(eq(category.id, id)).run();
}

/** Deletes a category that holds nothing. */
export function deleteCategory(
  context: Context,
  courseId: string,
  bankId: string,
  categoryId: string,
): Result<{ auditId: number }> {
  const admitted = admitToBank(context, courseId, bankId, 'bank.change');
  if (!admitted.ok) return admitted;
  return context.db.transaction(
    (tx) => {
      const rows = categoryRows(tx, bankId);
      const gone = rows.find((row) => row.id === categoryId);
      if (!gone) return notFound('category');
      const held =
        tx.select({ n: sql<number>`count(*)` }).from(question).where(eq(question.categoryId, categoryId)).get()?.n ?? 0;
      const below = rows.filter((row) => row.parentId === categoryId).length;
      if (held + below > 0)
        return refused(
          'conflict',
          `${gone.name} is not empty: it holds ${held} questions and ${below} categories, retired ones included. Move them first.`,
        );
      tx.delete(category).where(eq(category.id, categoryId)).run();
      const undo = { kind: 'category.delete', bankId, row: gone };
      return ok({
        auditId: record(tx, context, {
          action: 'category.delete',
          courseId,
          subjectId: categoryId,
          detail: { name: gone.name },
          undo,
        }),
      });
    },
    { behavior: 'immediate' },
  );
}

/**
 * Deletes a category after moving all it holds, retired questions and categories below it included, into another: the
 * way to merge two. Draws that name it lose it; the plan check of their exams says so.
 */
export function emptyCategoryInto(
  context: Context,
  courseId: string,
  bankId: string,
  categoryId: string,
  targetId: string,
): Result<{ auditId: number; questions: number; categories: number }> {
  const admitted = admitToBank(context, courseId, bankId, 'bank.change');
  if (!admitted.ok) return admitted;
  return context.db.transaction(
    (tx) => {
      const rows = categoryRows(tx, bankId);
      const gone = rows.find((row) => row.id === categoryId);
      if (!gone || !rows.some((row) => row.id === targetId)) return notFound('category');
      if (!mayMoveBelow(rows, categoryId, targetId))
        return refused(
          'conflict',
          `The contents of ${gone.name} cannot go into something that lies in it.`,
          'targetId',
        );
      const childIds = rows.filter((row) => row.parentId === categoryId).map((row) => row.id);
      let place = rows.filter((row) => row.parentId === targetId).length;
      for (const childId of childIds)
        tx.update(category).set({ parentId: targetId, position: place++ }).where(eq(category.id, childId)).run();
      const questionIds = tx
        .update(question)
        .set({ categoryId: targetId })
        .where(eq(question.categoryId, categoryId))
        .returning({ id: question.id })
        .all()
        .map((row) => row.id);
      tx.delete(category).where(eq(category.id, categoryId)).run();
      const auditId = record(tx, context, {
        action: 'category.empty',
        courseId,
        subjectId: categoryId,
        detail: { name: gone.name, into: targetId, questions: questionIds.length },
        undo: { kind: 'category.empty', bankId, row: gone, questionIds, childIds },
      });
      return ok({ auditId, questions: questionIds.length, categories: childIds.length });
    },
    { behavior: 'immediate' },
  );
}

/** Brings an emptied category back with what it held. */
export function refillCategory(
  tx: Tx,
  was: { bankId: string; row: CategoryRow; questionIds: string[]; childIds: string[] },
): void {
  tx.insert(category)
    .values({ ...was.row, bankId: was.bankId })
    .run();
  for (let i = 0; i < was.questionIds.length; i += 500)
    tx.update(question)
      .set({ categoryId: was.row.id })
      .where(inArray(question.id, was.questionIds.slice(i, i + 500)))
      .run();
  for (const [position, childId] of was.childIds.entries())
    tx.update(category).set({ parentId: was.row.id, position }).where(eq(category.id, childId)).run();
}
