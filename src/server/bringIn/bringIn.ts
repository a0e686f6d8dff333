import { asc, eq, inArray } from 'drizzle-orm';
import { z } from 'zod';
import { mostRows, tableOf } from '@/core/bank/bringIn/readTable';
import { categoryPathNames } from '@/core/bank/categoryTree';
import { questionFilterSchema } from '@/core/bank/questionFilter';
import { id } from '@/core/base/id';
import { notFound, ok, type Result, refused } from '@/core/base/result';
import type { Instant } from '@/core/base/time';
import { questionContent } from '@/core/question/content';
import { difficulties } from '@/core/question/types';
import { variationProblems } from '@/core/question/variables/inspectQuestion';
import type { Tx } from '@/db/client';
import { audit, category, objective, question, questionObjective, questionTag, questionVersion } from '@/db/schema';
import { categoryRows } from '../bank/categories';
import { grouped, setLabels, tagInput } from '../bank/labels';
import { questionsAdded } from '../bank/questionChanges';
import { matchingIds } from '../bank/questionList';
import { toBank } from '../bank/toBank';
import { beginVersions } from '../bank/versions';
import { recordMore } from '../house/audit';
import { newId } from '../house/context';
import { command, query } from '../house/useCase';

const broughtSchema = z.object({
  categoryId: id('category'),
  items: z
    .array(
      z.object({
        content: questionContent,
        shortName: z.string().trim().max(120).default(''),
        points: z.number().gt(0).max(1_000).nullable().default(null),
        difficulty: z.enum(difficulties).nullable().default(null),
        category: z.string().max(500).default(''),
        tags: z.array(tagInput).max(30).default([]),
        objectives: z.array(z.string().max(20)).max(30).default([]),
      }),
    )
    .min(1, 'There is nothing to bring in.')
    .max(mostRows),
  /** The line of the log that this goes on with: many questions are brought in by steps, under one undo. */
  joins: z.int().nullable().default(null),
});

/**
 * Takes questions into the bank, all or none, under one undo; so many that others would have to wait are sent in steps, which
 * join the first of them. Categories are found by their path and made where they are
 * missing; objectives by their code, unknown ones are left out.
 */
export const bringIn = command({
  admits: toBank('bank.change'),
  takes: [broughtSchema],
  logs: 'questions.bring-in',
  does({ tx, bankId, record, context }, { items, categoryId, joins }): Result<{ added: number; auditId: number }> {
    const varied = items.flatMap((item) => variationProblems(item.content));
    if (varied.length) return { ok: false, problems: varied };
    if (!categoryRows(tx, bankId).some((row) => row.id === categoryId)) return notFound('category');
    const codes = new Map(
      tx
        .select()
        .from(objective)
        .where(eq(objective.bankId, bankId))
        .all()
        .map((row) => [row.code.toLowerCase(), row.id]),
    );
    const home = categoryFinder(tx, bankId, categoryId);
    const made: string[] = [];
    const last = joins === null ? null : lastBrought(tx, joins);
    const from = Math.max(context.now, (last ?? 0) + 1);
    items.forEach((item, i) => {
      const questionId = newId();
      const versionId = newId();
      tx.insert(question)
        .values({
          id: questionId,
          bankId,
          categoryId: home(item.category),
          type: item.content.type,
          shortName: item.shortName,
          difficulty: item.difficulty,
          points: item.points,
          currentVersionId: versionId,
          createdBy: context.actor.userId,
          // A millisecond apart, so that they stand in the order in which they were brought.
          createdAt: from + i,
          updatedAt: context.now,
        })
        .run();
      beginVersions(
        tx,
        context,
        { id: questionId, currentVersionId: versionId, shortName: item.shortName },
        item.content,
      );
      setLabels(tx, bankId, questionId, {
        tags: item.tags,
        objectives: item.objectives.flatMap((code) => codes.get(code.toLowerCase()) ?? []),
      });
      made.push(questionId);
    });
    if (joins !== null) {
      const line = { id: joins, action: 'questions.bring-in', within: bankId };
      const joined = recordMore(tx, context, line, ({ detail, undo }) => {
        const before = (undo as { questionIds?: string[] }).questionIds ?? [];
        return {
          detail: { ...detail, added: before.length + made.length },
          undo: questionsAdded.of({ bankId, questionIds: [...before, ...made] }),
        };
      });
      return joined
        ? ok({ added: made.length, auditId: joins })
        : refused('conflict', 'What was brought in before has been taken back meanwhile.');
    }
    const auditId = record({
      subjectId: bankId,
      detail: { added: made.length },
      undo: questionsAdded.of({ bankId, questionIds: made }),
      within: bankId,
    });
    return ok({ added: made.length, auditId });
  },
});

/** When the last question of an earlier step was made: those of the next step stand behind it. */
function lastBrought(tx: Tx, auditId: number): Instant | null {
  const undo = tx.select({ undo: audit.undo }).from(audit).where(eq(audit.id, auditId)).get()?.undo;
  const id = (undo as { questionIds?: string[] } | null | undefined)?.questionIds?.at(-1);
  return id
    ? (tx.select({ at: question.createdAt }).from(question).where(eq(question.id, id)).get()?.at ?? null)
    : null;
}

/** Finds categories by their path, and makes what is missing of one. */
function categoryFinder(tx: Tx, bankId: string, otherwise: string): (path: string) => string {
  const known = new Map([...categoryPathNames(categoryRows(tx, bankId))].map(([id, name]) => [name.toLowerCase(), id]));
  return (path) => {
    const names = path
      .split(/[›>]/)
      .map((name) => name.trim().slice(0, 120))
      .filter(Boolean);
    let parentId: string | null = null;
    let at = '';
    for (const name of names.slice(0, 12)) {
      at = at ? `${at} › ${name}` : name;
      let id: string | undefined = known.get(at.toLowerCase());
      if (!id) {
        id = newId();
        tx.insert(category)
          .values({ id, bankId, parentId, name, position: 10_000 + known.size })
          .run();
        known.set(at.toLowerCase(), id);
      }
      parentId = id;
    }
    return parentId ?? otherwise;
  };
}

/** The questions that match a filter as a table that reads back to the same ones. */
export const takeOut = query({
  admits: toBank('bank.see'),
  takes: [questionFilterSchema],
  does({ db, bankId, context }, filter): Result<string[][]> {
    const ids = matchingIds(db, bankId, filter, context.now);
    const place = new Map(ids.map((id, i) => [id, i]));
    const names = categoryPathNames(categoryRows(db, bankId));
    const tags = grouped(
      db
        .select({ id: questionTag.questionId, value: questionTag.tag })
        .from(questionTag)
        .innerJoin(question, eq(question.id, questionTag.questionId))
        .where(eq(question.bankId, bankId))
        .orderBy(asc(questionTag.tag))
        .all(),
    );
    const objectives = grouped(
      db
        .select({ id: questionObjective.questionId, value: objective.code })
        .from(questionObjective)
        .innerJoin(objective, eq(objective.id, questionObjective.objectiveId))
        .where(eq(objective.bankId, bankId))
        .orderBy(asc(objective.code))
        .all(),
    );
    const rows = [];
    for (let i = 0; i < ids.length; i += 500)
      rows.push(
        ...db
          .select({ question, content: questionVersion.content })
          .from(question)
          .innerJoin(questionVersion, eq(questionVersion.id, question.currentVersionId))
          .where(inArray(question.id, ids.slice(i, i + 500)))
          .all(),
      );
    rows.sort((a, b) => (place.get(a.question.id) ?? 0) - (place.get(b.question.id) ?? 0));
    return ok(
      tableOf(
        rows.map(({ question: row, content }) => ({
          name: row.shortName,
          type: row.type,
          category: names.get(row.categoryId) ?? '',
          difficulty: row.difficulty,
          points: row.points,
          tags: tags.get(row.id) ?? [],
          objectives: objectives.get(row.id) ?? [],
          content,
        })),
      ),
    );
  },
});
