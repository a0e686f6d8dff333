import { and, eq, inArray, sql } from 'drizzle-orm';
import { z } from 'zod';
import { type BulkChange, bulkChangeSchema, type ContentChange, changedContent } from '@/core/bank/bulkChange';
import { spreadRightAnswers } from '@/core/bank/rightPlaces';
import { notFound, ok, type Result } from '@/core/base/result';
import { counted } from '@/core/base/words';
import type { Tx } from '@/db/client';
import { objective, question, questionObjective, questionTag, questionVersion } from '@/db/schema';
import type { Context } from '../house/context';
import { inSlices } from '../house/inSlices';
import { undoable } from '../house/undoable';
import { command } from '../house/useCase';
import { categoryRows } from './categories';
import { grouped } from './labels';
import { staySaid } from './questionChanges';
import { selectedIds, selectionSchema } from './selection';
import { type BeforeChange, changedSince, takeBack } from './takeBack';
import { toBank } from './toBank';
import { changeContent } from './versions';

const input = z.object({ selection: selectionSchema, change: bulkChangeSchema });

/**
 * Does one thing to every selected question, in one transaction and under one undo. Questions that it would leave as
 * they are do not count and are not touched.
 *
 * @returns how many were selected and how many changed
 */
export const editMany = command({
  admits: toBank('bank.change'),
  takes: [input],
  logs: 'questions.edit',
  does(
    { tx, bankId, record, context },
    { selection, change },
  ): Result<{ selected: number; changed: number; auditId: number | null }> {
    if (change.kind === 'move' && !categoryRows(tx, bankId).some((row) => row.id === change.categoryId))
      return notFound('category');
    const ids = selectedIds(tx, bankId, selection, context.now, change.kind === 'bring-back');
    const before = applyChange(tx, context, bankId, ids, change);
    if (before.length === 0) return ok({ selected: ids.length, changed: 0, auditId: null });
    const touched = JSON.stringify(before.map((one) => one.id));
    tx.run(
      sql`update question set edit = edit + 1, updated_at = ${context.now} where id in (select value from json_each(${touched}))`,
    );
    const auditId = record({
      subjectId: bankId,
      detail: { change: change.kind, changed: before.length },
      undo: manyEdited.of({ bankId, before }),
      within: bankId,
    });
    return ok({ selected: ids.length, changed: before.length, auditId });
  },
});

/** A bulk edit: taken back as a whole, unless a question was changed since. */
export const manyEdited = undoable<{ bankId: string; before: BeforeChange[] }>('questions.edit', {
  action: 'bank.change',
  says: ({ before }, { change }) =>
    `${counted(before.length, 'question')} ${changeSaid[change as BulkChange['kind']] ?? 'changed'}`,
  hindered: (tx, { before }) =>
    changedSince(tx, before).length === before.length
      ? `${before.length === 1 ? 'This question was' : 'All of these questions were'} changed since. Nothing was taken back.`
      : null,
  apply(tx, context, { before }): Result<string> {
    const later = changedSince(tx, before);
    const touched = new Set(later.map((one) => one.id));
    const untouched = before.filter((one) => !touched.has(one.id));
    takeBack(tx, context, untouched);
    return ok(
      later.length === 0
        ? ''
        : `${counted(untouched.length, 'question')} taken back. ${staySaid(later.map((one) => one.name))}`,
    );
  },
});

/** What was done to questions, by the kind of change. */
const changeSaid: Record<BulkChange['kind'], string> = {
  points: 'given points',
  difficulty: 'given a difficulty',
  move: 'moved to another category',
  'add-tags': 'tagged',
  'remove-tags': 'freed of tags',
  'add-objectives': 'aligned to objectives',
  'remove-objectives': 'freed of objectives',
  shuffle: 'set to shuffle or not',
  choices: 'reduced in their choices',
  pin: 'pinned in their choices',
  spread: 'spread in their right answers',
  retire: 'retired',
  'bring-back': 'brought back',
};

/** Applies a change to those it concerns. @returns them as they were, each with the edit it will have */
function applyChange(tx: Tx, context: Context, bankId: string, ids: string[], change: BulkChange): BeforeChange[] {
  const rows = inSlices(ids, (slice) => tx.select().from(question).where(inArray(question.id, slice)).all());
  const edited = (row: { id: string; edit: number }) => ({ id: row.id, edit: row.edit + 1 });
  switch (change.kind) {
    case 'points': {
      const own = rows.filter((row) => row.points !== change.points);
      setAll(tx, own, { points: change.points });
      return own.map((row) => ({ ...edited(row), points: row.points }));
    }
    case 'difficulty': {
      const own = rows.filter((row) => row.difficulty !== change.difficulty);
      setAll(tx, own, { difficulty: change.difficulty });
      return own.map((row) => ({ ...edited(row), difficulty: row.difficulty }));
    }
    case 'move': {
      const own = rows.filter((row) => row.categoryId !== change.categoryId);
      setAll(tx, own, { categoryId: change.categoryId });
      return own.map((row) => ({ ...edited(row), categoryId: row.categoryId }));
    }
    case 'retire':
      setAll(tx, rows, { retiredAt: context.now });
      return rows.map((row) => ({ ...edited(row), retiredAt: null }));
    case 'bring-back':
      setAll(tx, rows, { retiredAt: null });
      return rows.map((row) => ({ ...edited(row), retiredAt: row.retiredAt }));
    case 'add-tags':
    case 'remove-tags':
      return changeTags(tx, rows.map(edited), change);
    case 'add-objectives':
    case 'remove-objectives':
      return changeObjectives(tx, bankId, rows.map(edited), change);
    case 'shuffle':
    case 'choices':
    case 'pin':
    case 'spread':
      return changeContents(tx, context, rows, change);
  }
}

/** Sets the same columns on many questions. */
function setAll(tx: Tx, rows: { id: string }[], columns: Partial<typeof question.$inferInsert>): void {
  for (let i = 0; i < rows.length; i += 500) {
    const slice = rows.slice(i, i + 500).map((row) => row.id);
    tx.update(question).set(columns).where(inArray(question.id, slice)).run();
  }
}

type Edited = { id: string; edit: number };

function changeTags(
  tx: Tx,
  rows: Edited[],
  change: Extract<BulkChange, { kind: 'add-tags' | 'remove-tags' }>,
): BeforeChange[] {
  const held = grouped(
    inSlices(
      rows.map((row) => row.id),
      (slice) =>
        tx
          .select({ id: questionTag.questionId, value: questionTag.tag })
          .from(questionTag)
          .where(inArray(questionTag.questionId, slice))
          .all(),
    ),
  );
  return rows.flatMap((row) => {
    const before = held.get(row.id) ?? [];
    const named = change.tags.filter((tag) => before.includes(tag) === (change.kind === 'remove-tags'));
    if (named.length === 0) return [];
    if (change.kind === 'add-tags')
      tx.insert(questionTag)
        .values(named.map((tag) => ({ questionId: row.id, tag })))
        .onConflictDoNothing()
        .run();
    else
      tx.delete(questionTag)
        .where(and(eq(questionTag.questionId, row.id), inArray(questionTag.tag, named)))
        .run();
    return [{ ...row, tags: before }];
  });
}

function changeObjectives(
  tx: Tx,
  bankId: string,
  rows: Edited[],
  change: Extract<BulkChange, { kind: 'add-objectives' | 'remove-objectives' }>,
): BeforeChange[] {
  const own = tx
    .select({ id: objective.id })
    .from(objective)
    .where(and(eq(objective.bankId, bankId), inArray(objective.id, change.objectives)))
    .all()
    .map((row) => row.id);
  const held = grouped(
    inSlices(
      rows.map((row) => row.id),
      (slice) =>
        tx
          .select({ id: questionObjective.questionId, value: questionObjective.objectiveId })
          .from(questionObjective)
          .where(inArray(questionObjective.questionId, slice))
          .all(),
    ),
  );
  return rows.flatMap((row) => {
    const before = held.get(row.id) ?? [];
    const named = own.filter((id) => before.includes(id) === (change.kind === 'remove-objectives'));
    if (named.length === 0) return [];
    if (change.kind === 'add-objectives')
      tx.insert(questionObjective)
        .values(named.map((objectiveId) => ({ questionId: row.id, objectiveId })))
        .run();
    else
      tx.delete(questionObjective)
        .where(and(eq(questionObjective.questionId, row.id), inArray(questionObjective.objectiveId, named)))
        .run();
    return [{ ...row, objectives: before }];
  });
}

function changeContents(
  tx: Tx,
  context: Context,
  rows: (typeof question.$inferSelect)[],
  change: ContentChange | { kind: 'spread' },
): BeforeChange[] {
  const versions = new Map(
    inSlices(
      rows.map((row) => row.currentVersionId),
      (slice) => tx.select().from(questionVersion).where(inArray(questionVersion.id, slice)).all(),
    ).map((version) => [version.id, version]),
  );
  const spread =
    change.kind === 'spread'
      ? spreadRightAnswers(
          rows.flatMap((row) => {
            const content = versions.get(row.currentVersionId)?.content;
            return content ? [{ id: row.id, content }] : [];
          }),
        )
      : null;
  return rows.flatMap((row) => {
    const current = versions.get(row.currentVersionId);
    if (!current) return [];
    const content =
      change.kind === 'spread'
        ? (spread?.get(row.id) ?? current.content)
        : changedContent(current.content, change, row.id);
    if (content === current.content) return [];
    const kept = changeContent(tx, context, row, current, content);
    return [
      {
        id: row.id,
        edit: row.edit + 1,
        version: { id: current.id, content: kept.isNew ? null : current.content },
      },
    ];
  });
}
