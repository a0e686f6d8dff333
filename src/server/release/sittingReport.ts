import { notFound, ok, type Result } from '@/core/base/result';
import { pointsText, roundHalfUp } from '@/core/base/rounding';
import { inZone } from '@/core/base/time';
import { counted } from '@/core/base/words';
import type { SheetBlock, SheetDocument } from '@/core/gradebook/sheetDocument';
import { statisticsOf } from '@/core/gradebook/statistics';
import type { Context } from '../house/context';
import { admit } from '../people/permission';
import { printInThread } from '../print/printInThread';
import { sittingAnswers } from './answerTally';
import { questionGrid } from './questionGrid';
import { sittingResults } from './results';

export const reports = ['class', 'students', 'questions'] as const;
export type ReportKind = (typeof reports)[number];

const percentText = (percent: number | null) => (percent === null ? '' : `${roundHalfUp(percent, 1)} %`);

/** The most answers to a question that are listed on paper. */
const mostAnswers = 12;

/**
 * A report of a sitting to be printed: the class with each student's result on a line; students with the credit of each of
 * their questions; or questions with how they did and what was answered.
 */
export function sittingReport(
  context: Context,
  courseId: string,
  sittingId: string,
  kind: ReportKind,
): Result<SheetDocument> {
  const admitted = admit(context, courseId, 'results.publish');
  if (!admitted.ok) return admitted;
  const results = sittingResults(context, courseId, sittingId);
  if (!results.ok) return results;
  const grid = questionGrid(context, courseId, sittingId);
  if (!grid.ok) return notFound('sitting with names');
  const { title, rows } = results.value;
  const { courseName, timeZone } = admitted.value;
  const date = inZone(context.now, timeZone, 'd MMMM yyyy');
  const names: Record<ReportKind, string> = { class: 'class sheet', students: 'by student', questions: 'by question' };
  const blocks =
    kind === 'class'
      ? classBlocks(rows)
      : kind === 'students'
        ? studentBlocks(grid.value)
        : questionBlocks(context, courseId, sittingId, grid.value);
  return ok({
    fileName: 'report.pdf',
    title: `${title}: ${names[kind]}`,
    note: `${courseName} · ${date}`,
    foot: `${title} · ${names[kind]} · ${date}`,
    blocks,
  });
}

type Rows = Extract<ReturnType<typeof sittingResults>, { ok: true }>['value']['rows'];
type Grid = Extract<ReturnType<typeof questionGrid>, { ok: true }>['value'];

function classBlocks(rows: Rows): SheetBlock[] {
  const percents = rows.flatMap(({ result }) =>
    result?.ready && result.possible > 0 ? [(result.earned / result.possible) * 100] : [],
  );
  const statistics = statisticsOf(percents);
  const bands = rows.some((row) => row.band);
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
      head: ['Student', 'Section', 'Points', '%', ...(bands ? ['Band'] : [])],
      right: [2, 3],
      rows: rows.map((row) => [
        row.name,
        row.section ?? '',
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

const creditText = (credit: number) => (credit < 0 ? 'to be marked' : `${roundHalfUp(credit, 0)} %`);

const studentBlocks = ({ questions, rows }: Grid): SheetBlock[] =>
  rows.flatMap((row): SheetBlock[] => [
    { kind: 'heading', text: `${row.name}${row.percent === null ? '' : `: ${percentText(row.percent)}`}` },
    {
      kind: 'table',
      head: ['Question', 'Credit'],
      right: [1],
      rows: questions.flatMap((question, i) => {
        const credit = row.credits[i];
        return credit === null || credit === undefined ? [] : [[`${i + 1} ${question.name}`, creditText(credit)]];
      }),
    },
  ]);

function questionBlocks(context: Context, courseId: string, sittingId: string, { questions }: Grid): SheetBlock[] {
  const answers = sittingAnswers(context, courseId, sittingId);
  const tallies = new Map(answers.ok ? (answers.value.questions ?? []).map((one) => [one.questionId, one]) : []);
  return questions.flatMap((question, i): SheetBlock[] => {
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
                .map((answer) => [answer.text.slice(0, 300), String(answer.count)]),
            },
          ]
        : []),
    ];
  });
}

/** The same as a PDF. */
export async function printReport(
  context: Context,
  courseId: string,
  sittingId: string,
  kind: ReportKind,
): Promise<Result<{ bytes: Uint8Array; name: string }>> {
  const report = sittingReport(context, courseId, sittingId, kind);
  if (!report.ok) return report;
  const order = { sheets: [report.value], format: 'pdf' as const, archive: false, pictures: {} };
  return ok({
    bytes: await printInThread(order).bytes,
    name: `${report.value.title.replace(/[^\p{L}\p{N} .-]+/gu, ' ')}.pdf`,
  });
}
