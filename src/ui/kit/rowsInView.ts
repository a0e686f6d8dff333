'use client';
import { useVirtualizer } from '@tanstack/react-virtual';
import { type RefObject, useEffect, useLayoutEffect, useRef } from 'react';

/** The height of a row in pixels as long as it was not drawn, unless a table has lower ones. */
const usualRowHeight = 36;
/** A list of up to so many rows is drawn whole, so that the browser finds every word of it. */
const drawnWhole = 80;

/** The rows of a long table that are in view, and the height in pixels of those before and after them. */
type RowsInView = {
  /** What scrolls. */
  box: RefObject<HTMLElement | null>;
  shown: number[];
  before: number;
  after: number;
  /** Counts a row as so many pixels high from now on; null where all rows are drawn. */
  resize: ((index: number, height: number) => void) | null;
};

/**
 * Which rows of a long table are in view.
 *
 * @param rowHeight in pixels: of all rows, or of those that were not drawn yet where {@link useHeights} tells the others
 * @param overscan how many more are drawn before and after; fewer where a row is wide
 */
export function useRowsInView(count: number, { rowHeight = usualRowHeight, overscan = 15 } = {}): RowsInView {
  const box = useRef<HTMLElement>(null);
  const virtual = useVirtualizer({
    count,
    enabled: count > drawnWhole,
    getScrollElement: () => box.current,
    estimateSize: () => rowHeight,
    overscan,
    // Drawn in a turn of its own, not within that of the scrolling: two short tasks in place of a long one.
    useFlushSync: false,
    initialRect: { width: 1000, height: 700 },
  });
  if (count <= drawnWhole)
    return { box, shown: Array.from({ length: count }, (_, i) => i), before: 0, after: 0, resize: null };
  const items = virtual.getVirtualItems();
  return {
    box,
    shown: items.map((item) => item.index),
    before: items[0]?.start ?? 0,
    after: virtual.getTotalSize() - (items.at(-1)?.end ?? 0),
    resize: virtual.resizeItem,
  };
}

/**
 * Counts the rows of a long table as high as they come out, because a long name breaks into two lines: else everything jumps
 * as rows come and go.
 *
 * @param rows what stands in the rows
 * @returns the table, to be taken as its ref
 */
export function useHeights({ box, shown, before, resize }: RowsInView, rows: readonly unknown[]) {
  const table = useRef<HTMLTableElement>(null);
  // A row is looked at once for what stands in it and for a width of the list: were it looked at again and again, a height that
  // depends on which rows are drawn, and rows that depend on heights, could go on for ever.
  const lookedAt = useRef(new Map<number, { row: unknown; height: number }>());
  useLayoutEffect(() => {
    if (!resize || !table.current) return;
    const drawn = table.current.tBodies[0]?.rows;
    const first = before > 0 ? 1 : 0;
    for (const [place, index] of shown.entries()) {
      const known = lookedAt.current.get(index);
      if (known && known.row === rows[index]) continue;
      const height = drawn?.[first + place]?.getBoundingClientRect().height;
      if (!height) continue;
      lookedAt.current.set(index, { row: rows[index], height });
      // The line above a row counts half, or whole where it is the first one drawn. To tell that much of a row that is known
      // would move a list while somebody scrolls it.
      if (!known || Math.abs(height - known.height) > 1) resize(index, height);
    }
  });
  useEffect(() => {
    const seen = box.current;
    if (!seen) return;
    let width = seen.clientWidth;
    const observer = new ResizeObserver(() => {
      if (seen.clientWidth === width) return;
      width = seen.clientWidth;
      lookedAt.current.clear();
    });
    observer.observe(seen);
    return () => observer.disconnect();
  }, [box]);
  return table;
}
