'use client';
import { ArrowDown, ArrowUp } from 'lucide-react';
import type { ClipboardEventHandler, KeyboardEventHandler, MouseEventHandler, ReactNode } from 'react';
import { useHeights, useRowsInView } from './rowsInView';

/** How a table is sorted: by which column, and whether the greatest stands first. */
export type Sorted = { by: string; down: boolean };

export type Column = {
  key: string;
  name: string;
  /** Numbers stand at the right. */
  right?: boolean;
  /** Whether the name is only for people who hear the page. */
  quiet?: boolean;
  sortable?: boolean;
  /**
   * How many hundredths of the table's width it takes. For texts of any length in a long list: else columns, and with them the
   * lines of every row, change as rows come into view.
   */
  share?: number;
};

/** Stands for rows that are out of view. */
export const RowsOutOfView = ({ height }: { height: number }) =>
  height > 0 ? (
    <tr>
      <td style={{ height }} />
    </tr>
  ) : null;

/** What sorts a table by a column, with an arrow at the one that does. */
export function SortButton({
  column,
  sorted,
  onSort,
  downFirst,
  className = '',
}: {
  column: { key: string; name: string };
  sorted: Sorted;
  onSort: (sorted: Sorted) => void;
  /** Whether the greatest stands first when the column is chosen. */
  downFirst?: boolean;
  className?: string;
}) {
  const isBy = sorted.by === column.key;
  const Arrow = sorted.down ? ArrowDown : ArrowUp;
  return (
    <button
      type="button"
      className={`hover:text-prussian ${className}`}
      title={`Sort by ${column.name.toLowerCase()}`}
      onClick={() => onSort({ by: column.key, down: isBy ? !sorted.down : Boolean(downFirst) })}
    >
      {column.name}
      {isBy && <Arrow size={13} className="ml-1 inline" aria-hidden="true" />}
    </button>
  );
}

export const ariaSort = (sorted: Sorted | undefined, key: string) =>
  sorted?.by === key ? (sorted.down ? 'descending' : 'ascending') : undefined;

type Props<Row> = {
  label: string;
  columns: readonly Column[];
  rows: readonly Row[];
  sorted?: Sorted;
  onSort?: (sorted: Sorted) => void;
  /** What is done in cells that are walked through by keys: then it is a grid, to those who hear it too. */
  onKeyDown?: KeyboardEventHandler<HTMLTableElement>;
  onPaste?: ClipboardEventHandler<HTMLTableElement>;
  onDoubleClick?: MouseEventHandler<HTMLTableElement>;
  /** One row, as a table row with its key. */
  children: (row: Row) => ReactNode;
};

/** A table of things one below the other: names on top stay in view, and of a long one only the rows in view are drawn. */
export function RowTable<Row>({ label, columns, rows, sorted, onSort, children, ...doing }: Props<Row>) {
  const inView = useRowsInView(rows.length);
  const table = useHeights(inView, rows);
  const { box, shown, before, after } = inView;
  return (
    <section
      ref={box}
      aria-label={label}
      // biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls is scrolled by keyboard too
      tabIndex={0}
      className="relative max-h-[max(20rem,calc(100dvh-13rem))] overflow-auto [overflow-anchor:none]"
    >
      <table ref={table} role={doing.onKeyDown && 'grid'} className="w-full [&_tbody_td]:px-3" {...doing}>
        <thead className="sticky top-0 z-10 bg-sheet">
          <tr className="text-left text-sm text-ink-2 shadow-[inset_0_-1px_0_var(--color-line)]">
            {columns.map((column) => (
              <th
                key={column.key}
                className={`px-3 py-1.5 font-medium ${column.right ? 'text-right' : ''}`}
                style={column.share ? { width: `${column.share}%` } : undefined}
                aria-sort={ariaSort(sorted, column.key)}
              >
                {column.sortable && sorted && onSort ? (
                  <SortButton column={column} sorted={sorted} onSort={onSort} downFirst={column.right} />
                ) : (
                  <span className={column.quiet ? 'sr-only' : ''}>{column.name}</span>
                )}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          <RowsOutOfView height={before} />
          {shown.map((index) => children(rows[index] as Row))}
          <RowsOutOfView height={after} />
        </tbody>
      </table>
    </section>
  );
}

/** The look of a row of such a table. */
export const tableRow = 'h-[36px] border-b border-line last:border-b-0 hover:bg-paper';
