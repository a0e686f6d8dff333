import { eq } from 'drizzle-orm';
import { sitting } from '@/db/schema';
import { explained, gradebook } from '../gradebook/gradebook';
import { gradebookSheet } from '../gradebook/gradeSheets';
import { totalAs } from '../gradebook/myTotal';
import { workbench } from '../gradebook/workbench';
import type { Context } from '../house/context';
import { readOutside } from '../outside/readOutside';
import { questionGrid } from '../release/questionGrid';
import { sittingResults } from '../release/results';
import { reviewAs } from '../release/review';
import { sittingReport } from '../release/sittingReport';
import { type PlainStatistics, plainRound, recomputed } from './recomputed';
import { must } from './school';

/**
 * Where a page or an export of a course says something else than what is worked out plainly from the database: the gradebook
 * with its statistics, each explanation, each student's own total, the sheet as CSV and XLSX, the results of each sitting,
 * its grid of questions, its bands, its printed list, and what each student reads of it.
 *
 * @param context somebody who may see all of it
 * @returns a line for each difference
 */
export async function differences(context: Context, courseId: string): Promise<string[]> {
  const { db, now } = context;
  const plain = recomputed(db.$client, courseId, now);
  const found: string[] = [];
  const compare = (where: string, shown: unknown, worked: unknown) => {
    const same =
      typeof shown === 'number' && typeof worked === 'number' ? Math.abs(shown - worked) < 1e-7 : shown === worked;
    if (!same) found.push(`${where}: ${JSON.stringify(shown)} is shown, ${JSON.stringify(worked)} worked out`);
  };
  for (const { slotId, type, stands, earns } of plain.marks) compare(`mark of ${type} ${slotId}`, stands, earns);

  const book = must(gradebook(context, courseId));
  const { decimals } = book.rules;
  const rounded = (value: number | null) => (value === null ? null : plainRound(value, decimals));
  const spread = (where: string, shown: (typeof book)['total'], worked: PlainStatistics) => {
    if (shown === null || worked === null) return compare(where, shown, worked);
    const { n, mean, median, deviation, least, most } = shown;
    for (const [i, one] of [n, mean, median, deviation, least, most].entries())
      compare(`${where} ${i}`, one, worked[i]);
  };
  compare('columns', book.columns.map((one) => one.id).join(), plain.columns.map((one) => one.id).join());
  for (const [i, { title, statistics }] of book.columns.entries())
    spread(`gradebook, ${title}`, statistics, plain.columns[i]?.statistics ?? null);
  spread('gradebook, totals', book.total, plain.total);
  for (const { userId, name, points, total, band } of book.rows) {
    const worked = plain.book.get(userId);
    for (const [i, one] of points.entries())
      compare(`gradebook, ${name}, ${i}`, one, rounded(worked?.cells[i] ?? null));
    compare(`gradebook, ${name}, total`, total, rounded(worked?.total ?? null));
    compare(`gradebook, ${name}, band`, band, worked?.band);
    const why = must(explained(context, courseId, userId));
    compare(`explanation, ${name}`, why.percent === '' ? null : Number(why.percent), rounded(worked?.total ?? null));
    compare(`explanation, ${name}, band`, why.band, worked?.band);
    const own = must(totalAs(context, courseId, userId));
    if (own.hidden.length === 0) {
      compare(`own total, ${name}`, own.percent, why.percent);
      compare(`own total, ${name}, band`, own.band, worked?.band);
    }
  }

  // The sheet without names stands in another order; both hold who is in the course.
  for (const format of ['csv', 'xlsx'] as const) {
    const { bytes } = must(await gradebookSheet(context, courseId, { format, names: true }));
    const limit = { most: 2_000, of: 'so many' };
    const [head = [], ...lines] = must(await readOutside('sheet', bytes, limit));
    const here = book.rows.filter((row) => !row.hasLeft);
    compare(`${format}, rows`, lines.length, here.length);
    for (const row of here) {
      const line = lines.find((one) => one[2] === emailOf(context, row.userId)) ?? [];
      const worked = plain.book.get(row.userId);
      const number = (text: string | undefined) =>
        text === undefined || text === '' || text === 'excused' ? null : Number(text);
      for (const [i] of book.columns.entries())
        compare(`${format}, ${row.name}, ${i}`, number(line[4 + i]), rounded(worked?.cells[i] ?? null));
      compare(`${format}, ${row.name}, total`, number(line[head.indexOf('Total %')]), rounded(worked?.total ?? null));
      if (head.includes('Band'))
        compare(`${format}, ${row.name}, band`, line[head.indexOf('Band')] ?? '', worked?.band);
    }
  }
  for (const { userId, percent } of must(workbench(context, courseId, null)).results)
    compare(`bands, ${userId}`, percent, plain.book.get(userId)?.total);

  for (const { id, title, state, anonymous, scored } of db
    .select()
    .from(sitting)
    .where(eq(sitting.courseId, courseId))
    .all()) {
    if (anonymous || !scored || state === 'draft') continue;
    const worked = (userId: string) => plain.results.get(`${id}/${userId}`);
    const percentOf = (userId: string) => {
      const result = worked(userId);
      return result && result.possible > 0 ? (result.earned / result.possible) * 100 : null;
    };
    const { rows } = must(sittingResults(context, courseId, id));
    for (const { userId, name, result, published } of rows) {
      const where = `results of ${title}, ${name}`;
      compare(where, result?.earned, worked(userId)?.earned);
      compare(`${where}, of`, result?.possible, worked(userId)?.possible);
      compare(`${where}, waiting`, result?.waiting, worked(userId)?.waiting);
      const told = lastTold(context, id, userId);
      compare(`${where}, published`, published?.earned, told?.earned);
      const read = must(reviewAs(context, courseId, id, { userId, at: now, number: null, published: false }));
      if (read.score && !read.score.preliminary) {
        compare(`what ${name} reads of ${title}`, read.score.earned, told?.earned);
        compare(`what ${name} reads of ${title}, band`, read.score.band?.label ?? null, bandTold(told));
      }
    }
    for (const { userId, percent } of must(questionGrid(context, courseId, id)).rows)
      compare(`questions of ${title}, ${userId}`, percent, percentOf(userId));
    const complete = must(workbench(context, courseId, id)).results;
    for (const { userId, percent } of complete)
      compare(`bands of ${title}, ${userId}`, percent, percentOf(userId) ?? 0);
    compare(
      `bands of ${title}`,
      complete.length,
      [...plain.results].filter(([key, one]) => key.startsWith(id) && one.waiting === 0 && one.possible > 0).length,
    );
    const [list] = must(sittingReport(context, courseId, id, 'class'));
    const table = list?.blocks.find((block) => block.kind === 'table');
    for (const [i, row] of rows.entries()) {
      const result = worked(row.userId);
      const said = table?.kind === 'table' ? table.rows[i] : undefined;
      const at = table?.kind === 'table' ? table.head.indexOf('Points') : -1;
      const [earned, possible] = (said?.[at] === '–' ? '' : String(said?.[at] ?? '')).split(' of ');
      compare(
        `list of ${title}, ${row.name}`,
        earned ? Number(earned) : undefined,
        result && plainRound(result.earned, 2),
      );
      compare(
        `list of ${title}, ${row.name}, of`,
        possible ? Number(possible) : undefined,
        result && plainRound(result.possible, 2),
      );
    }
  }
  return found;
}

const emailOf = ({ db }: Context, userId: string) =>
  (db.$client.prepare('select email from user where id = ?').get(userId) as { email: string | null }).email ?? '';

type Told = { earned: number; told: string | null };

/** What was told last of a result, and stands. */
const lastTold = ({ db }: Context, sittingId: string, userId: string) =>
  db.$client
    .prepare(
      'select earned, told from publication where sitting_id = ? and user_id = ? and withdrawn_at is null and preliminary = 0 order by id desc limit 1',
    )
    .get(sittingId, userId) as Told | undefined;

const bandTold = (told: Told | undefined): string | null =>
  (JSON.parse(told?.told ?? 'null') as { band: { label: string } | null } | null)?.band?.label ?? null;
