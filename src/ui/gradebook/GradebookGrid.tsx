'use client';
import { type MouseEvent, memo, useMemo, useState } from 'react';
import { pointsText, roundHalfUp } from '@/core/base/rounding';
import type { ColumnStatistics } from '@/core/gradebook/statistics';
import type { CellMark, ColumnShown, Gradebook, GradebookRow as Row } from '@/server/gradebook/gradebook';
import { CellField } from '../cells/CellField';
import { cellKeys } from '../cells/cellKeys';
import type { TypedCells, Typing } from '../cells/useTypedCells';
import { ColumnsOutOfView, Grid, gridColumn, gridRow, pinned, useGridInView } from '../kit/Grid';
import { Link } from '../kit/Link';
import { ariaSort, SortButton, type Sorted } from '../kit/RowTable';
import { TextButton } from '../kit/TextButton';

type Sign = { sign: string; says: string; look: string };

/** What a cell says besides its number: its sign, and that sign in words. */
const signs: Partial<Record<CellMark, Sign>> = {
  changed: { sign: '≠', says: 'changed since published', look: 'text-saffron' },
  preliminary: { sign: '◔', says: 'preliminary, not published', look: 'text-saffron' },
  'not-published': { sign: '○', says: 'handed in, not published', look: 'text-plum' },
  missing: { sign: '∅', says: 'missing', look: 'text-brick' },
  'before-joining': { sign: '·', says: 'over before they joined', look: 'text-ink-2' },
  excused: { sign: 'excused', says: 'excused', look: 'text-sm text-ink-2' },
};
const doneSign: Sign = { sign: '✓', says: 'done with it', look: 'text-pine' };

const rare: CellMark = 'before-joining';

/** The signs that need a word. */
export const legendOf = (rows: readonly Row[]): Sign[] => [
  ...Object.entries(signs)
    // Most courses have nobody who came late: the sign stands there where one does.
    .filter(([mark, one]) => one.sign !== one.says && (mark !== rare || rows.some((row) => row.marks[rare])))
    .map(([, one]) => one),
  ...(rows.some((row) => row.marks.done || row.marks['not-done']) ? [doneSign] : []),
];

const statisticsShown: { key: keyof ColumnStatistics; name: string }[] = [
  { key: 'mean', name: 'Mean' },
  { key: 'median', name: 'Median' },
  { key: 'deviation', name: 'SD (÷ n)' },
  { key: 'least', name: 'Lowest' },
  { key: 'most', name: 'Highest' },
];

/** The name of the cell with the total, among those of the columns. */
const total = 'total';

/** In pixels. */
const rowHeight = 36;
const columnWidth = 112;

/** The look of all cells is said once, on the table: tens of thousands of them are drawn as one scrolls. */
const cells =
  '[&_th]:px-3 [&_td]:px-3 [&_td]:text-right [&_td]:tabular-nums [&_[data-cell]]:cursor-pointer [&_[data-cell]:hover]:bg-prussian-wash [&_[aria-selected=true]]:bg-prussian-wash [&_[aria-selected=true]]:outline-1 [&_[aria-selected=true]]:-outline-offset-1 [&_[aria-selected=true]]:outline-prussian';
/** Heads, names and statistics lie over what is scrolled: a cell that is walked to comes out from under them. */
const clear = '[&_[data-cell]]:scroll-mt-36 [&_[data-cell]]:scroll-mb-10 [&_[data-cell]]:scroll-ml-56';

export type OpenCell = {
  userId: string;
  /** Null for the total. */
  column: string | null;
  /** Whether it was opened by a key: then the focus goes to what opened. A pointer leaves it in the cell, to type there. */
  byKey: boolean;
};

type Props = {
  base: string;
  book: Gradebook;
  rows: readonly Row[];
  sorted: Sorted;
  onSort: (sorted: Sorted) => void;
  /** The cell that is open: of whom, and its column, or null for the total. */
  open: OpenCell | null;
  /** Opens a cell, or closes the one that is open. */
  onOpen: (cell: OpenCell | null) => void;
  scores: Pick<TypedCells, 'typing' | 'begin' | 'end' | 'empty' | 'paste' | 'undo' | 'texts'>;
};

/** Students × columns: names, heads and statistics stay in view, arrow keys walk from cell to cell. */
export function GradebookGrid({ base, book, rows, sorted, onSort, open, onOpen, scores }: Props) {
  const { columns, rules, groups } = book;
  const [more, setMore] = useState(false);
  const grid = useGridInView({ rows: rows.length, columns: columns.length, rowHeight, columnWidth });
  const { from, to } = grid;
  const hasSections = useMemo(() => book.rows.some((row) => row.section), [book.rows]);
  const hasBands = rules.bands.length > 0;
  const { decimals } = rules;
  /** Names that several carry: their numbers tell them apart. */
  const twins = useMemo(() => {
    const seen = new Set<string>();
    return new Set(book.rows.flatMap(({ name }) => (seen.size === seen.add(name).size ? name : [])));
  }, [book.rows]);
  const { onKeyDown, onPaste } = cellKeys({
    cells: scores,
    rows: useMemo(() => rows.map((row) => row.userId), [rows]),
    begins: /^[\d.,]$/,
    onEnter: (cell) => cell.click(),
    onEscape: () => onOpen(null),
  });
  const press = (event: MouseEvent<HTMLTableElement>) => {
    const cell = (event.target as HTMLElement).closest<HTMLElement>('[data-cell]');
    const student = cell?.closest<HTMLElement>('[data-row]')?.dataset.row;
    if (!cell || student === undefined || event.target instanceof HTMLInputElement) return;
    const column = cell.dataset.cell === total ? null : (cell.dataset.cell ?? null);
    onOpen({ userId: student, column, byKey: event.detail === 0 });
    // What opens beside the grid takes width from it.
    requestAnimationFrame(() => cell.scrollIntoView({ block: 'nearest', inline: 'nearest' }));
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
      <>
        <th className={`${pinned} w-52 min-w-52 bg-sheet`} aria-sort={ariaSort(sorted, 'name')}>
          {sortBy('name', 'Student')}
        </th>
        <th className="w-24 min-w-20 text-right" aria-sort={ariaSort(sorted, 'total')}>
          {sortBy('total', 'Total %')}
        </th>
        {hasBands && <th className="w-36 min-w-16">Band</th>}
        <ColumnsOutOfView count={from} width={columnWidth} />
        {columns.slice(from, to).map((column) => (
          <th key={column.id} className={`${gridColumn} !text-right`} aria-sort={ariaSort(sorted, column.id)}>
            {titles.has(column.groupId) && (
              <span className="block truncate font-normal text-ink-2">{titles.get(column.groupId)}</span>
            )}
            {sortBy(column.id, column.title)}
            <span className="block font-normal text-ink-2">
              {column.kind === 'sitting' ? (
                <Link href={`${base}/sittings/${column.id}/results`} className="hover:underline">
                  of {pointsText(column.worth)}
                </Link>
              ) : (
                <span title="filled by hand">
                  of {pointsText(column.worth)}
                  <span className="sr-only">, by hand</span>
                </span>
              )}
              {column.extraCredit && ', extra'}
            </span>
          </th>
        ))}
        <ColumnsOutOfView count={columns.length - to} width={columnWidth} />
        {hasSections && <th className="w-32 min-w-24">Section</th>}
      </>
    );
  }, [base, columns, from, to, groups, hasBands, hasSections, sorted, onSort]);
  const foot = useMemo(() => {
    const text = (value: number | undefined) => (value === undefined ? '' : roundHalfUp(value, decimals));
    return (
      <>
        {statisticsShown.slice(0, more ? undefined : 1).map(({ key, name }) => (
          <tr key={key} className="h-7 [&>*]:border-t [&>*]:border-line [&>*]:px-3">
            <th scope="row" className={`${pinned} bg-paper text-left font-medium`}>
              {name}{' '}
              {key === 'mean' && (
                <TextButton aria-expanded={more} className="ml-2 font-normal" onClick={() => setMore(!more)}>
                  {more ? 'less' : 'more'}
                  <span className="sr-only"> statistics</span>
                </TextButton>
              )}
            </th>
            <td className="text-right">{text(book.total?.[key])}</td>
            {hasBands && <td />}
            <ColumnsOutOfView count={from} width={columnWidth} />
            {columns.slice(from, to).map((column) => (
              <td key={column.id} className="text-right">
                {text(column.statistics?.[key])}
              </td>
            ))}
            <ColumnsOutOfView count={columns.length - to} width={columnWidth} />
            {hasSections && <td />}
          </tr>
        ))}
      </>
    );
  }, [book.total, columns, from, to, decimals, hasBands, hasSections, more]);
  return (
    <Grid
      label="Gradebook, listed"
      grid={grid}
      className={`min-w-full ${cells} ${clear}`}
      head={head}
      foot={foot}
      onKeyDown={onKeyDown}
      onClick={press}
      onPaste={onPaste}
    >
      {(index) => {
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
            open={open?.userId === row.userId ? (open.column ?? total) : null}
            hasBands={hasBands}
            hasSections={hasSections}
            isTwin={twins.has(row.name)}
            typing={scores.typing?.row === row.userId ? scores.typing : null}
            typed={scores.texts.get(row.userId) ?? null}
            onEnd={scores.end}
          />
        );
      }}
    </Grid>
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
  /** Which of its cells is open. */
  open: string | null;
  hasBands: boolean;
  hasSections: boolean;
  isTwin: boolean;
  /** The cell of it that is typed into. */
  typing: Typing | null;
  /** What was typed into cells and does not stand in the row yet, by column. */
  typed: Readonly<Record<string, string>> | null;
  onEnd: TypedCells['end'];
};

/** One student. It is drawn once, however often the rows around it change. */
const GridRow = memo(function GridRow({
  row,
  columns,
  from,
  to,
  decimals,
  first,
  open,
  hasBands,
  hasSections,
  isTwin,
  typing,
  typed,
  onEnd,
}: RowProps) {
  const text = (value: number | null | undefined) =>
    value === null || value === undefined ? '' : roundHalfUp(value, decimals);
  return (
    <tr data-row={row.userId} className={`${gridRow} bg-sheet hover:bg-paper [&>*]:border-b [&>*]:border-line`}>
      <th
        scope="row"
        className={`${pinned} truncate text-left`}
        title={row.studentNumber ? `${row.name}, ${row.studentNumber}` : row.name}
      >
        {row.name}
        {isTwin && row.studentNumber && (
          <span className="ml-2 text-sm font-normal text-ink-2">{row.studentNumber}</span>
        )}
        {row.hasLeft && <span className="ml-2 text-sm font-normal text-ink-2">left</span>}
      </th>
      <td
        // biome-ignore lint/a11y/noNoninteractiveElementToInteractiveRole: a cell of a grid is walked to by keys, and opened
        role="gridcell"
        data-cell={total}
        aria-selected={open === total}
        tabIndex={first ? 0 : -1}
        aria-label={`Total of ${row.name}: ${row.total === null ? 'nothing counts yet' : `${text(row.total)} %`}`}
        className="font-medium"
      >
        {text(row.total)}
      </td>
      {hasBands && <td className="!text-left whitespace-nowrap">{row.band}</td>}
      <ColumnsOutOfView count={from} width={columnWidth} />
      {columns.slice(from, to).map((column, at) => (
        <Cell
          key={column.id}
          row={row}
          column={column}
          place={from + at}
          decimals={decimals}
          open={open === column.id}
          typing={typing?.column === column.id ? typing : null}
          typed={typed?.[column.id] ?? null}
          onEnd={onEnd}
        />
      ))}
      <ColumnsOutOfView count={columns.length - to} width={columnWidth} />
      {hasSections && <td className="!text-left text-ink-2">{row.section}</td>}
    </tr>
  );
});

type CellProps = {
  row: Row;
  column: ColumnShown;
  place: number;
  decimals: number;
  open: boolean;
  typing: Typing | null;
  typed: string | null;
  onEnd: TypedCells['end'];
};

/** One cell. It is drawn once, however often columns beside it come into view. */
const Cell = memo(function Cell({ row, column, place, decimals, open, typing, typed, onEnd }: CellProps) {
  const points = row.points[place] ?? null;
  const text = points === null ? '' : roundHalfUp(points, decimals);
  const is = (mark: CellMark) => row.marks[mark]?.includes(place) ?? false;
  const sign = (Object.keys(signs) as CellMark[]).find(is);
  const shown = sign && signs[sign];
  const said =
    points === null ? (shown?.says ?? 'nothing') : `${text} of ${column.worth}${shown ? `, ${shown.says}` : ''}`;
  const more = `${is('dropped') ? ', dropped' : is('late') ? ', late' : ''}${is('done') ? ', done' : is('not-done') ? ', not done' : ''}`;
  return (
    <td
      // biome-ignore lint/a11y/noNoninteractiveElementToInteractiveRole: a cell of a grid is walked to by keys, and opened
      role="gridcell"
      data-cell={column.id}
      aria-selected={open}
      tabIndex={-1}
      data-typed={column.kind === 'manual' ? '' : undefined}
      aria-label={`${column.title} of ${row.name}: ${typed ?? said}${more}`}
    >
      {typing ? (
        <CellField key={typing.turn} typing={typing} label={`${column.title} of ${row.name}`} onEnd={onEnd} isNumber />
      ) : typed !== null ? (
        <span className="text-ink-2">{typed || '–'}</span>
      ) : !shown && !is('dropped') && !is('late') && !is('done') ? (
        text
      ) : (
        <>
          {shown && <span className={`mr-1 ${shown.look}`}>{shown.sign}</span>}
          {is('done') && <span className="mr-1 text-pine">✓</span>}
          {is('late') && <span className="mr-1 text-sm text-brick">late</span>}
          <span className={is('dropped') ? 'text-ink-2 line-through' : ''}>{text}</span>
        </>
      )}
    </td>
  );
});
