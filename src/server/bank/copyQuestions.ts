import { and, eq, inArray } from 'drizzle-orm';
import { id } from '@/core/base/id';
import { notFound, ok, type Result } from '@/core/base/result';
import type { Tx } from '@/db/client';
import { mediaBank, objective, question, questionObjective, questionTag, questionVersion } from '@/db/schema';
import { newId } from '../house/context';
import { command } from '../house/useCase';
import { categoryRows } from './categories';
import { questionsAdded } from './questionChanges';
import { selectedIds, selectionSchema } from './selection';
import { toBank } from './toBank';
import { beginVersions, mediaIn } from './versions';

/**
 * Copies questions into another bank of the course, each into the category of the same name or else the first one. Copies
 * are questions of their own; objectives go along where the other bank has one of the same code.
 */
export const copyQuestions = command({
  admits: toBank('bank.see'),
  takes: [selectionSchema, id('bank')],
  logs: 'questions.copy',
  does(
    { tx, courseId, bankId: fromBankId, record, context },
    selection,
    toBankId,
  ): Result<{ copied: number; auditId: number | null }> {
    const to = toBank('bank.change').open(context, courseId, toBankId);
    if (!to.ok) return to;
    const ids = selectedIds(tx, fromBankId, selection, context.now);
    const names = new Map(categoryRows(tx, fromBankId).map((row) => [row.id, row.name]));
    const targets = categoryRows(tx, toBankId);
    const first = targets[0];
    if (!first) return notFound('category');
    const codes = new Map(
      tx
        .select()
        .from(objective)
        .where(eq(objective.bankId, toBankId))
        .all()
        .map((row) => [row.code, row.id]),
    );
    const made: string[] = [];
    for (let i = 0; i < ids.length; i += 500) {
      const slice = ids.slice(i, i + 500);
      const rows = tx
        .select({ question, content: questionVersion.content })
        .from(question)
        .innerJoin(questionVersion, eq(questionVersion.id, question.currentVersionId))
        .where(inArray(question.id, slice))
        .all();
      const tags = tx.select().from(questionTag).where(inArray(questionTag.questionId, slice)).all();
      const aligned = tx
        .select({ questionId: questionObjective.questionId, code: objective.code })
        .from(questionObjective)
        .innerJoin(objective, eq(objective.id, questionObjective.objectiveId))
        .where(inArray(questionObjective.questionId, slice))
        .all();
      for (const { question: row, content } of rows) {
        const questionId = newId();
        const versionId = newId();
        const name = names.get(row.categoryId);
        tx.insert(question)
          .values({
            ...row,
            id: questionId,
            bankId: toBankId,
            categoryId: targets.find((one) => one.name === name)?.id ?? first.id,
            currentVersionId: versionId,
            passageId: null,
            edit: 1,
            createdBy: context.actor.userId,
            createdAt: context.now,
            updatedAt: context.now,
          })
          .run();
        shareMedia(tx, content, fromBankId, toBankId);
        beginVersions(tx, context, { id: questionId, currentVersionId: versionId, shortName: row.shortName }, content);
        const own = tags.filter((tag) => tag.questionId === row.id).map(({ tag }) => ({ questionId, tag }));
        if (own.length) tx.insert(questionTag).values(own).run();
        const objectives = aligned
          .filter((one) => one.questionId === row.id && codes.has(one.code))
          .map((one) => ({ questionId, objectiveId: codes.get(one.code) as string }));
        if (objectives.length) tx.insert(questionObjective).values(objectives).run();
        made.push(questionId);
      }
    }
    if (made.length === 0) return ok({ copied: 0, auditId: null });
    const auditId = record({
      subjectId: toBankId,
      detail: { copied: made.length, from: fromBankId },
      undo: questionsAdded.of({ bankId: toBankId, questionIds: made }),
      within: toBankId,
    });
    return ok({ copied: made.length, auditId });
  },
});

/** Files shown by a copied question belong to the other bank from then on too. */
function shareMedia(tx: Tx, content: unknown, fromBankId: string, toBankId: string): void {
  const hashes = [...mediaIn(content)];
  if (hashes.length === 0) return;
  const own = tx
    .select({ hash: mediaBank.hash })
    .from(mediaBank)
    .where(and(eq(mediaBank.bankId, fromBankId), inArray(mediaBank.hash, hashes)))
    .all();
  if (own.length)
    tx.insert(mediaBank)
      .values(own.map(({ hash }) => ({ hash, bankId: toBankId })))
      .onConflictDoNothing()
      .run();
}
