import { eq, inArray, type SQL, sql } from 'drizzle-orm';
import { z } from 'zod';
import { categoryPathNames, categoryPaths } from '@/core/bank/categoryTree';
import { fullTextQuery, type QuestionFilter, questionFilterSchema } from '@/core/bank/questionFilter';
import { ok, type Result } from '@/core/base/result';
import { day, type Instant } from '@/core/base/time';
import { type Difficulty, type QuestionType, questionTypes } from '@/core/question/types';
import type { Db, Tx } from '@/db/client';
import { question, questionVersion } from '@/db/schema';
import { query } from '../house/useCase';
import { categoryRows } from './categories';
import { type Observed, observed, successTable, usageTable } from './observed';
import { pointsIn } from './points';
import { questionsWith } from './searchWords';
import { toBank } from './toBank';

export type QuestionRow = {
  id: string;
  type: QuestionType;
  shortName: string;
  text: string;
  category: string;
  difficulty: Difficulty | null;
  points: number;
  passage: boolean;
} & Pick<Observed, 'success' | 'lastUsed'>;

/** How many rows a list fetches at once. */
const listWindow = 120;

/** The questions of a bank that match a filter: how many there are, and a window of them in the filter's order. */
export const listQuestions = query({
  admits: toBank('bank.see'),
  takes: [questionFilterSchema, z.int().min(0).default(0)],
  does({ db, now, bankId }, filter, from): Result<{ total: number; rows: QuestionRow[] }> {
    const matching = matchingQuestions(db, bankId, filter, now);
    const window = db.all<{ id: string; total: number }>(
      sql`select q.id, count(*) over () as total ${matching} order by ${orderOf(filter)} limit ${listWindow} offset ${from}`,
    );
    const ids = window.map((row) => row.id);
    // Past the end there is no row to say how many there are.
    const total =
      window[0]?.total ?? (from > 0 ? (db.get<{ n: number }>(sql`select count(*) as n ${matching}`)?.n ?? 0) : 0);
    const names = categoryPathNames(categoryRows(db, bankId));
    const seen = observed(db, ids);
    const usual = pointsIn(db, bankId);
    const found = new Map(
      db
        .select({
          id: question.id,
          type: question.type,
          shortName: question.shortName,
          text: sql<string>`substr(${questionVersion.plainText}, 1, 160)`,
          categoryId: question.categoryId,
          difficulty: question.difficulty,
          points: question.points,
          passageId: question.passageId,
        })
        .from(question)
        .innerJoin(questionVersion, eq(questionVersion.id, question.currentVersionId))
        .where(inArray(question.id, ids))
        .all()
        .map((row) => [row.id, row]),
    );
    return ok({
      total,
      rows: ids.flatMap((id) => {
        const row = found.get(id);
        if (!row) return [];
        const { categoryId, points, passageId, ...shown } = row;
        return [
          {
            ...shown,
            category: names.get(categoryId) ?? '',
            points: points ?? usual(row.type),
            passage: passageId !== null,
            success: seen.get(id)?.success ?? null,
            lastUsed: seen.get(id)?.lastUsed ?? null,
          },
        ];
      }),
    });
  },
});

/** The ids of all questions that match, in the filter's order. */
export const matchingIds = (db: Db | Tx, bankId: string, filter: QuestionFilter, now: Instant): string[] =>
  db
    .all<{ id: string }>(sql`select q.id ${matchingQuestions(db, bankId, filter, now)} order by ${orderOf(filter)}`)
    .map((row) => row.id);

const oneOf = (values: readonly string[]): SQL => sql`(select value from json_each(${JSON.stringify(values)}))`;

/** `from … where …` of the questions `q` that match, in use or retired; what papers have shown is joined only where it is asked for. */
function matchingQuestions(db: Db | Tx, bankId: string, filter: QuestionFilter, now: Instant): SQL {
  const where: SQL[] = [
    sql`q.bank_id = ${bankId}`,
    filter.retired ? sql`q.retired_at is not null` : sql`q.retired_at is null`,
  ];
  const query = fullTextQuery(filter.text);
  if (!query && filter.text.trim()) where.push(sql`0`);
  if (filter.categories.length) {
    const wanted = [...categoryPaths(categoryRows(db, bankId))]
      .filter(([own, path]) => filter.categories.some((id) => (filter.below ? path.includes(id) : own === id)))
      .map(([id]) => id);
    where.push(sql`q.category_id in ${oneOf(wanted)}`);
  }
  if (filter.types.length) where.push(sql`q.type in ${oneOf(filter.types)}`);
  if (filter.difficulties.length) where.push(sql`coalesce(q.difficulty, 'none') in ${oneOf(filter.difficulties)}`);
  if (filter.objectives.length)
    where.push(
      sql`q.id in (select o.question_id from question_objective o where o.objective_id in ${oneOf(filter.objectives)})`,
    );
  if (filter.tags.length)
    where.push(sql`q.id in (select t.question_id from question_tag t where t.tag in ${oneOf(filter.tags)})`);
  if (filter.passage) where.push(sql`q.passage_id is not null`);
  if (filter.used === 'never') where.push(sql`u.drawn is null`);
  if (filter.used === 'ever') where.push(sql`u.drawn is not null`);
  if (typeof filter.used === 'object')
    where.push(sql`(u.last_used is null or u.last_used < ${now - filter.used.notWithinDays * day})`);
  if (filter.success) where.push(sql`round(r.mean * 100, 6) between ${filter.success.from} and ${filter.success.to}`);
  const usage = filter.used !== 'any' || filter.sort === 'used';
  const rates = filter.success !== null || filter.sort === 'success';
  // A search goes from its matches to the questions, not through the whole bank.
  const source = query
    ? sql`(${questionsWith(query)}) f cross join question q on q.id = f.question_id`
    : sql`question q`;
  return sql`from ${source}
    ${usage ? sql`left join (${usageTable()}) u on u.question_id = q.id` : sql``}
    ${rates ? sql`left join (${successTable()}) r on r.question_id = q.id` : sql``}
    where ${sql.join(where, sql` and `)}`;
}

/** Questions without the value that is sorted by come last, whichever way it goes; equals stand as they were written. */
function orderOf({ sort, down }: QuestionFilter): SQL {
  const way = down ? sql`desc` : sql`asc`;
  const by: Record<QuestionFilter['sort'], SQL> = {
    written: sql`q.created_at ${way}, q.rowid ${way}`,
    changed: sql`q.updated_at ${way}`,
    name: sql`q.short_name = '', q.short_name collate nocase ${way}`,
    type: sql`instr(${questionTypes.join(' ')}, q.type) ${way}`,
    difficulty: sql`q.difficulty is null, instr('easy medium hard', q.difficulty) ${way}`,
    points: sql`q.points is null, q.points ${way}`,
    used: sql`u.last_used is null, u.last_used ${way}`,
    success: sql`r.mean is null, r.mean ${way}`,
  };
  // Questions brought in together were written at the same instant: the order of their rows is the order of the file.
  return sql`${by[sort]}, q.created_at, q.rowid`;
}
