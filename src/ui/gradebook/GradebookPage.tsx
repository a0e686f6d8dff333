'use client';
import Link from 'next/link';
import { type KeyboardEvent, useState } from 'react';
import { pointsText, roundHalfUp } from '@/core/base/rounding';
import { counted } from '@/core/base/words';
import type { Gradebook, GradebookRow as Row } from '@/server/gradebook/gradebook';
import { ButtonLink } from '../kit/Button';
import { Find, holds } from '../kit/Find';
import { Empty, PageTitle, Sheet } from '../kit/Page';
import { ariaSort, RowsOutOfView, SortButton, type Sorted, useRowsInView } from '../kit/RowTable';

/** A column for each sitting, scaled to its worth, and the total percent. Only rows in view are drawn. */
export function GradebookPage({ base, columns, rows }: { base: string } & Pick<Gradebook, 'columns' | 'rows'>) {
  const [find, setFind] = useState('');
  const [sorted, setSorted] = useState<Sorted>({ by: 'name', down: false });
  const matching = rows.filter((row) => holds(find, row.name, row.studentNumber, row.section));
  const place = columns.findIndex((column) => column.id === sorted.by);
  const key = (row: Row) => (sorted.by === 'total' ? row.total.percent : row.total.scaled[place]) ?? -1;
  if (sorted.by !== 'name') matching.sort((a, b) => key(a) - key(b));
  if (sorted.down) matching.reverse();
  const { box, shown, before, after } = useRowsInView(matching.length);
  const hasSections = rows.some((row) => row.section);
  const mean = (values: (number | null | undefined)[]) => {
    const given = values.filter((value) => value !== null && value !== undefined);
    return given.length ? roundHalfUp(given.reduce((sum, value) => sum + value, 0) / given.length, 1) : '–';
  };
  const walk = (event: KeyboardEvent<HTMLTableElement>) => {
    const cell = (event.target as HTMLElement).closest('td');
    const move = { ArrowDown: [1, 0], ArrowUp: [-1, 0], ArrowRight: [0, 1], ArrowLeft: [0, -1] }[event.key];
    if (!cell || !move) return;
    const row = cell.parentElement as HTMLTableRowElement;
    const body = row.parentElement as HTMLTableSectionElement;
    const to = body.rows[row.sectionRowIndex + (move[0] as number)]?.cells[cell.cellIndex + (move[1] as number)];
    if (to?.tabIndex === undefined || to.tabIndex < -1) return;
    event.preventDefault();
    to.focus();
  };
  const head = (by: string, name: string) => (
    <SortButton
      column={{ key: by, name }}
      sorted={sorted}
      onSort={setSorted}
      downFirst={by !== 'name'}
      className={by === 'name' ? 'text-left' : 'text-right'}
    />
  );
  const pinned = 'sticky left-0 z-10 bg-inherit border-r border-line';
  return (
    <div className="min-w-0">
      <PageTitle
        title="Gradebook"
        note={`${counted(rows.length, 'student')}, ${counted(columns.length, 'column')}; published scores, scaled to what each sitting is worth`}
      >
        <ButtonLink href={`${base}/gradebook/csv`} download>
          Export CSV
        </ButtonLink>
      </PageTitle>
      {columns.length === 0 || rows.length === 0 ? (
        <Empty title="The gradebook is empty">
          <p className="mb-3">
            A column appears for each sitting that has been scheduled; its cells fill as you publish results.
          </p>
          <ButtonLink href={rows.length === 0 ? `${base}/people` : `${base}/exams`} look="main">
            {rows.length === 0 ? 'Add students' : 'Give an exam'}
          </ButtonLink>
        </Empty>
      ) : (
        <Sheet label="Gradebook">
          <Find
            label="Find students"
            placeholder="Find by name, number, section"
            value={find}
            onChange={setFind}
            said={find.trim() && `${matching.length} of ${rows.length}`}
          >
            <span className="ml-auto text-sm text-ink-2">
              <span className="text-plum">○</span> handed in, not published · empty: nothing yet; the total rests on
              what is published
            </span>
          </Find>
          <section
            ref={box}
            aria-label="Gradebook, listed"
            // biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls is scrolled by keyboard too
            tabIndex={0}
            className="max-h-[max(20rem,calc(100dvh-13rem))] overflow-auto"
          >
            <table className="min-w-full border-separate border-spacing-0" onKeyDown={walk}>
              <thead className="sticky top-0 z-20 bg-sheet text-sm">
                <tr className="text-left align-bottom [&>th]:border-b [&>th]:border-line [&>th]:px-3 [&>th]:py-2 [&>th]:font-medium">
                  <th className={`${pinned} min-w-52 bg-sheet`} aria-sort={ariaSort(sorted, 'name')}>
                    {head('name', 'Student')}
                  </th>
                  {hasSections && <th className="min-w-24">Section</th>}
                  {columns.map((column) => (
                    <th
                      key={column.id}
                      className="max-w-40 min-w-28 !text-right"
                      aria-sort={ariaSort(sorted, column.id)}
                    >
                      {head(column.id, column.title)}
                      <Link
                        href={`${base}/sittings/${column.id}/results`}
                        className="block font-normal text-ink-2 hover:underline"
                      >
                        of {pointsText(column.worth)}
                      </Link>
                    </th>
                  ))}
                  <th className="min-w-24 text-right" aria-sort={ariaSort(sorted, 'total')}>
                    {head('total', 'Total %')}
                  </th>
                </tr>
              </thead>
              <tbody>
                <RowsOutOfView height={before} />
                {shown.map((index) => {
                  const row = matching[index] as Row;
                  return (
                    <tr
                      key={row.userId}
                      className="h-9 bg-sheet hover:bg-paper [&>*]:border-b [&>*]:border-line [&>*]:px-3"
                    >
                      <th scope="row" className={`${pinned} text-left font-medium whitespace-nowrap`}>
                        {row.name}
                      </th>
                      {hasSections && (
                        <td tabIndex={-1} className="text-ink-2">
                          {row.section}
                        </td>
                      )}
                      {columns.map((column, i) => {
                        const value = row.total.scaled[i];
                        return (
                          <td key={column.id} tabIndex={index === 0 && i === 0 ? 0 : -1} className="text-right">
                            {value !== null && value !== undefined ? (
                              roundHalfUp(value, 1)
                            ) : row.signs[i] === 'not-published' ? (
                              <span className="text-plum" title="Handed in, not published">
                                ○<span className="sr-only">not published</span>
                              </span>
                            ) : (
                              ''
                            )}
                          </td>
                        );
                      })}
                      <td tabIndex={-1} className="text-right font-medium">
                        {row.total.percent === null ? '' : roundHalfUp(row.total.percent, 1)}
                      </td>
                    </tr>
                  );
                })}
                <RowsOutOfView height={after} />
              </tbody>
              <tfoot className="sticky bottom-0 z-20 bg-paper text-sm text-ink-2">
                <tr className="h-8 [&>*]:border-t [&>*]:border-line [&>*]:px-3">
                  <th scope="row" className={`${pinned} bg-paper text-left font-medium`}>
                    Mean
                  </th>
                  {hasSections && <td />}
                  {columns.map((column, i) => (
                    <td key={column.id} className="text-right">
                      {mean(rows.map((row) => row.total.scaled[i]))}
                    </td>
                  ))}
                  <td className="text-right">{mean(rows.map((row) => row.total.percent))}</td>
                </tr>
              </tfoot>
            </table>
          </section>
        </Sheet>
      )}
    </div>
  );
}
