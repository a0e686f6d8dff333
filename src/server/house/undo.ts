import { and, eq, inArray, isNull } from 'drizzle-orm';
import type { CategoryRow } from '@/core/bank/categoryTree';
import { notFound, ok, type Result, refused } from '@/core/base/result';
import { oneOrMany } from '@/core/base/words';
import type { Action } from '@/core/people/policy';
import type { Tx } from '@/db/client';
import { audit, category, membership, question } from '@/db/schema';
import { placeCategory, refillCategory } from '../bank/categories';
import type { BeforeChange } from '../bank/editMany';
import { changedSince, takeBack } from '../bank/takeBack';
import { admit } from '../people/permission';
import { record } from './audit';
import type { Context } from './context';

/** What each kind of undo needs, as the change that can be undone wrote it into the log. */
type Undo =
  | { kind: 'category.create'; categoryId: string }
  | { kind: 'category.rename'; categoryId: string; name: string }
  | { kind: 'category.move'; bankId: string; categoryId: string; parentId: string | null; place: number }
  | { kind: 'category.delete'; bankId: string; row: CategoryRow }
  | { kind: 'question.create'; questionId: string }
  | { kind: 'question.retire'; questionId: string }
  | { kind: 'questions.edit'; bankId: string; before: BeforeChange[] }
  | { kind: 'questions.create'; bankId: string; questionIds: string[] }
  | { kind: 'category.empty'; bankId: string; row: CategoryRow; questionIds: string[]; childIds: string[] }
  | { kind: 'people.remove'; membershipId: string };

const actionOf = (undo: Undo): Action => (undo.kind === 'people.remove' ? 'people.change' : 'bank.change');

/** Takes one logged change back, once, and logs that. */
export function undoChange(context: Context, courseId: string, auditId: number): Result<null> {
  const row = context.db
    .select()
    .from(audit)
    .where(and(eq(audit.id, auditId), eq(audit.courseId, courseId)))
    .get();
  const undo = row?.undo as Undo | null | undefined;
  const admitted = admit(context, courseId, undo ? actionOf(undo) : 'people.change');
  if (!admitted.ok) return admitted;
  if (!undo) return notFound('change to undo');
  return context.db.transaction(
    (tx) => {
      const hindered = hindrance(tx, undo);
      if (hindered) return refused('conflict', hindered);
      const marked = tx
        .update(audit)
        .set({ undoneAt: context.now })
        .where(and(eq(audit.id, auditId), isNull(audit.undoneAt)))
        .run();
      if (marked.changes === 0) return refused('conflict', 'This has been undone already.');
      apply(tx, context, undo);
      record(tx, context, { action: 'undo', courseId, subjectId: String(auditId), detail: { kind: undo.kind } });
      return ok(null);
    },
    { behavior: 'immediate' },
  );
}

/** What has happened since that keeps a change from being taken back. */
function hindrance(tx: Tx, undo: Undo): string | null {
  if (undo.kind === 'category.create') {
    const held = tx.select({ id: question.id }).from(question).where(eq(question.categoryId, undo.categoryId)).get();
    const below = tx.select({ id: category.id }).from(category).where(eq(category.parentId, undo.categoryId)).get();
    return held || below ? 'The category has been filled since. Empty it first.' : null;
  }
  if (undo.kind === 'questions.edit') {
    const later = changedSince(tx, undo.before);
    if (later > 0)
      return `${later} of these questions ${oneOrMany(later, 'has', 'have')} been changed since. Nothing was taken back.`;
  }
  const parentId =
    undo.kind === 'category.delete' || undo.kind === 'category.empty'
      ? undo.row.parentId
      : undo.kind === 'category.move'
        ? undo.parentId
        : null;
  if (parentId === null) return null;
  const parent = tx.select({ id: category.id }).from(category).where(eq(category.id, parentId)).get();
  return parent ? null : 'The category it stood below has been deleted since.';
}

function apply(tx: Tx, context: Context, undo: Undo): void {
  switch (undo.kind) {
    case 'category.create':
      tx.delete(category).where(eq(category.id, undo.categoryId)).run();
      return;
    case 'category.rename':
      tx.update(category).set({ name: undo.name }).where(eq(category.id, undo.categoryId)).run();
      return;
    case 'category.move':
      placeCategory(tx, undo.bankId, undo.categoryId, undo);
      return;
    case 'category.delete':
      tx.insert(category)
        .values({ ...undo.row, bankId: undo.bankId })
        .run();
      return;
    case 'question.create':
      tx.update(question).set({ retiredAt: context.now }).where(eq(question.id, undo.questionId)).run();
      return;
    case 'question.retire':
      tx.update(question).set({ retiredAt: null }).where(eq(question.id, undo.questionId)).run();
      return;
    case 'questions.edit':
      takeBack(tx, context, undo.before);
      return;
    case 'questions.create':
      for (let i = 0; i < undo.questionIds.length; i += 500)
        tx.update(question)
          .set({ retiredAt: context.now })
          .where(inArray(question.id, undo.questionIds.slice(i, i + 500)))
          .run();
      return;
    case 'category.empty':
      refillCategory(tx, undo);
      return;
    case 'people.remove':
      tx.update(membership).set({ removedAt: null }).where(eq(membership.id, undo.membershipId)).run();
  }
}
