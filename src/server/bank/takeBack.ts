import { eq, sql } from 'drizzle-orm';
import type { Instant } from '@/core/base/time';
import type { QuestionContent } from '@/core/question/content';
import type { Difficulty } from '@/core/question/types';
import type { Tx } from '@/db/client';
import { question, questionObjective, questionTag, questionVersion } from '@/db/schema';
import type { Context } from '../house/context';
import { keepWords } from './searchWords';
import { changeContent } from './versions';

/** One question as it was before a bulk change, and the edit that the change made of it. */
export type BeforeChange = {
  id: string;
  edit: number;
  points?: number | null;
  difficulty?: Difficulty | null;
  categoryId?: string;
  retiredAt?: Instant | null;
  /** The version that was current, and its content where it was changed in place. */
  version?: { id: string; content: QuestionContent | null };
  tags?: string[];
  objectives?: string[];
};

/** Which of the questions of a bulk change have been changed again since. */
export function changedSince(tx: Tx, before: readonly BeforeChange[]): { id: string; name: string }[] {
  const expected = JSON.stringify(before.map(({ id, edit }) => ({ id, edit })));
  return tx.all<{ id: string; name: string }>(
    sql`select q.id, coalesce(nullif(q.short_name, ''), 'one without a name') as name from json_each(${expected}) e join question q on q.id = e.value ->> 'id' where q.edit <> e.value ->> 'edit'`,
  );
}

/**
 * Puts every question of a bulk change back to what it was. A version that has come onto a paper since is never changed:
 * what was before it becomes the next version.
 */
export function takeBack(tx: Tx, context: Context, before: readonly BeforeChange[]): void {
  for (const { id, edit, version, tags, objectives, ...columns } of before) {
    tx.update(question)
      .set({
        ...columns,
        ...(version ? { currentVersionId: version.id } : {}),
        edit: edit + 1,
        updatedAt: context.now,
      })
      .where(eq(question.id, id))
      .run();
    if (version) {
      const row = tx
        .select({ name: question.shortName, version: questionVersion })
        .from(question)
        .innerJoin(questionVersion, eq(questionVersion.id, question.currentVersionId))
        .where(eq(question.id, id))
        .get();
      if (!row) continue;
      const head = { id, currentVersionId: row.version.id, shortName: row.name };
      if (version.content) changeContent(tx, context, head, row.version, version.content);
      else keepWords(tx, id, row.name, row.version.content);
    }
    if (tags) {
      tx.delete(questionTag).where(eq(questionTag.questionId, id)).run();
      if (tags.length)
        tx.insert(questionTag)
          .values(tags.map((tag) => ({ questionId: id, tag })))
          .run();
    }
    if (objectives) {
      tx.delete(questionObjective).where(eq(questionObjective.questionId, id)).run();
      if (objectives.length)
        tx.insert(questionObjective)
          .values(objectives.map((objectiveId) => ({ questionId: id, objectiveId })))
          .run();
    }
  }
}
