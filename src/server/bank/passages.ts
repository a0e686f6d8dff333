import { and, asc, count, desc, eq, gt, inArray, isNull, or } from 'drizzle-orm';
import katex from 'katex';
import { z } from 'zod';
import { id } from '@/core/base/id';
import { notFound, ok, type Result, refused } from '@/core/base/result';
import { isEmptyRich, type Rich } from '@/core/base/rich';
import { richSchema } from '@/core/base/richSchema';
import { typeset } from '@/core/base/typeset';
import { counted } from '@/core/base/words';
import type { QuestionType } from '@/core/question/types';
import type { Db, Tx } from '@/db/client';
import { passage, passageVersion, question, questionVersion } from '@/db/schema';
import { type Context, newId } from '../house/context';
import { undoable } from '../house/undoable';
import { command, query } from '../house/useCase';
import { toBank } from './toBank';
import { noteMedia } from './versions';

export type PassageRow = {
  id: string;
  shortName: string;
  content: Rich;
  /** The number to send back with a save: another's edit in between has raised it. */
  edit: number;
  version: number;
  frozen: boolean;
  questions: number;
};

/** The passages of a bank by name, with how many questions in use share each. */
export const listPassages = query({
  admits: toBank('bank.see'),
  does({ bankId, context }): Result<PassageRow[]> {
    return ok(
      context.db
        .select({
          id: passage.id,
          shortName: passage.shortName,
          content: passageVersion.content,
          edit: passage.edit,
          version: passageVersion.number,
          frozenAt: passageVersion.frozenAt,
          questions: count(question.id),
        })
        .from(passage)
        .innerJoin(passageVersion, eq(passageVersion.id, passage.currentVersionId))
        .leftJoin(question, and(eq(question.passageId, passage.id), isNull(question.retiredAt)))
        .where(eq(passage.bankId, bankId))
        .groupBy(passage.id)
        // One that was deleted stands here again as soon as a question of it is brought back.
        .having(or(isNull(passage.deletedAt), gt(count(question.id), 0)))
        .orderBy(asc(passage.shortName))
        .all()
        .map(({ frozenAt, ...row }) => ({ ...row, frozen: frozenAt !== null })),
    );
  },
});

const passageInput = z.object({
  shortName: z.string().trim().min(1, 'Give the passage a name.').max(120, 'At most 120 characters.'),
  content: richSchema.refine((content) => !isEmptyRich(content), 'The passage is empty.'),
  /** The edit it was begun from: another's in between has raised it. Absent for a new passage. */
  edit: z.number().int().optional(),
});

/**
 * Adds a passage, or saves an edited one: in place while its version stands on no paper, else as the next version.
 *
 * @param passageId null for a new one
 */
export const savePassage = command({
  admits: toBank('bank.change'),
  takes: [id('passage').nullable(), passageInput],
  logs: 'passage.save',
  does(
    { tx, bankId, record, context },
    passageId,
    { shortName, content, edit },
  ): Result<{ passageId: string; version: number; edit: number }> {
    const id = passageId ?? newId();
    const row = passageId
      ? tx
          .select()
          .from(passage)
          .where(and(eq(passage.id, passageId), eq(passage.bankId, bankId)))
          .get()
      : null;
    if (passageId && !row) return notFound('passage');
    const current = row
      ? tx
          .select()
          .from(passageVersion)
          .where(eq(passageVersion.id, row.currentVersionId ?? ''))
          .get()
      : null;
    if (row && edit !== undefined && edit !== row.edit)
      return refused('conflict', 'Someone else has saved this passage since you opened it.');
    const inPlace = current && current.frozenAt === null;
    const versionId = inPlace ? current.id : newId();
    const number = inPlace ? current.number : (current?.number ?? 0) + 1;
    if (!row) tx.insert(passage).values({ id, bankId, shortName, currentVersionId: versionId }).run();
    else
      tx.update(passage)
        .set({ shortName, currentVersionId: versionId, edit: row.edit + 1 })
        .where(eq(passage.id, id))
        .run();
    if (inPlace) tx.update(passageVersion).set({ content }).where(eq(passageVersion.id, versionId)).run();
    else
      tx.insert(passageVersion).values({ id: versionId, passageId: id, number, content, createdAt: context.now }).run();
    noteMedia(tx, versionId, content);
    record({ subjectId: id, detail: { version: number } });
    return ok({ passageId: id, version: number, edit: (row?.edit ?? 0) + 1 });
  },
});

/** A passage was deleted: taken back, it stands in its bank again. */
export const passageDropped = undoable<{ passageId: string }>('passage.drop', {
  action: 'bank.change',
  says: (_kept, { name }) => `The passage “${name}” deleted`,
  apply(tx, _context, { passageId }) {
    tx.update(passage).set({ deletedAt: null }).where(eq(passage.id, passageId)).run();
  },
});

/** Deletes a passage that no question in use belongs to; papers that hold it keep it. */
export const dropPassage = command({
  admits: toBank('bank.change'),
  takes: [id('passage')],
  logs: 'passage.drop',
  does({ tx, bankId, record, context }, passageId): Result<{ auditId: number }> {
    const row = tx
      .select()
      .from(passage)
      .where(and(eq(passage.id, passageId), eq(passage.bankId, bankId), isNull(passage.deletedAt)))
      .get();
    if (!row) return notFound('passage');
    const questions = tx
      .select({ n: count() })
      .from(question)
      .where(and(eq(question.passageId, passageId), isNull(question.retiredAt)))
      .get();
    if (questions?.n)
      return refused(
        'conflict',
        `${counted(questions.n, 'question belongs', 'questions belong')} to this passage: give them another, or retire them first.`,
      );
    tx.update(passage).set({ deletedAt: context.now }).where(eq(passage.id, passageId)).run();
    const undo = passageDropped.of({ passageId });
    return ok({ auditId: record({ subjectId: passageId, within: bankId, detail: { name: row.shortName }, undo }) });
  },
});

/** The current versions of passages, frozen from now on because they come onto a paper. */
export function freezePassages(tx: Tx, context: Context, passageIds: readonly string[]): Map<string, string> {
  if (passageIds.length === 0) return new Map();
  const rows = tx
    .select({ id: passage.id, versionId: passage.currentVersionId })
    .from(passage)
    .where(inArray(passage.id, [...passageIds]))
    .all()
    .flatMap((row) => (row.versionId ? [{ id: row.id, versionId: row.versionId }] : []));
  tx.update(passageVersion)
    .set({ frozenAt: context.now })
    .where(
      and(
        inArray(
          passageVersion.id,
          rows.map((row) => row.versionId),
        ),
        isNull(passageVersion.frozenAt),
      ),
    )
    .run();
  return new Map(rows.map((row) => [row.id, row.versionId]));
}

/** The contents of passage versions as they are shown, mathematics typeset. */
export function passageContents(db: Db | Tx, versionIds: readonly string[]): Map<string, Rich> {
  if (versionIds.length === 0) return new Map();
  return new Map(
    db
      .select({ id: passageVersion.id, content: passageVersion.content })
      .from(passageVersion)
      .where(inArray(passageVersion.id, [...new Set(versionIds)]))
      .orderBy(desc(passageVersion.number))
      .all()
      .map((row) => [row.id, typeset(row.content, katex)]),
  );
}

/** The questions in use that share a passage, in the order in which they were written. */
export const questionsOfPassage = query({
  admits: toBank('bank.see'),
  takes: [id('passage')],
  does({ bankId, context }, passageId): Result<{ id: string; name: string; type: QuestionType }[]> {
    return ok(
      context.db
        .select({
          id: question.id,
          shortName: question.shortName,
          type: question.type,
          text: questionVersion.plainText,
        })
        .from(question)
        .innerJoin(questionVersion, eq(questionVersion.id, question.currentVersionId))
        .where(and(eq(question.bankId, bankId), eq(question.passageId, passageId), isNull(question.retiredAt)))
        .orderBy(asc(question.createdAt))
        .all()
        .map(({ shortName, text, ...row }) => ({ ...row, name: shortName || (text.split('\n')[0] ?? '') })),
    );
  },
});

/** What passages say now, by their ids. */
export function currentPassages(db: Db | Tx, passageIds: readonly string[]): Map<string, Rich> {
  if (passageIds.length === 0) return new Map();
  return new Map(
    db
      .select({ id: passage.id, content: passageVersion.content })
      .from(passage)
      .innerJoin(passageVersion, eq(passageVersion.id, passage.currentVersionId))
      .where(inArray(passage.id, [...new Set(passageIds)]))
      .all()
      .map((row) => [row.id, typeset(row.content, katex)]),
  );
}
