'use client';
import Link from 'next/link';
import { useState } from 'react';
import { roundHalfUp } from '@/core/base/rounding';
import { counted } from '@/core/base/words';
import type { QuestionGrid } from '@/server/release/questionGrid';
import { Find, holds } from '../kit/Find';
import { Empty, PageTitle, Sheet } from '../kit/Page';
import { ariaSort, RowsOutOfView, SortButton, type Sorted, useRowsInView } from '../kit/RowTable';
import type { Command } from '../kit/usePerform';
import { PickStudents } from './PickStudents';
import { ResultViews } from './ResultViews';

type Props = {
  base: string;
  sittingId: string;
  grid: QuestionGrid;
  mayPick: boolean;
  write: Command<[input: unknown], { sent: number }>;
};

/** The shade of a credit: the more, the darker; the number says the same. */
const shadeOf = (credit: number): string =>
  credit >= 100
    ? 'bg-pine-wash text-pine'
    : credit >= 50
      ? 'bg-saffron-wash text-saffron'
      : credit >= 0
        ? 'bg-brick-wash text-brick'
        : 'text-plum';

/** Students × questions: the credit of each answer, in percent. */
export function QuestionGridPage({ base, sittingId, grid, mayPick, write }: Props) {
  const { questions, rows, objectives } = grid;
  const [find, setFind] = useState('');
  const [sorted, setSorted] = useState<Sorted>({ by: 'name', down: false });
  const [picked, setPicked] = useState<ReadonlySet<string>>(new Set());
  const [done, setDone] = useState('');
  const here = `${base}/sittings/${sittingId}`;
  const place = questions.findIndex((one) => one.questionId === sorted.by);
  const matching = rows.filter((row) => holds(find, row.name, row.section));
  if (sorted.by === 'percent') matching.sort((a, b) => (a.percent ?? -1) - (b.percent ?? -1));
  else if (place >= 0) matching.sort((a, b) => (a.credits[place] ?? -2) - (b.credits[place] ?? -2));
  if (sorted.down) matching.reverse();
  const { box, shown, before, after } = useRowsInView(matching.length);
  const head = (key: string, name: string, down: boolean) => (
    <SortButton column={{ key, name }} sorted={sorted} onSort={setSorted} downFirst={down} className="" />
  );
  const pinned = 'sticky left-0 z-10 bg-inherit border-r border-line';
  return (
    <div className="min-w-0">
      <PageTitle title={`Results: ${grid.title}`} note="Credit of each answer in percent, of the attempt that counts" />
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
                    return typeof credit === 'number' && credit >= 0 && credit < 100 ? [question.questionId] : [];
                  }),
                ),
              }))}
              questions={questions}
              picked={picked}
              onPick={setPicked}
              title={grid.title}
              write={write}
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
          <section
            ref={box}
            aria-label="Students and questions, listed"
            // biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls is scrolled by keyboard too
            tabIndex={0}
            className="max-h-[max(20rem,calc(100dvh-13rem))] overflow-auto"
          >
            <table className="border-separate border-spacing-0 text-sm">
              <thead className="sticky top-0 z-20 bg-sheet">
                <tr className="text-left align-bottom [&>th]:border-b [&>th]:border-line [&>th]:px-2 [&>th]:py-1.5 [&>th]:font-medium">
                  <th className={`${pinned} min-w-48 bg-sheet`} aria-sort={ariaSort(sorted, 'name')}>
                    {head('name', 'Student', false)}
                  </th>
                  <th className="text-right" aria-sort={ariaSort(sorted, 'percent')}>
                    {head('percent', 'Result %', true)}
                  </th>
                  {questions.map((question, i) => (
                    <th
                      key={question.questionId}
                      className="min-w-12 text-right"
                      title={question.name}
                      aria-sort={ariaSort(sorted, question.questionId)}
                    >
                      {head(question.questionId, String(i + 1), true)}
                      <span className="sr-only">{question.name}</span>
                    </th>
                  ))}
                </tr>
              </thead>
              <tbody>
                <RowsOutOfView height={before} />
                {shown.map((index) => {
                  const row = matching[index] as (typeof matching)[number];
                  return (
                    <tr
                      key={row.userId || row.name}
                      className="h-8 bg-sheet [&>*]:border-b [&>*]:border-line [&>*]:px-2"
                    >
                      <th
                        scope="row"
                        className={`${pinned} text-left font-medium whitespace-nowrap ${picked.has(row.userId) ? '!bg-prussian-wash' : ''}`}
                      >
                        {row.name}
                        {picked.has(row.userId) && <span className="text-prussian"> · picked</span>}
                      </th>
                      <td className="text-right tabular-nums">
                        {row.percent === null ? '' : roundHalfUp(row.percent, 1)}
                        {row.waiting > 0 && ' so far'}
                      </td>
                      {row.credits.map((credit, i) => (
                        <td
                          key={questions[i]?.questionId}
                          className={`text-right tabular-nums ${credit === null ? '' : shadeOf(credit)}`}
                        >
                          {credit === null ? (
                            ''
                          ) : credit < 0 ? (
                            <>
                              ○<span className="sr-only">to be marked</span>
                            </>
                          ) : (
                            roundHalfUp(credit, 0)
                          )}
                        </td>
                      ))}
                    </tr>
                  );
                })}
                <RowsOutOfView height={after} />
              </tbody>
              <tfoot className="sticky bottom-0 z-20 bg-paper text-ink-2">
                <tr className="h-8 [&>*]:border-t [&>*]:border-line [&>*]:px-2">
                  <th scope="row" className={`${pinned} bg-paper text-left font-medium`}>
                    Mean
                  </th>
                  <td />
                  {questions.map((question) => (
                    <td key={question.questionId} className="text-right tabular-nums" title={`of ${question.marked}`}>
                      {question.mean === null ? '' : roundHalfUp(question.mean, 0)}
                    </td>
                  ))}
                </tr>
              </tfoot>
            </table>
          </section>
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
                  <Bar
                    name={
                      mayPick ? (
                        <Link
                          href={`${base}/marking/${sittingId}/${question.questionId}/responses`}
                          prefetch={false}
                          className="text-prussian hover:underline"
                        >
                          {questions.indexOf(question) + 1} {question.name}
                        </Link>
                      ) : (
                        `${questions.indexOf(question) + 1} ${question.name}`
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
                  <Bar name={`${one.code} ${one.wording}`} percent={one.mean} of={one.asked} />
                </li>
              ))}
            </ol>
          </Sheet>
        )}
      </div>
    </div>
  );
}

/** A name with its mean credit as a bar and a number. */
export const Bar = ({ name, percent, of }: { name: React.ReactNode; percent: number | null; of: number }) => (
  <span className="grid grid-cols-[1fr_7rem_6.5rem] items-center gap-3">
    <span className="min-w-0 truncate">{name}</span>
    <span className="h-2 bg-paper">
      <span className="block h-2 bg-prussian" style={{ width: `${percent ?? 0}%` }} />
    </span>
    <span className="text-right whitespace-nowrap tabular-nums">
      {percent === null ? '–' : `${roundHalfUp(percent, 0)} %`} <span className="text-ink-2">of {of}</span>
    </span>
  </span>
);
