import { eq } from 'drizzle-orm';
import { sitting } from '@/db/schema';
import { explained, type Gradebook, gradebook } from '../gradebook/gradebook';
import { gradebookSheet } from '../gradebook/gradeSheets';
import { totalAs } from '../gradebook/myTotal';
import { workbench } from '../gradebook/workbench';
import type { Context } from '../house/context';
import { readOutside } from '../outside/readOutside';
import { questionGrid } from '../release/questionGrid';
import { sittingResults } from '../release/results';
import { reviewAs } from '../release/review';
import { sittingReport } from '../release/sittingReport';
import { type PlainStatistics, plainRound, type Recomputed, recomputed } from './recomputed';
import { must } from './school';

/** What is looked at, what was worked out, and where it is said that the two differ. */
type Look = {
  context: Context;
  courseId: string;
  plain: Recomputed;
  compare: (where: string, shown: unknown, worked: unknown) => void;
};

/**
 * Where a page or an export of a course says something else than what is worked out plainly from the database: the gradebook
 * with its statistics, each explanation, each student's own total, the sheet as CSV and XLSX, the results of each sitting,
 * its grid of questions, its bands, its printed list, and what each student reads of it.
 *
 * @param context somebody who may see all of it
 * @returns a line for each difference
 */
export async function differences(context: Context, courseId: string): Promise<string[]> {
  const plain = recomputed(context.db.$client, courseId, context.now);
  const found: string[] = [];
  const compare = (where: string, shown: unknown, worked: unknown) => {
    const same =
      typeof shown === 'number' && typeof worked === 'number' ? Math.abs(shown - worked) < 1e-7 : shown === worked;
    if (!same) found.push(`${where}: ${JSON.stringify(shown)} is shown, ${JSON.stringify(worked)} worked out`);
  };
  const look: Look = { context, courseId, plain, compare };
  for (const { slotId, type, stands, earns } of plain.marks) compare(`mark of ${type} ${slotId}`, stands, earns);
  const book = must(gradebook(context, courseId));
  compareBook(look, book);
  for (const format of ['csv', 'xlsx'] as const) await compareSheet(look, book, format);
  const rows = context.db.select().from(sitting).where(eq(sitting.courseId, courseId)).all();
  for (const row of rows) if (row.scored && !row.anonymous && row.state !== 'draft') compareSitting(look, row);
  return found;
}

const roundedIn = (book: Gradebook) => (value: number | null | undefined) =>
  value == null ? null : plainRound(value, book.rules.decimals);

function compareBook({ context, courseId, plain, compare }: Look, book: Gradebook): void {
  const rounded = roundedIn(book);
  const spread = (where: string, shown: Gradebook['total'], worked: PlainStatistics) => {
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
    for (const [i, one] of points.entries()) compare(`gradebook, ${name}, ${i}`, one, rounded(worked?.cells[i]));
    compare(`gradebook, ${name}, total`, total, rounded(worked?.total));
    compare(`gradebook, ${name}, band`, band, worked?.band);
    const why = must(explained(context, courseId, userId));
    compare(`explanation, ${name}`, numberOf(why.percent), rounded(worked?.total));
    compare(`explanation, ${name}, band`, why.band, worked?.band);
    const own = must(totalAs(context, courseId, userId));
    if (own.hidden.length > 0) continue;
    compare(`own total, ${name}`, own.percent, why.percent);
    compare(`own total, ${name}, band`, own.band, worked?.band);
  }
  for (const { userId, percent } of must(workbench(context, courseId, null)).results)
    compare(`bands, ${userId}`, percent, plain.book.get(userId)?.total);
}

async function compareSheet({ context, courseId, plain, compare }: Look, book: Gradebook, format: 'csv' | 'xlsx') {
  const rounded = roundedIn(book);
  const { bytes } = must(await gradebookSheet(context, courseId, { format, names: true }));
  const [head = [], ...lines] = must(await readOutside('sheet', bytes, { most: 2_000, of: 'so many' }));
  const here = book.rows.filter((row) => !row.hasLeft);
  compare(`${format}, rows`, lines.length, here.length);
  for (const { userId, name } of here) {
    const line = lines.find((one) => one[2] === emailOf(context, userId)) ?? [];
    const worked = plain.book.get(userId);
    for (const [i] of book.columns.entries())
      compare(`${format}, ${name}, ${i}`, numberOf(line[4 + i]), rounded(worked?.cells[i]));
    compare(`${format}, ${name}, total`, numberOf(line[head.indexOf('Total %')]), rounded(worked?.total));
    if (head.includes('Band')) compare(`${format}, ${name}, band`, line[head.indexOf('Band')] ?? '', worked?.band);
  }
}

const numberOf = (text: string | undefined) =>
  text === undefined || text === '' || text === 'excused' ? null : Number(text);

function compareSitting({ context, courseId, plain, compare }: Look, { id, title }: typeof sitting.$inferSelect): void {
  const worked = (userId: string) => plain.results.get(`${id}/${userId}`);
  const percentOf = (userId: string) => {
    const result = worked(userId);
    return result && result.possible > 0 ? (result.earned / result.possible) * 100 : null;
  };
  const { rows } = must(sittingResults(context, courseId, id));
  const [list] = must(sittingReport(context, courseId, id, 'class'));
  const table = list?.blocks.find((block) => block.kind === 'table');
  for (const [i, { userId, name, result, published }] of rows.entries()) {
    const where = `results of ${title}, ${name}`;
    const own = worked(userId);
    compare(where, result?.earned, own?.earned);
    compare(`${where}, of`, result?.possible, own?.possible);
    compare(`${where}, waiting`, result?.waiting, own?.waiting);
    const told = lastTold(context, id, userId);
    compare(`${where}, published`, published?.earned, told?.earned);
    const asked = { userId, at: context.now, number: null, published: false };
    const { score } = must(reviewAs(context, courseId, id, asked));
    if (score && !score.preliminary) {
      compare(`what ${name} reads of ${title}`, score.earned, told?.earned);
      compare(`what ${name} reads of ${title}, band`, score.band?.label ?? null, bandTold(told));
    }
    const printed = table?.kind === 'table' ? table.rows[i]?.[table.head.indexOf('Points')] : undefined;
    const points = own ? `${plainRound(own.earned, 2)} of ${plainRound(own.possible, 2)}` : '–';
    compare(`list of ${title}, ${name}`, printed, points);
  }
  for (const { userId, percent } of must(questionGrid(context, courseId, id)).rows)
    compare(`questions of ${title}, ${userId}`, percent, percentOf(userId));
  const complete = must(workbench(context, courseId, id)).results;
  for (const { userId, percent } of complete) compare(`bands of ${title}, ${userId}`, percent, percentOf(userId) ?? 0);
  const all = [...plain.results].filter(([key]) => key.startsWith(id));
  const counted = all.filter(([, one]) => one.waiting === 0 && one.possible > 0);
  compare(`bands of ${title}`, complete.length, counted.length);
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
