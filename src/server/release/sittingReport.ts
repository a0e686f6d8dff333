import { and, countDistinct, eq } from 'drizzle-orm';
import { z } from 'zod';
import { notFound, ok, type Result, refused } from '@/core/base/result';
import { pointsText, roundHalfUp } from '@/core/base/rounding';
import { inZone } from '@/core/base/time';
import { counted, shortened } from '@/core/base/words';
import type { SheetBlock, SheetDocument } from '@/core/gradebook/sheetDocument';
import { statisticsOf } from '@/core/gradebook/statistics';
import type { PrintOrder } from '@/core/print/printOrder';
import { reportKinds, reportNames } from '@/core/release/printedReports';
import { attempt } from '@/db/schema';
import type { Context } from '../house/context';
import { command, query } from '../house/useCase';
import { beginPrint, endPrint, type PrintState, printOf, printsAreTheirOwn, whatWasPrinted } from '../print/printJobs';
import { withoutNames } from '../records/guestNumbers';
import { toNamedSitting } from '../sitting/toSitting';
import { sittingAnswers } from './answerTally';
import { questionGrid } from './questionGrid';
import { sittingResults } from './results';

/** A number and its sign stay on one line. */
const percentText = (percent: number | null) => (percent === null ? '' : `${roundHalfUp(percent, 1)}\u00a0%`);

/** The most answers to a question that are listed on paper. */
const mostAnswers = 12;

/** How many questions stand in one piece of the report by question; the pieces are printed one after another. */
const questionsInPiece = 20;

/** Whether students are called by their names. */
const withNames = z.boolean().default(true);

/**
 * A report of a sitting to be printed: the class with each student's result on a line; a sheet for each student with the
 * credit of each question; or questions with how they did and what was answered, in pieces of {@link questionsInPiece}.
 */
export const sittingReport = query({
  admits: toNamedSitting('results.publish'),
  takes: [z.enum(reportKinds), withNames],
  does({ db, courseId, context, courseName, timeZone, sittingId }, kind, named): Result<SheetDocument[]> {
    const results = sittingResults(context, courseId, sittingId);
    if (!results.ok) return results;
    const grid = questionGrid(context, courseId, sittingId);
    if (!grid.ok) return notFound('sitting with names');
    const { title } = results.value;
    const numbered = new Map(
      named ? [] : withoutNames(db, sittingId, results.value.rows).map((one) => [one.student.userId, one]),
    );
    /** Without names, the same number for a student in every report. */
    const called = <Row extends { userId: string; name: string; section: string | null }>(
      all: readonly Row[],
    ): Row[] =>
      named
        ? [...all]
        : all
            .map((row) => ({
              ...row,
              name: numbered.get(row.userId)?.name ?? '',
              section: numbered.get(row.userId)?.section ?? null,
            }))
            .sort((a, b) => a.name.localeCompare(b.name, 'en', { numeric: true }));
    const rows = called(results.value.rows);
    const date = inZone(context.now, timeZone, 'd MMMM yyyy');
    const name = reportNames[kind].name.toLowerCase();
    const sheet = (blocks: SheetBlock[], more: Partial<SheetDocument> = {}): SheetDocument => ({
      fileName: 'report.pdf',
      title: `${title}: ${name}`,
      note: `${courseName} · ${date}`,
      foot: `${title} · ${name} · ${date}`,
      blocks,
      ...more,
    });
    switch (kind) {
      case 'class':
        return ok([sheet(classBlocks(rows))]);
      case 'students': {
        const results = new Map(rows.map((row) => [row.userId, row]));
        return ok(
          called(grid.value.rows).map((row) =>
            sheet(studentBlocks(grid.value, row, results.get(row.userId)), {
              title,
              note: [row.name, row.section, courseName, date].filter(Boolean).join(' · '),
              foot: `${title} · ${row.name} · ${date}`,
            }),
          ),
        );
      }
      case 'questions':
        return ok(
          chunked(questionBlocks(context, courseId, sittingId, grid.value), questionsInPiece).map((piece) =>
            sheet(piece.flat()),
          ),
        );
    }
  },
});

const chunked = <T>(all: readonly T[], size: number): T[][] =>
  Array.from({ length: Math.ceil(all.length / size) }, (_, i) => all.slice(i * size, (i + 1) * size));

type Rows = Extract<ReturnType<typeof sittingResults>, { ok: true }>['value']['rows'];
type Grid = Extract<ReturnType<typeof questionGrid>, { ok: true }>['value'];

function classBlocks(rows: Rows): SheetBlock[] {
  const percents = rows.flatMap(({ result }) =>
    result?.ready && result.possible > 0 ? [(result.earned / result.possible) * 100] : [],
  );
  const statistics = statisticsOf(percents);
  const bands = rows.some((row) => row.band);
  const sections = rows.some((row) => row.section);
  return [
    ...(statistics
      ? [
          {
            kind: 'text' as const,
            text: `${counted(statistics.n, 'complete result')}: mean ${percentText(statistics.mean)}, median ${percentText(statistics.median)}, standard deviation ${roundHalfUp(statistics.deviation, 1)}, from ${percentText(statistics.least)} to ${percentText(statistics.most)}.`,
          },
        ]
      : []),
    {
      kind: 'table',
      head: ['Student', ...(sections ? ['Section'] : []), 'Points', '%', ...(bands ? ['Band'] : [])],
      right: sections ? [2, 3] : [1, 2],
      rows: rows.map((row) => [
        row.name,
        ...(sections ? [row.section ?? ''] : []),
        row.result ? `${pointsText(row.result.earned)} of ${pointsText(row.result.possible)}` : '–',
        row.result?.ready && row.result.possible > 0
          ? roundHalfUp((row.result.earned / row.result.possible) * 100, 1)
          : row.result
            ? 'so far'
            : '',
        ...(bands ? [row.band] : []),
      ]),
    },
  ];
}

const creditText = (credit: number | 'waits') => (credit === 'waits' ? 'to be marked' : `${roundHalfUp(credit, 0)} %`);

const studentBlocks = (
  { questions }: Grid,
  row: Grid['rows'][number],
  result: Rows[number] | undefined,
): SheetBlock[] => [
  ...(result?.result
    ? [
        {
          kind: 'result' as const,
          text: `${pointsText(result.result.earned)} of ${pointsText(result.result.possible)} points`,
          note: [result.result.ready ? percentText(row.percent) : 'so far', result.band].filter(Boolean).join(' · '),
        },
      ]
    : []),
  {
    kind: 'table',
    head: ['Question', 'Credit'],
    right: [1],
    rows: questions.flatMap((question, i) => {
      const credit = row.credits[i];
      return credit === null || credit === undefined ? [] : [[`${i + 1} ${question.name}`, creditText(credit)]];
    }),
  },
];

function questionBlocks(context: Context, courseId: string, sittingId: string, { questions }: Grid): SheetBlock[][] {
  const answers = sittingAnswers(context, courseId, sittingId);
  const tallies = new Map(answers.ok ? (answers.value.questions ?? []).map((one) => [one.questionId, one]) : []);
  return questions.map((question, i): SheetBlock[] => {
    const tally = tallies.get(question.questionId);
    return [
      { kind: 'heading', text: `${i + 1} ${question.name}` },
      {
        kind: 'text',
        quiet: true,
        text: `On ${counted(question.asked, 'paper')}${question.mean === null ? '' : `; ${percentText(question.mean)} of the points in the mean of ${question.marked}`}${tally?.empty ? `; left empty by ${tally.empty}` : ''}.`,
      },
      ...(tally?.answers.length
        ? [
            {
              kind: 'table' as const,
              head: ['Answer', 'Students'],
              right: [1],
              rows: tally.answers
                .slice(0, mostAnswers)
                .map((answer) => [shortened(answer.text, 300), String(answer.count)]),
            },
          ]
        : []),
    ];
  });
}

const kind = 'print-report';

export type ReportsPage = { title: string; students: number; state: PrintState | null };

/** The reports of a sitting that can be printed, and how far the last one is. */
export const reportsPage = query({
  admits: toNamedSitting('results.publish'),
  does({ context, db, sittingId, sitting }): Result<ReportsPage> {
    const handedIn = db
      .select({ students: countDistinct(attempt.userId) })
      .from(attempt)
      .where(and(eq(attempt.sittingId, sittingId), eq(attempt.state, 'handed-in')))
      .get();
    return ok({
      title: sitting.title,
      students: handedIn?.students ?? 0,
      state: printOf(context, kind, sittingId),
    });
  },
});

/** Begins to print a report. The one this person printed of the sitting before goes. */
export const printReport = command({
  admits: toNamedSitting('results.publish'),
  takes: [z.enum(reportKinds), withNames],
  logs: 'results.print',
  prepares({ context, courseId, sittingId }, report, named): Result<PrintOrder> {
    const sheets = sittingReport(context, courseId, sittingId, report, named);
    if (!sheets.ok) return sheets;
    if (sheets.value.length === 0) return refused('conflict', 'Nothing has been handed in yet that could stand in it.');
    return ok({ sheets: sheets.value, format: 'pdf', into: 'one-pdf', pictures: {} });
  },
  does({ tx, context, sittingId, record, ready }, report, _named): Result<PrintState> {
    const begun = beginPrint(tx, context, kind, { sittingId, report }, ready);
    if (begun.ok) record({ subjectId: sittingId, detail: { report } });
    return begun;
  },
});

/** How far the report is; null when this person has none. */
export const reportState = query({
  admits: toNamedSitting('results.publish'),
  does: ({ context, sittingId }): Result<PrintState | null> => ok(printOf(context, kind, sittingId)),
});

/** Ends a report that is being printed. */
export const cancelReport = command({
  admits: toNamedSitting('results.publish'),
  unlogged: printsAreTheirOwn,
  does: ({ tx, context, sittingId }): Result<null> => endPrint(tx, context, kind, sittingId),
});

/** The report, once it is printed. */
export const reportFile = query({
  admits: toNamedSitting('results.publish'),
  does({ context, sittingId, sitting }): Result<{ bytes: Uint8Array; name: string }> {
    const printed = whatWasPrinted(context, kind, sittingId);
    const report = reportKinds.find((one) => one === printOf(context, kind, sittingId)?.input.report) ?? 'class';
    const title = sitting.title.replace(/[^\p{L}\p{N} .-]+/gu, ' ').trim();
    return printed
      ? ok({ bytes: printed.bytes, name: `${title}, ${reportNames[report].name.toLowerCase()}.${printed.ending}` })
      : notFound('report');
  },
});
