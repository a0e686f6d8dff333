import { and, eq, isNull } from 'drizzle-orm';
import { z } from 'zod';
import type { Brought } from '@/core/bank/bringIn/brought';
import type { Line } from '@/core/bank/bringIn/line';
import type { ReadLine } from '@/core/bank/bringIn/lineForms';
import { saidRoles, type Taught } from '@/core/bank/bringIn/lineForms';
import { type KnownTable, mostRows, tableFields } from '@/core/bank/bringIn/readTable';
import { ok, type Result, refused } from '@/core/base/result';
import { counted } from '@/core/base/words';
import { contentText } from '@/core/question/content';
import { questionTypeNames } from '@/core/question/definitions';
import { fold } from '@/core/question/text/fold';
import type { Db, Tx } from '@/db/client';
import { question, questionVersion } from '@/db/schema';
import { toBank } from '../bank/toBank';
import type { Context } from '../house/context';
import { prefer, preferred } from '../house/preferences';
import { bytes, command, query } from '../house/useCase';
import { type Encoding, encodings } from '../outside/decodedText';
import type { ReadQuestions } from '../outside/readings';
import { readOutside } from '../outside/readOutside';

/**
 * A question that was read, and where it stands to the bank. `ask`: something has to be decided by a person before it is
 * taken; `there`: the bank has one with the same words.
 */
export type PreviewItem = Brought & { state: 'new' | 'ask' | 'there' | 'unreadable'; type: string };

/** What was read of a text, a document or a table, with what became of every line or row. */
export type Preview = {
  items: PreviewItem[];
  /** For a text or document: its lines, and what each was read as. */
  text: { lines: Line[]; roles: ReadLine[] } | null;
  /** For a table: its headings and what each column was taken for. */
  columns: KnownTable | null;
  counts: { new: number; ask: number; there: number; unreadable: number; unreadLines: number };
  /** What the letters of a file were taken for, where that was a guess. */
  encoding: Encoding | null;
  /** What earlier corrections taught. */
  taught: Taught;
};

const longestText = 3_000_000;
const lineSchema = z.object({
  label: z.string().max(40).optional(),
  whole: z.boolean().optional(),
  runs: z.array(
    z.object({
      text: z.string(),
      bold: z.boolean().optional(),
      underline: z.boolean().optional(),
      marked: z.boolean().optional(),
    }),
  ),
});
const saidRole = z.enum(saidRoles);
const taughtSchema = z.record(z.string().max(200), saidRole);
const corrected = {
  /** What a person said of lines, by their places from 0. */
  said: z.record(z.string().regex(/^\d{1,6}$/), saidRole).default({}),
  /** Forms of lines of which nothing is remembered any more. */
  forget: z.array(z.string().max(200)).max(500).default([]),
};
const cells = z.array(z.array(z.string().max(200_000)).max(200)).max(mostRows);
const sourceSchema = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('text'),
    text: z.string().max(longestText, 'This text is too long to be read at once: bring it in in parts.'),
    ...corrected,
  }),
  z.object({ kind: z.literal('lines'), lines: z.array(lineSchema).max(100_000), ...corrected }),
  z.object({
    kind: z.literal('table'),
    headings: z.array(z.string().max(500)).max(200),
    rows: cells,
    fields: z.array(z.enum(tableFields)).max(200),
    hasHeadings: z.boolean(),
  }),
]);

/** What corrections taught is remembered for the person, in every bank. */
const taughtName = 'bring-in/lines';
/** The most forms of lines that are remembered. */
const mostTaught = 200;

const taughtTo = ({ db, actor }: Context): Taught =>
  taughtSchema.safeParse(preferred(db, actor.userId, taughtName)).data ?? {};

/**
 * Reads pasted text, paragraphs or a mapped table, with what a person said of its lines, and says of each question whether
 * it is new. Nothing is stored but what was learnt from corrections.
 */
export const previewText = command({
  admits: toBank('bank.change'),
  takes: [sourceSchema],
  unlogged: 'only how lines and columns are read is remembered, for the person',
  async prepares({ context }, source): Promise<Result<ReadQuestions & { brought?: Brought[]; taught?: Taught }>> {
    if (source.kind === 'table') {
      const read = await readOutside('questionsInTable', source.rows, source.fields, source.hasHeadings);
      return read.ok ? ok({ table: source, brought: read.value }) : read;
    }
    const taught = Object.fromEntries(
      Object.entries(taughtTo(context)).filter(([form]) => !source.forget.includes(form)),
    );
    const read = await readOutside(
      'questionsInLines',
      source.kind === 'text' ? source.text : source.lines,
      source.said,
      taught,
    );
    if (!read.ok || !('table' in read.value)) return read;
    return withTable(context, read.value.table);
  },
  does({ tx, bankId, context, ready }, source): Result<Preview> {
    if (source.kind === 'table') prefer(tx, context.actor.userId, mappingName(source.headings), source.fields);
    else if (ready.taught && JSON.stringify(ready.taught) !== JSON.stringify(taughtTo(context)))
      prefer(tx, context.actor.userId, taughtName, Object.fromEntries(Object.entries(ready.taught).slice(-mostTaught)));
    return ok(previewed(context, bankId, ready));
  },
});

/** The most bytes of a document that is brought in. */
export const largestDocument = 20_000_000;

const encodingSchema = z.enum(Object.keys(encodings) as [Encoding, ...Encoding[]]).nullable();

/** Reads a document or a table from a file. What it is, its content decides; its letters may be named. */
export const previewFile = query({
  admits: toBank('bank.change'),
  takes: [bytes, encodingSchema],
  async does({ bankId, context }, file, encoding): Promise<Result<Preview>> {
    if (file.length > largestDocument) return refused('bad-input', 'A document may have at most 20 MB.');
    const read = await readOutside('questionsInFile', file, taughtTo(context), encoding);
    if (!read.ok) return read;
    const found = read.value;
    if (!('table' in found)) return ok(previewed(context, bankId, found));
    const table = await withTable(context, found.table);
    return table.ok ? ok(previewed(context, bankId, { ...found, ...table.value })) : table;
  },
});

/** A table read by what its columns were said to be the last time, or by what they seem to be. */
async function withTable(
  context: Context,
  table: KnownTable,
): Promise<Result<{ table: KnownTable; brought: Brought[] }>> {
  const { headings, rows, hasHeadings } = table;
  if (rows.length > mostRows)
    return refused(
      'bad-input',
      `At most ${mostRows} rows are read at once; this table has ${counted(rows.length, 'row')}.`,
    );
  const remembered = z
    .array(z.enum(tableFields))
    .safeParse(preferred(context.db, context.actor.userId, mappingName(headings)));
  const isKnown = hasHeadings && remembered.success && remembered.data.length === headings.length;
  const fields = isKnown ? remembered.data : table.fields;
  const read = await readOutside('questionsInTable', rows, fields, hasHeadings);
  return read.ok ? ok({ table: { headings, rows, fields, hasHeadings }, brought: read.value }) : read;
}

/** A mapping is remembered for tables with the same headings. */
const mappingName = (headings: readonly string[]) => `bring-in/${headings.join('|').slice(0, 400)}`;

function previewed(
  context: Context,
  bankId: string,
  read: ReadQuestions & { brought?: Brought[]; taught?: Taught },
): Preview {
  const isTable = 'table' in read;
  const unreadLines = isTable ? 0 : read.roles.filter((line) => line.role === 'unread').length;
  const { items, counts } = compared(context.db, bankId, isTable ? (read.brought ?? []) : read.items);
  return {
    items,
    counts: { ...counts, unreadLines },
    text: isTable ? null : { lines: read.lines, roles: read.roles },
    columns: isTable
      ? {
          headings: read.table.headings,
          rows: read.table.rows,
          fields: read.table.fields,
          hasHeadings: read.table.hasHeadings,
        }
      : null,
    encoding: read.encoding ?? null,
    taught: read.taught ?? taughtTo(context),
  };
}

const everything = { case: true, accents: false, spacing: true };

/** A question's words by which it is recognised when it is brought in again. */
const fingerprint = (type: string, text: string) => `${type}/${fold(text, everything)}`;

function compared(db: Db | Tx, bankId: string, brought: Brought[]) {
  const there = new Set(
    db
      .select({ type: question.type, text: questionVersion.plainText })
      .from(question)
      .innerJoin(questionVersion, eq(questionVersion.id, question.currentVersionId))
      .where(and(eq(question.bankId, bankId), isNull(question.retiredAt)))
      .all()
      .map((row) => fingerprint(row.type, row.text)),
  );
  const counts = { new: 0, ask: 0, there: 0, unreadable: 0 };
  const items = brought.map((one): PreviewItem => {
    const { content } = one;
    let state: PreviewItem['state'] = 'unreadable';
    if (content) {
      const known = fingerprint(content.type, contentText(content));
      const isAsked = one.problems.some((problem) => problem.severity === 'ask');
      state = there.has(known) ? 'there' : isAsked ? 'ask' : 'new';
      there.add(known);
    }
    counts[state]++;
    return { ...one, state, type: content ? questionTypeNames[content.type] : '' };
  });
  return { items, counts };
}
