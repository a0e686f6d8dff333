'use client';
import { useVirtualizer } from '@tanstack/react-virtual';
import Link from 'next/link';
import { type KeyboardEvent, type MouseEvent, memo, type RefObject, useMemo, useState } from 'react';
import { pointsText, roundHalfUp } from '@/core/base/rounding';
import type { ColumnStatistics } from '@/core/gradebook/statistics';
import type { ColumnShown, Gradebook, GradebookRow as Row } from '@/server/gradebook/gradebook';
import { ariaSort, RowsOutOfView, SortButton, type Sorted, useRowsInView } from '../kit/RowTable';

type Sign = { sign: string; says: string; look: string };

/** What a cell says besides its number: its sign, and that sign in words. */
const signs: Record<string, Sign> = {
  c: { sign: '≠', says: 'changed since published', look: 'text-saffron' },
  r: { sign: '◔', says: 'preliminary, not published', look: 'text-saffron' },
  n: { sign: '○', says: 'handed in, not published', look: 'text-plum' },
  m: { sign: '∅', says: 'missing', look: 'text-brick' },
  x: { sign: 'excused', says: 'excused', look: 'text-sm text-ink-2' },
};
const doneSign: Sign = { sign: '✓', says: 'done with it', look: 'text-pine' };

/** The signs that need a word. */
export const legendOf = (rows: readonly Row[]): Sign[] => [
  ...Object.values(signs).filter((one) => one.sign !== one.says),
  ...(rows.some((row) => /[yn]/.test(row.done)) ? [doneSign] : []),
];

const statisticsShown: { key: keyof ColumnStatistics; name: string }[] = [
  { key: 'mean', name: 'Mean' },
  { key: 'median', name: 'Median' },
  { key: 'deviation', name: 'SD' },
  { key: 'least', name: 'Lowest' },
  { key: 'most', name: 'Highest' },
];

const pinned = 'sticky left-0 z-10 bg-inherit border-r border-line';
/** Rows are costly to draw: few wait out of view. */
const overscan = 6;
/** All columns have one width, so that those out of view need not be drawn to know where the others stand. */
const columnWidth = 112;
/** A narrow gradebook is drawn whole, so that the browser finds every word of it. */
const columnsDrawnWhole = 16;

/** Which columns are in view: from one, inclusive, to another, exclusive. */
function useColumnsInView(box: RefObject<HTMLElement | null>, count: number): [from: number, to: number] {
  const virtual = useVirtualizer({
    count,
    horizontal: true,
    enabled: count > columnsDrawnWhole,
    getScrollElement: () => box.current,
    estimateSize: () => columnWidth,
    overscan: 3,
    initialRect: { width: 1000, height: 700 },
  });
  if (count <= columnsDrawnWhole) return [0, count];
  const items = virtual.getVirtualItems();
  return [items[0]?.index ?? 0, (items.at(-1)?.index ?? -1) + 1];
}

/** Stands for columns that are out of view. */
const ColumnsOutOfView = ({ count }: { count: number }) =>
  count > 0 ? <td style={{ minWidth: count * columnWidth, width: count * columnWidth }} /> : null;

/** The look of all cells is said once, on the table: tens of thousands of them are drawn as one scrolls. */
const cells =
  '[&_td>button]:flex [&_td>button]:h-9 [&_td>button]:w-full [&_td>button]:items-center [&_td>button]:justify-end [&_td>button]:px-3 [&_td>button]:tabular-nums [&_td>button:hover]:bg-prussian-wash';

type Props = {
  base: string;
  book: Gradebook;
  rows: readonly Row[];
  sorted: Sorted;
  onSort: (sorted: Sorted) => void;
  /** A cell by its student and its column, or the total. */
  onOpen: (userId: string, column: number | null) => void;
};

/** Students × columns: names, heads and statistics stay in view, arrow keys walk from cell to cell. */
export function GradebookGrid({ base, book, rows, sorted, onSort, onOpen }: Props) {
  const { columns, rules, groups } = book;
  const [more, setMore] = useState(false);
  const { box, shown, before, after } = useRowsInView(rows.length, overscan);
  const [from, to] = useColumnsInView(box, columns.length);
  const hasSections = useMemo(() => book.rows.some((row) => row.section), [book.rows]);
  const hasBands = rules.bands.length > 0;
  const { decimals } = rules;
  /** With widths that are known, the browser need not measure every cell each time rows change. */
  const isWide = columns.length > columnsDrawnWhole;
  const walk = (event: KeyboardEvent<HTMLTableElement>) => {
    const cell = (event.target as HTMLElement).closest('td');
    const move = { ArrowDown: [1, 0], ArrowUp: [-1, 0], ArrowRight: [0, 1], ArrowLeft: [0, -1] }[event.key];
    if (!cell || !move) return;
    const row = cell.parentElement as HTMLTableRowElement;
    const body = row.parentElement as HTMLTableSectionElement;
    let to: Element | null | undefined = cell;
    // Bands and sections are read, not opened: the way goes past them.
    for (let steps = 0; to && steps < 3; steps++) {
      const at: HTMLTableCellElement = to as HTMLTableCellElement;
      const line = body.rows[row.sectionRowIndex + (move[0] as number)];
      to = move[0] ? line?.cells[at.cellIndex] : move[1] === 1 ? at.nextElementSibling : at.previousElementSibling;
      const button = to?.querySelector('button');
      if (!button) continue;
      event.preventDefault();
      button.focus();
      return;
    }
  };
  const open = (event: MouseEvent<HTMLTableElement>) => {
    const button = (event.target as HTMLElement).closest<HTMLElement>('[data-cell]');
    const student = button?.closest<HTMLElement>('[data-student]')?.dataset.student;
    if (!button || student === undefined) return;
    const { cell } = button.dataset;
    onOpen(student, cell === 'total' ? null : Number(cell));
  };
  const head = useMemo(() => {
    const sortBy = (by: string, name: string) => (
      <SortButton
        column={{ key: by, name }}
        sorted={sorted}
        onSort={onSort}
        downFirst={by !== 'name'}
        className={by === 'name' ? 'text-left' : 'text-right'}
      />
    );
    const titles = new Map(groups.map((group) => [group.id, group.title]));
    return (
      <thead className="sticky top-0 z-20 bg-sheet text-sm">
        <tr className="text-left align-bottom [&>th]:border-b [&>th]:border-line [&>th]:px-3 [&>th]:py-2 [&>th]:font-medium">
          <th className={`${pinned} w-52 min-w-52 bg-sheet`} aria-sort={ariaSort(sorted, 'name')}>
            {sortBy('name', 'Student')}
          </th>
          <th className="w-24 min-w-20 text-right" aria-sort={ariaSort(sorted, 'total')}>
            {sortBy('total', 'Total %')}
          </th>
          {hasBands && <th className="w-36 min-w-16">Band</th>}
          <ColumnsOutOfView count={from} />
          {columns.slice(from, to).map((column) => (
            <th key={column.id} className="w-28 max-w-28 min-w-28 !text-right" aria-sort={ariaSort(sorted, column.id)}>
              {titles.has(column.groupId) && (
                <span className="block truncate font-normal text-ink-2">{titles.get(column.groupId)}</span>
              )}
              {sortBy(column.id, column.title)}
              <span className="block font-normal text-ink-2">
                {column.kind === 'sitting' ? (
                  <Link href={`${base}/sittings/${column.id}/results`} prefetch={false} className="hover:underline">
                    of {pointsText(column.worth)}
                  </Link>
                ) : (
                  `of ${pointsText(column.worth)}, by hand`
                )}
                {column.extraCredit && ', extra'}
              </span>
            </th>
          ))}
          <ColumnsOutOfView count={columns.length - to} />
          {hasSections && <th className="w-32 min-w-24">Section</th>}
        </tr>
      </thead>
    );
  }, [base, columns, from, to, groups, hasBands, hasSections, sorted, onSort]);
  const foot = useMemo(() => {
    const text = (value: number | undefined) => (value === undefined ? '' : roundHalfUp(value, decimals));
    return (
      <tfoot className="sticky bottom-0 z-20 bg-paper text-sm text-ink-2">
        {statisticsShown.slice(0, more ? undefined : 1).map(({ key, name }) => (
          <tr key={key} className="h-7 [&>*]:border-t [&>*]:border-line [&>*]:px-3">
            <th scope="row" className={`${pinned} bg-paper text-left font-medium`}>
              {name}
              {key === 'mean' && (
                <button
                  type="button"
                  aria-expanded={more}
                  className="ml-2 font-normal text-prussian underline"
                  onClick={() => setMore(!more)}
                >
                  {more ? 'less' : 'more'}
                </button>
              )}
            </th>
            <td className="text-right">{text(book.total?.[key])}</td>
            {hasBands && <td />}
            <ColumnsOutOfView count={from} />
            {columns.slice(from, to).map((column) => (
              <td key={column.id} className="text-right">
                {text(column.statistics?.[key])}
              </td>
            ))}
            <ColumnsOutOfView count={columns.length - to} />
            {hasSections && <td />}
          </tr>
        ))}
      </tfoot>
    );
  }, [book.total, columns, from, to, decimals, hasBands, hasSections, more]);
  return (
    <section
      ref={box}
      aria-label="Gradebook, listed"
      // biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls is scrolled by keyboard too
      tabIndex={0}
      className="max-h-[max(20rem,calc(100dvh-13rem))] overflow-auto"
    >
      <table
        className={`${isWide ? 'table-fixed' : 'min-w-full'} border-separate border-spacing-0 ${cells}`}
        onKeyDown={walk}
        onClick={open}
      >
        {head}
        <tbody>
          <RowsOutOfView height={before} />
          {shown.map((index) => {
            const row = rows[index] as Row;
            return (
              <GridRow
                key={row.userId}
                row={row}
                columns={columns}
                from={from}
                to={to}
                decimals={decimals}
                first={index === 0}
                hasBands={hasBands}
                hasSections={hasSections}
              />
            );
          })}
          <RowsOutOfView height={after} />
        </tbody>
        {foot}
      </table>
    </section>
  );
}

type RowProps = {
  row: Row;
  columns: readonly ColumnShown[];
  /** The columns in view. */
  from: number;
  to: number;
  decimals: number;
  first: boolean;
  hasBands: boolean;
  hasSections: boolean;
};

/** One student. It is drawn once, however often the rows around it change. */
const GridRow = memo(function GridRow({ row, columns, from, to, decimals, first, hasBands, hasSections }: RowProps) {
  const text = (value: number | null | undefined) =>
    value === null || value === undefined ? '' : roundHalfUp(value, decimals);
  return (
    <tr data-student={row.userId} className="h-9 bg-sheet hover:bg-paper [&>*]:border-b [&>*]:border-line [&>td]:p-0">
      <th scope="row" className={`${pinned} px-3 text-left font-medium whitespace-nowrap`}>
        {row.name}
      </th>
      <td>
        <button
          type="button"
          data-cell="total"
          tabIndex={first ? 0 : -1}
          aria-label={`Total of ${row.name}: ${row.total === null ? 'nothing counts yet' : `${text(row.total)} %`}`}
          className="font-medium"
        >
          {text(row.total)}
        </button>
      </td>
      {hasBands && <td className="!px-3 whitespace-nowrap">{row.band}</td>}
      <ColumnsOutOfView count={from} />
      {columns.slice(from, to).map((column, at) => {
        const i = from + at;
        return (
          <td key={column.id}>
            <button type="button" data-cell={i} tabIndex={-1} aria-label={cellSaid(row, column, i, text)}>
              <CellText
                points={text(row.points[i])}
                sign={row.signs[i] ?? '-'}
                way={row.ways[i] ?? '-'}
                done={row.done[i] === 'y'}
              />
            </button>
          </td>
        );
      })}
      <ColumnsOutOfView count={columns.length - to} />
      {hasSections && <td className="!px-3 text-ink-2">{row.section}</td>}
    </tr>
  );
});

function cellSaid(
  row: Row,
  column: ColumnShown,
  i: number,
  text: (value: number | null | undefined) => string,
): string {
  const sign = signs[row.signs[i] ?? '-'];
  const way = row.ways[i] === 'd' ? ', dropped' : row.ways[i] === 'l' ? ', late' : '';
  const done = row.done[i] === 'y' ? ', done' : row.done[i] === 'n' ? ', not done' : '';
  const points = row.points[i];
  return `${column.title} of ${row.name}: ${points === null ? (sign?.says ?? 'nothing') : `${text(points)} of ${column.worth}${sign ? `, ${sign.says}` : ''}`}${way}${done}`;
}

function CellText({ points, sign, way, done }: { points: string; sign: string; way: string; done: boolean }) {
  const shown = signs[sign];
  if (!shown && way === '-' && !done) return points;
  return (
    <>
      {shown && <span className={`mr-1 ${shown.look}`}>{shown.sign}</span>}
      {done && <span className="mr-1 text-pine">✓</span>}
      {way === 'l' && <span className="mr-1 text-sm text-brick">late</span>}
      <span className={way === 'd' ? 'text-ink-2 line-through' : ''}>{points}</span>
    </>
  );
}
