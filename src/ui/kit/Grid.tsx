'use client';
import { useVirtualizer } from '@tanstack/react-virtual';
import type {
  ClipboardEventHandler,
  CSSProperties,
  KeyboardEventHandler,
  MouseEventHandler,
  ReactNode,
  RefObject,
} from 'react';
import { RowsOutOfView } from './RowTable';
import { useRowsInView } from './rowsInView';

/** A narrow grid is drawn whole, so that the browser finds every word of it. */
const columnsDrawnWhole = 16;
/** Columns come into view by so many at once: each time, all rows in view are drawn anew. */
const columnsTogether = 4;

type Size = {
  rows: number;
  columns: number;
  /** In pixels; all rows, and all columns of things, have the same: see {@link gridRow} and {@link gridColumn}. */
  rowHeight: number;
  columnWidth: number;
};

type GridInView = {
  box: RefObject<HTMLElement | null>;
  /** The rows in view, by their indices, and the height of those before and after them. */
  shown: number[];
  before: number;
  after: number;
  /** The columns in view: from one, inclusive, to another, exclusive. */
  from: number;
  to: number;
  columns: number;
  rowHeight: number;
  columnWidth: number;
};

/** Which rows and columns of a large grid are in view. */
export function useGridInView({ rows, columns, rowHeight, columnWidth }: Size): GridInView {
  const inView = useRowsInView(rows, { rowHeight, overscan: 6 });
  const isWide = columns > columnsDrawnWhole;
  const virtual = useVirtualizer({
    count: columns,
    horizontal: true,
    enabled: isWide,
    getScrollElement: () => inView.box.current,
    estimateSize: () => columnWidth,
    overscan: 2,
    useFlushSync: false,
    initialRect: { width: 1000, height: 700 },
  });
  const size = { columns, rowHeight, columnWidth };
  if (!isWide) return { ...inView, ...size, from: 0, to: columns };
  const items = virtual.getVirtualItems();
  const from = Math.floor((items[0]?.index ?? 0) / columnsTogether) * columnsTogether;
  const to = Math.ceil(((items.at(-1)?.index ?? -1) + 1) / columnsTogether) * columnsTogether;
  return { ...inView, ...size, from, to: Math.min(columns, to) };
}

/** Stands for columns that are out of view. */
export const ColumnsOutOfView = ({ count, width }: { count: number; width: number }) =>
  count > 0 ? <td style={{ minWidth: count * width, width: count * width }} /> : null;

/** The looks of a row of a grid, and of the head of a column of things: as high and as wide as the grid counts them. */
export const gridRow = 'h-(--grid-row)';
export const gridColumn = 'w-(--grid-column) max-w-(--grid-column) min-w-(--grid-column)';

/** The first cell of every row stays in view. */
export const pinned = 'sticky left-0 z-10 bg-inherit border-r border-line';

type Props = {
  label: string;
  grid: GridInView;
  /** The cells of the row of heads: of those that stay, and, by place, of the columns in view. */
  head: ReactNode;
  foot?: ReactNode;
  children: (index: number) => ReactNode;
  className?: string;
  onKeyDown?: KeyboardEventHandler<HTMLTableElement>;
  onClick?: MouseEventHandler<HTMLTableElement>;
  onPaste?: ClipboardEventHandler<HTMLTableElement>;
};

/** A table of many by many: names, heads and what stands below stay in view; of a large one only what is in view is drawn. */
export function Grid({ label, grid, head, foot, children, className = '', onKeyDown, onClick, onPaste }: Props) {
  return (
    <section
      ref={grid.box}
      aria-label={label}
      // biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls is scrolled by keyboard too
      tabIndex={0}
      className="max-h-[max(20rem,calc(100dvh-13rem))] overflow-auto [overflow-anchor:none]"
    >
      {/* With widths that are known, the browser need not measure every cell each time rows change. They are only taken as
          known where the table has a width as well; it grows to that of its columns. */}
      {/* Where keys walk from cell to cell, it is a grid to those who hear it too. */}
      <table
        role={onKeyDown && 'grid'}
        className={`border-separate border-spacing-0 [&_th]:font-medium ${grid.columns > columnsDrawnWhole ? 'w-px table-fixed' : ''} ${className}`}
        style={{ '--grid-row': `${grid.rowHeight}px`, '--grid-column': `${grid.columnWidth}px` } as CSSProperties}
        onKeyDown={onKeyDown}
        onClick={onClick}
        onPaste={onPaste}
      >
        <thead className="sticky top-0 z-20 bg-sheet text-sm">
          <tr className="text-left align-bottom [&>*]:border-b [&>*]:border-line [&>*]:py-1.5">{head}</tr>
        </thead>
        <tbody>
          <RowsOutOfView height={grid.before} />
          {grid.shown.map(children)}
          <RowsOutOfView height={grid.after} />
        </tbody>
        {foot && <tfoot className="sticky bottom-0 z-20 bg-paper text-sm text-ink-2">{foot}</tfoot>}
      </table>
    </section>
  );
}
