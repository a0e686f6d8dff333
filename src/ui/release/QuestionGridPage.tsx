'use client';
import { useState } from 'react';
import { roundHalfUp } from '@/core/base/rounding';
import { counted } from '@/core/base/words';
import type { GridCredit, QuestionGrid } from '@/server/release/questionGrid';
import type { Commands } from '../kit/commands';
import { Find, holds } from '../kit/Find';
import { ColumnsOutOfView, Grid, gridColumn, gridRow, pinned, useGridInView } from '../kit/Grid';
import { Link } from '../kit/Link';
import { Empty, PageFrame, PageTitle, Sheet } from '../kit/Page';
import { ariaSort, SortButton, type Sorted } from '../kit/RowTable';
import { ShareBar } from '../kit/ShareBar';
import { PickStudents } from './PickStudents';
import { ResultViews } from './ResultViews';

type Props = {
  base: string;
  sittingId: string;
  results: QuestionGrid;
  mayPick: boolean;
} & Commands<'writeToStudents', 'courseId' | 'sittingId'>;

/** In pixels. */
const columnWidth = 56;

/** The shade of a credit: the more, the darker; the number says the same. */
const shadeOf = (credit: GridCredit): string =>
  credit === null
    ? ''
    : credit === 'waits'
      ? 'text-plum'
      : credit >= 100
        ? 'bg-pine-wash text-pine'
        : credit >= 50
          ? 'bg-saffron-wash text-saffron'
          : 'bg-brick-wash text-brick';

/** What waits stands before every credit, and what is on no paper before that. */
const rankOf = (credit: GridCredit | undefined): number => (credit === 'waits' ? -1 : (credit ?? -2));

/** Students × questions: the credit of each answer, in percent. */
export function QuestionGridPage({ base, sittingId, results, mayPick, writeToStudents }: Props) {
  const { questions, rows, objectives } = results;
  const [find, setFind] = useState('');
  const [sorted, setSorted] = useState<Sorted>({ by: 'name', down: false });
  const [picked, setPicked] = useState<ReadonlySet<string>>(new Set());
  const [done, setDone] = useState('');
  const here = `${base}/sittings/${sittingId}`;
  const place = questions.findIndex((one) => one.questionId === sorted.by);
  const matching = rows.filter((row) => holds(find, row.name, row.section));
  if (sorted.by === 'percent') matching.sort((a, b) => (a.percent ?? -1) - (b.percent ?? -1));
  else if (place >= 0) matching.sort((a, b) => rankOf(a.credits[place]) - rankOf(b.credits[place]));
  if (sorted.down) matching.reverse();
  const grid = useGridInView({ rows: matching.length, columns: questions.length, rowHeight: 32, columnWidth });
  // Where papers differ, a number says nothing: questions go by their names.
  const isNamed = rows.some((row) => row.credits.includes(null));
  const nameOf = (question: (typeof questions)[number]) =>
    isNamed ? question.name : `${questions.indexOf(question) + 1} ${question.name}`;
  const head = (key: string, name: string, down: boolean) => (
    <SortButton column={{ key, name }} sorted={sorted} onSort={setSorted} downFirst={down} className="" />
  );
  return (
    <PageFrame>
      <PageTitle
        title={`Results: ${results.title}`}
        back={{ href: here, name: 'Rules and students' }}
        note="Credit of each answer in percent, of the attempt that counts"
      />
      <ResultViews here={here} now="questions" />
      {done && (
        <p role="status" className="mb-3 text-pine">
          {done}
        </p>
      )}
      {rows.length === 0 ? (
        <Empty title="Nothing handed in yet">Each student has a row here once a paper has been handed in.</Empty>
      ) : (
        <Sheet label="Students and questions">
          {mayPick && (
            <PickStudents
              students={rows.map((row) => ({
                ...row,
                missed: new Set(
                  questions.flatMap((question, i) => {
                    const credit = row.credits[i];
                    return typeof credit === 'number' && credit < 100 ? [question.questionId] : [];
                  }),
                ),
              }))}
              questions={questions}
              picked={picked}
              onPick={setPicked}
              title={results.title}
              writeToStudents={writeToStudents}
              onDone={setDone}
            />
          )}
          <Find
            label="Find students"
            placeholder="Find by name or section"
            value={find}
            onChange={setFind}
            said={find.trim() ? `${matching.length} of ${rows.length}` : counted(rows.length, 'student')}
          >
            <span className="ml-auto text-sm text-ink-2">
              <span className="text-plum">○</span> to be marked · empty: not on this paper
            </span>
          </Find>
          <Grid
            label="Students and questions, listed"
            grid={grid}
            className="text-sm [&_th]:px-2 [&_td]:px-2"
            head={
              <>
                <th className={`${pinned} w-52 min-w-52 bg-sheet`} aria-sort={ariaSort(sorted, 'name')}>
                  {head('name', 'Student', false)}
                </th>
                <th className="w-24 min-w-24 text-right" aria-sort={ariaSort(sorted, 'percent')}>
                  {head('percent', 'Result %', true)}
                </th>
                <ColumnsOutOfView count={grid.from} width={columnWidth} />
                {questions.slice(grid.from, grid.to).map((question, at) => (
                  <th
                    key={question.questionId}
                    className={`${gridColumn} text-right`}
                    title={question.name}
                    aria-sort={ariaSort(sorted, question.questionId)}
                  >
                    {isNamed ? (
                      <span className="inline-block max-h-44 rotate-180 leading-tight [writing-mode:vertical-rl] [&>button]:max-h-44 [&>button]:truncate">
                        {head(question.questionId, question.name, true)}
                      </span>
                    ) : (
                      <>
                        {head(question.questionId, String(grid.from + at + 1), true)}
                        <span className="sr-only">{question.name}</span>
                      </>
                    )}
                  </th>
                ))}
                <ColumnsOutOfView count={questions.length - grid.to} width={columnWidth} />
              </>
            }
            foot={
              <tr className="h-8 [&>*]:border-t [&>*]:border-line">
                <th scope="row" className={`${pinned} bg-paper text-left`}>
                  Mean
                </th>
                <td />
                <ColumnsOutOfView count={grid.from} width={columnWidth} />
                {questions.slice(grid.from, grid.to).map((question) => (
                  <td key={question.questionId} className="text-right tabular-nums" title={`of ${question.marked}`}>
                    {question.mean === null ? '' : roundHalfUp(question.mean, 0)}
                  </td>
                ))}
                <ColumnsOutOfView count={questions.length - grid.to} width={columnWidth} />
              </tr>
            }
          >
            {(index) => {
              const row = matching[index] as (typeof matching)[number];
              return (
                <tr key={row.userId || row.name} className={`${gridRow} bg-sheet [&>*]:border-b [&>*]:border-line`}>
                  <th
                    scope="row"
                    className={`${pinned} truncate text-left whitespace-nowrap ${picked.has(row.userId) ? '!bg-prussian-wash' : ''}`}
                    title={row.name}
                  >
                    {row.name}
                    {picked.has(row.userId) && <span className="text-prussian"> · picked</span>}
                  </th>
                  <td className="text-right whitespace-nowrap tabular-nums">
                    {row.percent === null ? '' : roundHalfUp(row.percent, 1)}
                    {row.waiting > 0 && ' so far'}
                  </td>
                  <ColumnsOutOfView count={grid.from} width={columnWidth} />
                  {row.credits.slice(grid.from, grid.to).map((credit, at) => (
                    <td
                      key={questions[grid.from + at]?.questionId}
                      className={`text-right tabular-nums ${shadeOf(credit)}`}
                    >
                      {credit === null ? (
                        ''
                      ) : credit === 'waits' ? (
                        <>
                          ○<span className="sr-only">to be marked</span>
                        </>
                      ) : (
                        roundHalfUp(credit, 0)
                      )}
                    </td>
                  ))}
                  <ColumnsOutOfView count={questions.length - grid.to} width={columnWidth} />
                </tr>
              );
            }}
          </Grid>
        </Sheet>
      )}
      <div className="mt-4 grid items-start gap-4 lg:grid-cols-2">
        <Sheet label="Questions" className="px-5 py-3">
          <h2 className="mb-1 text-lg">Questions, the hardest first</h2>
          <ol className="text-sm">
            {[...questions]
              .sort((a, b) => (a.mean ?? 101) - (b.mean ?? 101))
              .map((question) => (
                <li key={question.questionId} className="border-t border-line py-1">
                  <ShareBar
                    name={
                      mayPick ? (
                        <Link
                          href={`${base}/marking/${sittingId}/${question.questionId}/responses`}
                          className="text-prussian hover:underline"
                        >
                          {nameOf(question)}
                        </Link>
                      ) : (
                        nameOf(question)
                      )
                    }
                    percent={question.mean}
                    of={question.marked}
                  />
                </li>
              ))}
          </ol>
        </Sheet>
        {objectives.length > 0 && (
          <Sheet label="Objectives" className="px-5 py-3">
            <h2 className="mb-1 text-lg">By objective</h2>
            <ol className="text-sm">
              {objectives.map((one) => (
                <li key={one.code} className="border-t border-line py-1">
                  <ShareBar name={`${one.code} ${one.wording}`} percent={one.mean} of={one.asked} />
                </li>
              ))}
            </ol>
          </Sheet>
        )}
      </div>
    </PageFrame>
  );
}
