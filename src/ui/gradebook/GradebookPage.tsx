'use client';
import { useVirtualizer } from '@tanstack/react-virtual';
import Link from 'next/link';
import { type KeyboardEvent, useRef, useState } from 'react';
import { pointsText, roundHalfUp } from '@/core/base/rounding';
import { ButtonLink } from '../kit/Button';
import { inputShape } from '../kit/Field';
import { Empty, PageTitle, Sheet } from '../kit/Page';

type Column = { id: string; title: string; worth: number };
type Row = {
  userId: string;
  name: string;
  studentNumber: string | null;
  section: string | null;
  total: { scaled: (number | null)[]; percent: number | null };
  signs: ('published' | 'not-published' | 'none')[];
};

const rowHeight = 36;

/** A column for each sitting, scaled to its worth, and the total percent. Only rows in view are drawn. */
export function GradebookPage({ base, columns, rows }: { base: string; columns: Column[]; rows: Row[] }) {
  const box = useRef<HTMLDivElement>(null);
  const [find, setFind] = useState('');
  const [sort, setSort] = useState<{ by: 'name' | 'total' | number; down: boolean }>({ by: 'name', down: false });
  const wanted = find.trim().toLowerCase();
  const shown = rows.filter((row) =>
    [row.name, row.studentNumber, row.section].some((text) => text?.toLowerCase().includes(wanted)),
  );
  const key = (row: Row) =>
    (sort.by === 'total' ? row.total.percent : typeof sort.by === 'number' ? row.total.scaled[sort.by] : null) ?? -1;
  if (sort.by !== 'name') shown.sort((a, b) => key(a) - key(b));
  if (sort.down) shown.reverse();
  const virtual = useVirtualizer({
    count: shown.length,
    getScrollElement: () => box.current,
    estimateSize: () => rowHeight,
    overscan: 15,
    initialRect: { width: 1000, height: 700 },
  });
  const items = virtual.getVirtualItems();
  const [before, after] = [items[0]?.start ?? 0, virtual.getTotalSize() - (items.at(-1)?.end ?? 0)];
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
  const head = (by: 'name' | 'total' | number, label: string) => (
    <button
      type="button"
      className={`${by === 'name' ? 'text-left' : 'text-right'} ${sort.by === by ? 'underline' : ''}`}
      title={`Sort by ${label}`}
      onClick={() => setSort({ by, down: sort.by === by ? !sort.down : by !== 'name' })}
    >
      {label}
    </button>
  );
  const ariaSort = (by: 'name' | 'total' | number) =>
    sort.by === by ? (sort.down ? 'descending' : 'ascending') : undefined;
  const pinned = 'sticky left-0 z-10 bg-inherit border-r border-line';
  return (
    <div className="min-w-0">
      <PageTitle
        title="Gradebook"
        note={`${rows.length} students, ${columns.length} ${columns.length === 1 ? 'column' : 'columns'}; published scores, scaled to what each sitting is worth`}
      >
        <a
          href={`${base}/gradebook/csv`}
          download
          className="inline-flex min-h-9 items-center rounded-sm border border-edge bg-sheet px-3 font-medium hover:bg-prussian-wash"
        >
          Export CSV
        </a>
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
          <div className="flex items-center gap-4 border-b border-line p-2">
            <input
              type="search"
              aria-label="Find students"
              placeholder="Find by name, number, section"
              value={find}
              onChange={(event) => setFind(event.target.value)}
              className={`${inputShape} max-w-sm`}
            />
            <span className="text-sm text-ink-2">{wanted ? `${shown.length} of ${rows.length}` : ''}</span>
            <span className="ml-auto text-sm text-ink-2">
              <span className="text-plum">○</span> handed in, not published · empty: nothing yet; the total rests on
              what is published
            </span>
          </div>
          <div ref={box} className="max-h-[calc(100dvh-15rem)] overflow-auto">
            <table className="min-w-full border-separate border-spacing-0" onKeyDown={walk}>
              <thead className="sticky top-0 z-20 bg-sheet text-sm">
                <tr className="text-left align-bottom [&>th]:border-b [&>th]:border-line [&>th]:px-3 [&>th]:py-2 [&>th]:font-medium">
                  <th className={`${pinned} min-w-52 bg-sheet`} aria-sort={ariaSort('name')}>
                    {head('name', 'Student')}
                  </th>
                  <th className="min-w-24">Section</th>
                  {columns.map((column, i) => (
                    <th key={column.id} className="max-w-40 min-w-28 !text-right" aria-sort={ariaSort(i)}>
                      {head(i, column.title)}
                      <Link
                        href={`${base}/sittings/${column.id}/results`}
                        className="block font-normal text-ink-2 hover:underline"
                      >
                        of {pointsText(column.worth)}
                      </Link>
                    </th>
                  ))}
                  <th className="min-w-24 text-right" aria-sort={ariaSort('total')}>
                    {head('total', 'Total %')}
                  </th>
                </tr>
              </thead>
              <tbody>
                {before > 0 && (
                  <tr>
                    <td style={{ height: before }} />
                  </tr>
                )}
                {items.map((item) => {
                  const row = shown[item.index] as Row;
                  return (
                    <tr
                      key={row.userId}
                      className="h-9 bg-sheet hover:bg-paper [&>*]:border-b [&>*]:border-line [&>*]:px-3"
                    >
                      <th scope="row" className={`${pinned} text-left font-medium whitespace-nowrap`}>
                        {row.name}
                      </th>
                      <td tabIndex={-1} className="text-ink-2">
                        {row.section}
                      </td>
                      {columns.map((column, i) => {
                        const value = row.total.scaled[i];
                        return (
                          <td key={column.id} tabIndex={item.index === 0 && i === 0 ? 0 : -1} className="text-right">
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
                {after > 0 && (
                  <tr>
                    <td style={{ height: after }} />
                  </tr>
                )}
              </tbody>
              <tfoot className="sticky bottom-0 z-20 bg-paper text-sm text-ink-2">
                <tr className="h-8 [&>*]:border-t [&>*]:border-line [&>*]:px-3">
                  <th scope="row" className={`${pinned} bg-paper text-left font-medium`}>
                    Mean
                  </th>
                  <td />
                  {columns.map((column, i) => (
                    <td key={column.id} className="text-right">
                      {mean(rows.map((row) => row.total.scaled[i]))}
                    </td>
                  ))}
                  <td className="text-right">{mean(rows.map((row) => row.total.percent))}</td>
                </tr>
              </tfoot>
            </table>
          </div>
        </Sheet>
      )}
    </div>
  );
}
