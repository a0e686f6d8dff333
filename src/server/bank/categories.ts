import { and, asc, count, eq, inArray, isNull, sql } from 'drizzle-orm';
import { z } from 'zod';
import { type CategoryNode, type CategoryRow, categoryTree, mayMoveBelow } from '@/core/bank/categoryTree';
import { id } from '@/core/base/id';
import { notFound, ok, type Result, refused } from '@/core/base/result';
import { counted } from '@/core/base/words';
import type { Db, Tx } from '@/db/client';
import { category, question } from '@/db/schema';
import { newId } from '../house/context';
import { undoable } from '../house/undoable';
import { command, query } from '../house/useCase';
import { toBank } from './toBank';

/** All categories of a bank as stored. */
export const categoryRows = (db: Db | Tx, bankId: string): CategoryRow[] =>
  db
    .select({ id: category.id, parentId: category.parentId, name: category.name, position: category.position })
    .from(category)
    .where(eq(category.bankId, bankId))
    .orderBy(asc(category.position))
    .all();

/** The tree of a bank with its counts; retired questions are not counted. */
export const seeCategories = query({
  admits: toBank('bank.see'),
  does({ bankId, context }): Result<CategoryNode[]> {
    const counts = context.db
      .select({ id: question.categoryId, n: count() })
      .from(question)
      .where(and(eq(question.bankId, bankId), isNull(question.retiredAt)))
      .groupBy(question.categoryId)
      .all();
    return ok(categoryTree(categoryRows(context.db, bankId), new Map(counts.map((row) => [row.id, row.n]))));
  },
});

const nameInput = z.string().trim().min(1, 'Give the category a name.').max(120, 'At most 120 characters.');

/** What keeps a category from coming back below another: that one is gone. */
function parentGone(tx: Tx, parentId: string | null): string | null {
  if (parentId === null) return null;
  const parent = tx.select({ id: category.id }).from(category).where(eq(category.id, parentId)).get();
  return parent ? null : 'The category it stood below has been deleted since.';
}

const categorySaid = (name: unknown) => (typeof name === 'string' ? `The category “${name}”` : 'A category');

const created = undoable<{ categoryId: string }>('category.create', {
  action: 'bank.change',
  isListed: false,
  says: (_kept, { name }) => `${categorySaid(name)} added`,
  hindered(tx, { categoryId }) {
    const held = tx.select({ id: question.id }).from(question).where(eq(question.categoryId, categoryId)).get();
    const below = tx.select({ id: category.id }).from(category).where(eq(category.parentId, categoryId)).get();
    return held || below ? 'The category has been filled since. Empty it first.' : null;
  },
  apply(tx, _context, { categoryId }) {
    tx.delete(category).where(eq(category.id, categoryId)).run();
  },
});

const renamed = undoable<{ categoryId: string; name: string }>('category.rename', {
  action: 'bank.change',
  says: ({ name: was }, { name }) => `The category “${was}” renamed to “${name}”`,
  apply(tx, _context, { categoryId, name }) {
    tx.update(category).set({ name }).where(eq(category.id, categoryId)).run();
  },
});

const relocated = undoable<{ bankId: string; categoryId: string; parentId: string | null; place: number }>(
  'category.move',
  {
    action: 'bank.change',
    says: (_kept, { name }) => `${categorySaid(name)} moved`,
    hindered: (tx, { parentId }) => parentGone(tx, parentId),
    apply: (tx, _context, { bankId, categoryId, ...target }) => placeCategory(tx, bankId, categoryId, target),
  },
);

const deleted = undoable<{ bankId: string; row: CategoryRow }>('category.delete', {
  action: 'bank.change',
  says: ({ row }) => `${categorySaid(row.name)} deleted`,
  hindered: (tx, { row }) => parentGone(tx, row.parentId),
  apply(tx, _context, { bankId, row }) {
    tx.insert(category)
      .values({ ...row, bankId })
      .run();
  },
});

const emptied = undoable<{
  bankId: string;
  row: CategoryRow;
  questionIds: string[];
  childIds: string[];
  into?: string;
}>('category.empty', {
  action: 'bank.change',
  says: ({ row, questionIds }) =>
    `${categorySaid(row.name)} deleted, its ${counted(questionIds.length, 'question')} moved`,
  hindered: (tx, { row }) => parentGone(tx, row.parentId),
  apply(tx, _context, was): Result<string> {
    let back = 0;
    tx.insert(category)
      .values({ ...was.row, bankId: was.bankId })
      .run();
    for (let i = 0; i < was.questionIds.length; i += 500)
      // What was moved elsewhere since stays there.
      back += tx
        .update(question)
        .set({ categoryId: was.row.id })
        .where(
          and(
            inArray(question.id, was.questionIds.slice(i, i + 500)),
            was.into === undefined ? undefined : eq(question.categoryId, was.into),
          ),
        )
        .run().changes;
    for (const [position, childId] of was.childIds.entries())
      tx.update(category).set({ parentId: was.row.id, position }).where(eq(category.id, childId)).run();
    const elsewhere = was.questionIds.length - back;
    return ok(
      elsewhere === 0
        ? ''
        : `${counted(back, 'question')} moved back; ${counted(elsewhere, 'was', 'were')} moved elsewhere since and ${elsewhere === 1 ? 'stays' : 'stay'} there.`,
    );
  },
});

/** Every change of categories that can be taken back. */
export const categoryChanges = [created, renamed, relocated, deleted, emptied];

/** Adds a category as the last one below another, or at the top. */
export const createCategory = command({
  admits: toBank('bank.change'),
  takes: [z.object({ name: nameInput, parentId: id('category').nullable() })],
  logs: 'category.create',
  does({ tx, bankId, record }, { name, parentId }): Result<{ categoryId: string }> {
    const rows = categoryRows(tx, bankId);
    if (parentId !== null && !rows.some((row) => row.id === parentId)) return notFound('category');
    const categoryId = newId();
    const position = rows.filter((row) => row.parentId === parentId).length;
    tx.insert(category).values({ id: categoryId, bankId, parentId, name, position }).run();
    const undo = created.of({ categoryId });
    record({ subjectId: categoryId, detail: { name }, undo, within: bankId });
    return ok({ categoryId });
  },
});

/** Gives a category another name. */
export const renameCategory = command({
  admits: toBank('bank.change'),
  takes: [id('category'), nameInput],
  logs: 'category.rename',
  does({ tx, bankId, record }, categoryId, name): Result<{ auditId: number }> {
    const before = categoryRows(tx, bankId).find((row) => row.id === categoryId);
    if (!before) return notFound('category');
    tx.update(category).set({ name }).where(eq(category.id, categoryId)).run();
    const undo = renamed.of({ categoryId, name: before.name });
    return ok({
      auditId: record({ subjectId: categoryId, detail: { name, was: before.name }, undo, within: bankId }),
    });
  },
});

/**
 * Moves a category, with all it holds, below another (or to the top), to a place among its new neighbours.
 *
 * @param place 0 is first; larger than the number of neighbours is last
 */
export const moveCategory = command({
  admits: toBank('bank.change'),
  takes: [id('category'), z.object({ parentId: id('category').nullable(), place: z.int().min(0) })],
  logs: 'category.move',
  does({ tx, bankId, record }, categoryId, target): Result<{ auditId: number }> {
    const rows = categoryRows(tx, bankId);
    const moved = rows.find((row) => row.id === categoryId);
    if (!moved || (target.parentId !== null && !rows.some((row) => row.id === target.parentId)))
      return notFound('category');
    if (!mayMoveBelow(rows, categoryId, target.parentId))
      return refused('conflict', `${moved.name} cannot be moved below itself.`, 'parentId');
    const oldPlace = rows.filter((row) => row.parentId === moved.parentId && row.position < moved.position).length;
    placeCategory(tx, bankId, categoryId, target);
    const undo = relocated.of({ bankId, categoryId, parentId: moved.parentId, place: oldPlace });
    return ok({
      auditId: record({ subjectId: categoryId, detail: { ...target, name: moved.name }, undo, within: bankId }),
    });
  },
});

/** Puts a category at a place among its new neighbours and numbers them anew. */
function placeCategory(tx: Tx, bankId: string, categoryId: string, target: { parentId: string | null; place: number }) {
  const neighbours = categoryRows(tx, bankId).filter(
    (row) => row.parentId === target.parentId && row.id !== categoryId,
  );
  const order = neighbours.map((row) => row.id);
  order.splice(Math.max(0, target.place), 0, categoryId);
  for (const [position, id] of order.entries())
    tx.update(category).set({ position, parentId: target.parentId }).where(eq(category.id, id)).run();
}

/** Deletes a category that holds nothing. */
export const deleteCategory = command({
  admits: toBank('bank.change'),
  takes: [id('category')],
  logs: 'category.delete',
  does({ tx, bankId, record }, categoryId): Result<{ auditId: number }> {
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
    const undo = deleted.of({ bankId, row: gone });
    return ok({
      auditId: record({ subjectId: categoryId, detail: { name: gone.name }, undo, within: bankId }),
    });
  },
});

/**
 * Deletes a category after moving all it holds, retired questions and categories below it included, into another: the
 * way to merge two. Draws that name it lose it; the plan check of their exams says so.
 */
export const emptyCategoryInto = command({
  admits: toBank('bank.change'),
  takes: [id('category'), id('category')],
  logs: 'category.empty',
  does(
    { tx, bankId, record },
    categoryId,
    targetId,
  ): Result<{ auditId: number; questions: number; categories: number }> {
    const rows = categoryRows(tx, bankId);
    const gone = rows.find((row) => row.id === categoryId);
    if (!gone || !rows.some((row) => row.id === targetId)) return notFound('category');
    if (!mayMoveBelow(rows, categoryId, targetId))
      return refused('conflict', `The contents of ${gone.name} cannot go into something that lies in it.`, 'targetId');
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
    const auditId = record({
      subjectId: categoryId,
      detail: { name: gone.name, into: targetId, questions: questionIds.length },
      undo: emptied.of({ bankId, row: gone, questionIds, childIds, into: targetId }),
      within: bankId,
    });
    return ok({ auditId, questions: questionIds.length, categories: childIds.length });
  },
});
