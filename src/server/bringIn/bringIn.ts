import { and, asc, eq, inArray, isNull } from 'drizzle-orm';
import { z } from 'zod';
import type { Brought } from '@/core/bank/bringIn/brought';
import { guessColumns, mostRows, type TableField, tableFields, tableOf } from '@/core/bank/bringIn/readTable';
import { categoryPathNames } from '@/core/bank/categoryTree';
import { questionFilterSchema } from '@/core/bank/questionFilter';
import { id } from '@/core/base/id';
import { notFound, ok, type Result, refused } from '@/core/base/result';
import { contentText, questionContent } from '@/core/question/content';
import { questionTypeNames } from '@/core/question/definitions';
import { fold } from '@/core/question/text/fold';
import { difficulties } from '@/core/question/types';
import { variationProblems } from '@/core/question/variables/inspectQuestion';
import type { Db, Tx } from '@/db/client';
import { category, objective, question, questionObjective, questionTag, questionVersion } from '@/db/schema';
import { categoryRows } from '../bank/categories';
import { grouped, setLabels, tagInput } from '../bank/labels';
import { questionsAdded } from '../bank/questionChanges';
import { matchingIds } from '../bank/questionList';
import { toBank } from '../bank/toBank';
import { beginVersions } from '../bank/versions';
import { type Context, newId } from '../house/context';
import { prefer, preferred } from '../house/preferences';
import { bytes, command, query } from '../house/useCase';
import { readOutside } from '../outside/readOutside';

/** A question that was read, and where it stands to the bank. */
export type Preview = {
  items: (Brought & { state: 'new' | 'there' | 'unreadable'; type: string })[];
  /** For a table: its headings and what each column was taken for. */
  columns: { headings: string[]; fields: TableField[]; rows: string[][] } | null;
  counts: { new: number; there: number; unreadable: number };
};

const longestText = 3_000_000;
const lineSchema = z.object({
  label: z.string().max(40).optional(),
  runs: z.array(
    z.object({
      text: z.string(),
      bold: z.boolean().optional(),
      underline: z.boolean().optional(),
      marked: z.boolean().optional(),
    }),
  ),
});
const sourceSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('text'), text: z.string().max(longestText, 'This text is too long to be read at once.') }),
  z.object({ kind: z.literal('lines'), lines: z.array(lineSchema).max(100_000) }),
  z.object({
    kind: z.literal('table'),
    headings: z.array(z.string().max(500)).max(200),
    rows: z.array(z.array(z.string().max(200_000)).max(200)).max(mostRows),
    fields: z.array(z.enum(tableFields)).max(200),
  }),
]);

/** Reads pasted text, paragraphs or a mapped table, and says of each question whether it is new. Nothing is stored. */
export const previewText = command({
  admits: toBank('bank.change'),
  takes: [sourceSchema],
  unlogged: 'only how columns are read is remembered, for the person',
  prepares: (_look, source) =>
    source.kind === 'table'
      ? readOutside('questionsInTable', source.rows, source.fields)
      : readOutside('questionsInLines', source.kind === 'text' ? source.text : source.lines),
  does({ tx, bankId, context, ready }, source): Result<Preview> {
    const found = compared(context.db, bankId, ready);
    if (source.kind !== 'table') return ok({ ...found, columns: null });
    const { headings, fields, rows } = source;
    prefer(tx, context.actor.userId, mappingName(headings), fields);
    return ok({ ...found, columns: { headings, fields, rows } });
  },
});

/** The most bytes of a document that is brought in. */
export const largestDocument = 20_000_000;

/** Reads a document or a table from a file. What it is, its content decides. */
export const previewFile = query({
  admits: toBank('bank.change'),
  takes: [bytes],
  async does({ bankId, context }, file): Promise<Result<Preview>> {
    if (file.length > largestDocument) return refused('bad-input', 'A document may have at most 20 MB.');
    const read = await readOutside('questionsInFile', file);
    if (!read.ok) return read;
    if ('brought' in read.value) return ok({ ...compared(context.db, bankId, read.value.brought), columns: null });
    return previewRows(context, bankId, read.value.table);
  },
});

async function previewRows(context: Context, bankId: string, table: string[][]): Promise<Result<Preview>> {
  const [headings, ...rows] = table;
  if (!headings || rows.length === 0)
    return refused('bad-input', 'The table needs a row of headings and at least one row below it.');
  if (rows.length > mostRows)
    return refused('bad-input', `At most ${mostRows} rows are read at once; this table has ${rows.length}.`);
  const remembered = z
    .array(z.enum(tableFields))
    .safeParse(preferred(context.db, context.actor.userId, mappingName(headings)));
  const fields =
    remembered.success && remembered.data.length === headings.length ? remembered.data : guessColumns(headings);
  const read = await readOutside('questionsInTable', rows, fields);
  return read.ok ? ok({ ...compared(context.db, bankId, read.value), columns: { headings, fields, rows } }) : read;
}

/** A mapping is remembered for tables with the same headings. */
const mappingName = (headings: readonly string[]) => `bring-in/${headings.join('|').slice(0, 400)}`;

const everything = { case: true, accents: false, spacing: true };

/** A question's words by which it is recognised when it is brought in again. */
const fingerprint = (type: string, text: string) => `${type}/${fold(text, everything)}`;

function compared(db: Db | Tx, bankId: string, brought: Brought[]): Omit<Preview, 'columns'> {
  const there = new Set(
    db
      .select({ type: question.type, text: questionVersion.plainText })
      .from(question)
      .innerJoin(questionVersion, eq(questionVersion.id, question.currentVersionId))
      .where(and(eq(question.bankId, bankId), isNull(question.retiredAt)))
      .all()
      .map((row) => fingerprint(row.type, row.text)),
  );
  const counts = { new: 0, there: 0, unreadable: 0 };
  const items = brought.map((one) => {
    const { content } = one;
    let state: Preview['items'][number]['state'] = 'unreadable';
    if (content) {
      const known = fingerprint(content.type, contentText(content));
      state = there.has(known) ? 'there' : 'new';
      there.add(known);
    }
    counts[state]++;
    return { ...one, state, type: content ? questionTypeNames[content.type] : '' };
  });
  return { items, counts };
}

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
});

/**
 * Takes questions into the bank, all or none, under one undo. Categories are found by their path and made where they are
 * missing; objectives by their code, unknown ones are left out.
 */
export const bringIn = command({
  admits: toBank('bank.change'),
  takes: [broughtSchema],
  logs: 'questions.bring-in',
  does({ tx, bankId, record, context }, { items, categoryId }): Result<{ added: number; auditId: number }> {
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
          createdAt: context.now + i,
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
    const auditId = record({
      subjectId: bankId,
      detail: { added: made.length },
      undo: questionsAdded.of({ bankId, questionIds: made }),
    });
    return ok({ added: made.length, auditId });
  },
});

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
