import { eq } from 'drizzle-orm';
import { z } from 'zod';
import { type NumberGrid, rowsOfQuestion } from '@/core/answerSheet/questionRows';
import { mostCopies } from '@/core/answerSheet/sheetCode';
import { doesNotFit, pagesOfSheet } from '@/core/answerSheet/sheetLayout';
import type { AnswerSheetOrder, OrderedSheet } from '@/core/answerSheet/sheetOrder';
import type { SheetPlan, SheetRow } from '@/core/answerSheet/sheetRow';
import { notFound, ok, type Result, refused } from '@/core/base/result';
import { counted } from '@/core/base/words';
import { definitionOf } from '@/core/question/definitions';
import { forStudent, type ShownQuestion } from '@/core/question/student';
import type { Tx } from '@/db/client';
import { madeOutSheet, type SheetPaperSlot, type SheetRowOf, sheetLayout } from '@/db/schema';
import type { Context } from '../house/context';
import { command, field, query } from '../house/useCase';
import { beginPrint, endPrint, type PrintState, printOf, printsAreTheirOwn, whatWasPrinted } from '../print/printJobs';
import { type DrawnPaper, paperForEveryone, type StudentPaper, studentPapers } from '../print/studentPapers';
import type { SittingRow } from '../records/audience';
import { toSitting } from '../sitting/toSitting';
import { installationSigns, newLayoutId, sheetName } from './sheetNames';

const kind = 'print-answer-sheets';
const mostBlanks = 1_000;

/** How answer sheets are printed. */
export const sheetOptions = z.object({
  /** Made out for each student, or blanks for whoever writes a name and fills in a number; of an anonymous sitting blanks without either. */
  whose: z.enum(['made-out', 'blank']),
  blanks: field(
    'blanks',
    z
      .number({ message: 'Give the number of blanks.' })
      .int()
      .min(1, 'Give at least one blank.')
      .max(mostBlanks, `At most ${mostBlanks} blanks at once.`),
  ),
  size: field(
    'size',
    z.number({ message: 'Give the size in percent.' }).int().min(70, 'From 70 %.').max(120, 'Up to 120 %.'),
  ),
  perPage: z.union([z.literal(1), z.literal(2), z.literal(4)]),
  bothSides: z.boolean(),
  /** How the grids are into which numbers are filled. */
  grid: z.object({
    columns: field(
      'columns',
      z
        .number({ message: 'Give the number of columns.' })
        .int()
        .min(1, 'At least one column.')
        .max(10, 'At most 10 columns.'),
    ),
    sign: z.boolean(),
    point: z.boolean(),
    fraction: z.boolean(),
    exponent: z.boolean(),
  }),
  /** One sheet only, to be tried before a class is printed. */
  trial: z.boolean(),
});
export type SheetOptions = z.output<typeof sheetOptions>;

/** A paper's rows: what stands on the sheet, and which question each belongs to. */
type PaperRows = { rows: SheetRow[]; of: SheetRowOf[]; views: ShownQuestion[] };

/** @param byHandToo whether rows stand for what whoever marks fills in */
function rowsOfPaper({ sources }: DrawnPaper, grid: NumberGrid, byHandToo: boolean): PaperRows {
  const paper: PaperRows = { rows: [], of: [], views: [] };
  for (const [position, { content, presentation, points }] of sources.entries()) {
    const view = forStudent(content, presentation);
    const { rubric } = definitionOf(content.type).markingAids(content);
    const { rows, byHand } = rowsOfQuestion(view, { number: position + 1, points, rubric, grid });
    paper.views.push(view);
    if (byHand && !byHandToo) continue;
    paper.rows.push(...rows);
    paper.of.push(...rows.map(() => ({ position, byHand })));
  }
  return paper;
}

/** What would be printed: for a look before a class is printed. */
export type SheetsAhead = {
  sheets: number;
  /** Of the longest sheet. */
  pages: number;
  rows: number;
  /** How many rows are grids for a number. */
  numbers: number;
  /** Rows into which whoever marks fills in points, or levels of a rubric. */
  byHand: number;
  /** Of blanks: students without a number that can be filled in. Whose their sheets are is asked when they are read. */
  unnumbered: number;
  /** Of an anonymous sitting: questions that are answered in words, which are read on the papers and do not come in. */
  inWords: number;
  /** Why it cannot be printed so; null where it can. */
  problem: string | null;
};

/** A layout with the papers it is for, or the one paper that is nobody's. */
type LayoutAhead = { plan: SheetPlan; of: SheetRowOf[]; papers: StudentPaper[]; paper: SheetPaperSlot[] | null };
type Ahead = SheetsAhead & { layouts: LayoutAhead[] };

const everyoneTheSame = (papers: readonly PaperRows[]): boolean =>
  new Set(papers.map((paper) => JSON.stringify(paper.views))).size <= 1;

/**
 * Works out which layouts there will be, and whose sheet has which.
 *
 * @param only the one student whose sheet is wanted; null for all
 */
export function sheetsOfSitting(
  tx: Tx,
  context: Context,
  row: SittingRow,
  options: SheetOptions,
  only: string | null = null,
): Result<Ahead> {
  if (row.anonymous) return sheetsForEveryone(tx, context, row, options);
  const found = studentPapers(tx, context, row, only);
  if (!found.ok) return found;
  const { papers } = found.value;
  const own = papers.map((paper) => ({ paper, laid: rowsOfPaper(paper, options.grid, true) }));
  if (options.whose === 'blank' && !everyoneTheSame(own.map((one) => one.laid)))
    return refused(
      'conflict',
      'Every student has a paper of their own here: a blank could be anybody’s. Have the sheets made out.',
      'whose',
    );
  const numbers = papers.flatMap(({ student }) =>
    /^[0-9]{1,10}$/.test(student.studentNumber ?? '') ? (student.studentNumber?.length ?? 0) : [],
  );
  const studentColumns = options.whose === 'blank' && numbers.length ? Math.min(10, Math.max(4, ...numbers)) : 0;
  const layouts = new Map<string, LayoutAhead>();
  for (const { paper, laid } of own) {
    if (laid.rows.length === 0) return refused('conflict', 'This exam has no questions yet.');
    const plan = planOf(laid, options, studentColumns);
    const key = JSON.stringify([plan, laid.of]);
    const known = layouts.get(key);
    if (known) known.papers.push(paper);
    else layouts.set(key, { plan, of: laid.of, papers: [paper], paper: null });
  }
  return ok({
    ...aheadOf([...layouts.values()]),
    sheets: sheetCount(options, papers.length),
    unnumbered: options.whose === 'blank' ? papers.length - numbers.length : 0,
    inWords: 0,
  });
}

const planOf = ({ rows }: PaperRows, { size, perPage }: SheetOptions, studentColumns: number): SheetPlan => ({
  version: 1,
  size,
  perPage,
  studentColumns,
  rows,
});
const sheetCount = ({ trial, whose, blanks }: SheetOptions, students: number): number =>
  trial ? 1 : whose === 'blank' ? blanks : students;

/** What is said of layouts before they are printed. */
function aheadOf(layouts: LayoutAhead[]): Omit<Ahead, 'sheets' | 'unnumbered' | 'inWords'> {
  const problem = layouts.map((one) => doesNotFit(one.plan)).find((one) => one !== null) ?? null;
  return {
    layouts,
    pages: problem ? 0 : Math.max(...layouts.map((one) => pagesOfSheet(one.plan))),
    rows: Math.max(...layouts.map((one) => one.plan.rows.length)),
    byHand: Math.max(...layouts.map((one) => one.of.filter((row) => row.byHand).length)),
    numbers: Math.max(...layouts.map((one) => one.plan.rows.filter((row) => row.kind === 'number').length)),
    problem,
  };
}

/** The sheets of an anonymous sitting: nobody's, for the paper that is the same for everyone. */
function sheetsForEveryone(tx: Tx, context: Context, row: SittingRow, options: SheetOptions): Result<Ahead> {
  if (options.whose !== 'blank')
    return refused('conflict', 'Nobody’s name stands on the sheets of an anonymous sitting.', 'whose');
  const found = paperForEveryone(tx, context, row);
  if (!found.ok) return found;
  const { sources } = found.value.paper;
  if (sources.length === 0) return refused('conflict', 'This exam has no questions yet.');
  const laid = rowsOfPaper(found.value.paper, options.grid, false);
  if (laid.rows.length === 0)
    return refused('conflict', 'All of its questions are answered in words: they are read on the papers themselves.');
  const paper = sources.map(
    ({ partTitle, questionId, versionId, points, presentation }): SheetPaperSlot => ({
      partTitle,
      questionId,
      versionId,
      points,
      presentation,
    }),
  );
  return ok({
    ...aheadOf([{ plan: planOf(laid, options, 0), of: laid.of, papers: [], paper }]),
    sheets: sheetCount(options, 0),
    unnumbered: 0,
    inWords: sources.length - new Set(laid.of.map((one) => one.position)).size,
  });
}

/** What would be printed with these options. Looking at it fixes the sitting's questions, as printing would. */
export const lookAtSheets = command({
  admits: toSitting('sitting.change'),
  takes: [sheetOptions],
  unlogged: 'what is only looked at changes nothing that anybody sees',
  does({ tx, context, sitting }, options): Result<SheetsAhead> {
    const ahead = sheetsOfSitting(tx, context, sitting, options);
    if (!ahead.ok) return ahead;
    const { layouts: _, ...said } = ahead.value;
    return ok(said);
  },
});

/** A layout as it is stored, and the copies of it that were made out: by student and number of their attempt. */
type StoredLayout = Pick<typeof sheetLayout.$inferSelect, 'id' | 'copies'> & { madeOut: Map<string, number> };
/** The stored layouts of a sitting by what they say. */
export type StoredLayouts = Map<string, StoredLayout>;

const layoutKey = (plan: SheetPlan, of: SheetRowOf[], paper: SheetPaperSlot[] | null): string =>
  JSON.stringify([plan, of, paper]);
const copyKey = (userId: string, number: number): string => `${userId}/${number}`;

/** Every layout of a sitting with its copies, read at once: a class with drawn papers has one for each. */
export function storedLayouts(tx: Tx, sittingId: string): StoredLayouts {
  const rows = tx.select().from(sheetLayout).where(eq(sheetLayout.sittingId, sittingId)).all();
  const stored = new Map(rows.map(({ id, copies }) => [id, { id, copies, madeOut: new Map<string, number>() }]));
  const copies = tx
    .select({ one: madeOutSheet })
    .from(madeOutSheet)
    .innerJoin(sheetLayout, eq(sheetLayout.id, madeOutSheet.layoutId))
    .where(eq(sheetLayout.sittingId, sittingId))
    .all();
  for (const { one } of copies) stored.get(one.layoutId)?.madeOut.set(copyKey(one.userId, one.number), one.copy);
  return new Map(
    rows.map(({ id, plan, rows: of, paper }) => [layoutKey(plan, of, paper), stored.get(id) as StoredLayout]),
  );
}

/** The stored layout for a plan: the one that was printed before, or a new one. */
export function layoutFor(
  tx: Tx,
  { now, actor }: Context,
  sittingId: string,
  stored: StoredLayouts,
  { plan, of, paper }: LayoutAhead,
): StoredLayout {
  const key = layoutKey(plan, of, paper);
  const same = stored.get(key);
  if (same) return same;
  const made = { id: newLayoutId(), copies: 0, madeOut: new Map<string, number>() };
  stored.set(key, made);
  tx.insert(sheetLayout)
    .values({ id: made.id, copies: 0, sittingId, plan, rows: of, paper, createdAt: now, createdBy: actor.userId })
    .run();
  return made;
}

/** Sheets for the students of one layout. Who has one already gets the same again, with the same code. */
export function madeOutFor(tx: Tx, layout: StoredLayout, papers: readonly StudentPaper[]): OrderedSheet[] {
  let last = layout.copies;
  const sheets = papers.map(({ student, number }): OrderedSheet => {
    let copy = layout.madeOut.get(copyKey(student.userId, number));
    if (copy === undefined) {
      copy = ++last;
      tx.insert(madeOutSheet).values({ layoutId: layout.id, copy, userId: student.userId, number }).run();
    }
    return { layout: layout.id, copy, name: student.name, note: student.section ?? '' };
  });
  if (last > layout.copies) tx.update(sheetLayout).set({ copies: last }).where(eq(sheetLayout.id, layout.id)).run();
  return sheets;
}

/** Stores the layouts and copies that these options ask for, and says what is to be printed. */
export function orderOfSheets(
  tx: Tx,
  context: Context,
  sitting: SittingRow,
  options: SheetOptions,
): Result<AnswerSheetOrder> {
  const ahead = sheetsOfSitting(tx, context, sitting, options);
  if (!ahead.ok) return ahead;
  const { problem, layouts } = ahead.value;
  if (problem) return refused('bad-input', problem, 'size');
  const plans: Record<string, SheetPlan> = {};
  const sheets: OrderedSheet[] = [];
  const stored = storedLayouts(tx, sitting.id);
  for (const wanted of options.trial ? layouts.slice(0, 1) : layouts) {
    const { plan, papers } = wanted;
    const layout = layoutFor(tx, context, sitting.id, stored, wanted);
    plans[layout.id] = plan;
    if (options.whose === 'made-out') {
      sheets.push(...madeOutFor(tx, layout, options.trial ? papers.slice(0, 1) : papers));
      continue;
    }
    const count = options.trial ? 1 : options.blanks;
    if (layout.copies + count > mostCopies)
      return refused('conflict', 'No more sheets of this exam can be told apart.');
    for (let i = 1; i <= count; i++) {
      const copy = layout.copies + i;
      sheets.push(
        sitting.anonymous
          ? { layout: layout.id, copy, name: sheetName(copy), note: 'Please write no name.' }
          : { layout: layout.id, copy, name: null, note: '' },
      );
    }
    tx.update(sheetLayout)
      .set({ copies: layout.copies + count })
      .where(eq(sheetLayout.id, layout.id))
      .run();
  }
  if (!sitting.anonymous) sheets.sort((a, b) => (a.name ?? '').localeCompare(b.name ?? '') || a.copy - b.copy);
  return ok({
    installation: installationSigns(context.db),
    title: sitting.title,
    layouts: plans,
    sheets,
    bothSides: options.bothSides,
  });
}

/** Begins to print answer sheets of a sitting into one PDF. */
export const printAnswerSheets = command({
  admits: toSitting('sitting.change'),
  takes: [sheetOptions],
  logs: 'sitting.print-answer-sheets',
  does({ tx, context, sittingId, sitting, record }, options): Result<PrintState> {
    const order = orderOfSheets(tx, context, sitting, options);
    if (!order.ok) return order;
    const count = order.value.sheets.length;
    const input = { sittingId, sheets: { count, size: options.size } };
    const begun = beginPrint(tx, context, kind, input, { answerSheets: order.value, pictures: {} });
    if (begun.ok)
      record({
        subjectId: sittingId,
        detail: { sheets: count, said: `${counted(count, 'answer sheet')} at ${options.size} %` },
      });
    return begun;
  },
});

/** How far this person's print of answer sheets is; null when there is none. */
export const answerSheetsPrint = query({
  admits: toSitting('sitting.change'),
  does: ({ sittingId, context }): Result<PrintState | null> => ok(printOf(context, kind, sittingId)),
});

/** Ends a print of answer sheets that runs. */
export const cancelAnswerSheets = command({
  admits: toSitting('sitting.change'),
  unlogged: printsAreTheirOwn,
  does: ({ tx, context, sittingId }): Result<null> => endPrint(tx, context, kind, sittingId),
});

/** The printed answer sheets of a sitting, once they are done. */
export const printedAnswerSheets = query({
  admits: toSitting('sitting.change'),
  does({ context, sittingId }): Result<{ bytes: Uint8Array }> {
    const printed = whatWasPrinted(context, kind, sittingId);
    return printed ? ok({ bytes: printed.bytes }) : notFound('print');
  },
});
