import type { ClipboardEvent, KeyboardEvent } from 'react';
import type { TypedCells } from './useTypedCells';

/**
 * A grid whose cells are walked through by keys and typed into. Its rows carry `data-row`, its cells `data-cell` with the
 * column, and `data-typed` where they are typed into.
 */
type Keys = {
  cells: Pick<TypedCells, 'typing' | 'begin' | 'end' | 'empty' | 'paste' | 'undo'>;
  /** The rows as they stand in the grid, in view or not. */
  rows: readonly string[];
  /** What begins to type over a cell. */
  begins: RegExp;
  /** What Enter and Space do with a cell. */
  onEnter: (cell: HTMLElement) => void;
  onEscape?: () => void;
};

/** Which cell is the next one: so many rows down, so many cells to the right. */
const moves: Record<string, [down: number, right: number]> = {
  ArrowDown: [1, 0],
  ArrowUp: [-1, 0],
  ArrowRight: [0, 1],
  ArrowLeft: [0, -1],
  PageDown: [12, 0],
  PageUp: [-12, 0],
};
/** Keys by which a cell is left that is typed into, and where they lead. */
const leaving: Record<string, [down: number, right: number]> = {
  Enter: [1, 0],
  ArrowDown: [1, 0],
  ArrowUp: [-1, 0],
  Tab: [0, 1],
};

/** The cell of a grid that lies so far from another one, or as far as there are cells; null where there is none. */
function cellBeside(cell: HTMLTableCellElement, [down, right]: [number, number]): HTMLElement | null {
  const row = cell.parentElement as HTMLTableRowElement;
  const body = row.parentElement as HTMLTableSectionElement;
  let to: Element | null | undefined = cell;
  for (let step = down; step !== 0; step -= Math.sign(step)) {
    const next = body.rows[row.sectionRowIndex + step]?.cells[cell.cellIndex];
    to = next;
    if (next?.matches('[data-cell]')) break;
  }
  // What is only read lies between: the way goes past it.
  if (right)
    do to = right > 0 ? to?.nextElementSibling : to?.previousElementSibling;
    while (to && !to.matches('[data-cell]'));
  return to !== cell && to?.matches('[data-cell]') ? (to as HTMLElement) : null;
}

const cellOf = (target: EventTarget) => (target as HTMLElement).closest<HTMLTableCellElement>('[data-cell]');
const placeOf = (cell: HTMLElement) => ({
  row: cell.closest<HTMLElement>('[data-row]')?.dataset.row ?? '',
  column: cell.dataset.cell ?? '',
});

/** What the keys and pasting do in such a grid: typing replaces, Enter goes down, Tab to the right, Escape leaves it. */
export function cellKeys({ cells, rows, begins, onEnter, onEscape }: Keys) {
  const onKeyDown = (event: KeyboardEvent<HTMLTableElement>) => {
    const { target, key } = event;
    const cell = cellOf(target);
    const isTyping = target instanceof HTMLInputElement;
    if (!cell || event.altKey || (!isTyping && target !== cell)) return;
    const done = (act: () => void) => {
      event.preventDefault();
      act();
    };
    if (!isTyping) {
      const isTyped = cell.dataset.typed !== undefined;
      if (event.ctrlKey || event.metaKey) return key.toLowerCase() === 'z' ? done(cells.undo) : undefined;
      if (key === 'Enter' || key === ' ') return done(() => onEnter(cell));
      if (key === 'Escape') return onEscape?.();
      if (isTyped && key === 'F2') return done(() => cells.begin(placeOf(cell), null));
      if (isTyped && key.length === 1 && begins.test(key)) return done(() => cells.begin(placeOf(cell), key));
      if (isTyped && (key === 'Delete' || key === 'Backspace')) return done(() => cells.empty(placeOf(cell)));
      if (key === 'Home' || key === 'End') {
        const all = cell.parentElement?.querySelectorAll<HTMLElement>(':scope > [data-cell]') ?? [];
        return done(() => all[key === 'Home' ? 0 : all.length - 1]?.focus());
      }
    }
    const back = isTyping && event.shiftKey && (key === 'Enter' || key === 'Tab') ? -1 : 1;
    const move = (isTyping ? leaving : moves)[key];
    const to = move && cellBeside(cell, [move[0] * back, move[1] * back]);
    // Leaving the field enters what stands in it.
    if (to || (move && isTyping)) done(() => (to ?? cell).focus());
  };
  const onPaste = (event: ClipboardEvent<HTMLTableElement>) => {
    const isTyping = event.target instanceof HTMLInputElement;
    const cell = cellOf(event.target);
    const text = event.clipboardData.getData('text/plain').trimEnd();
    const isMany = /[\t\r\n]/.test(text);
    if (cell?.dataset.typed === undefined || text === '' || (isTyping && !isMany)) return;
    const at = placeOf(cell);
    const from = rows.indexOf(at.row);
    if (from < 0) return;
    event.preventDefault();
    if (isTyping && cells.typing) cells.end(cells.typing, '', 'given-up');
    if (isMany) cells.paste(rows.slice(from), at.column, text);
    else cells.begin(at, text.trim());
  };
  return { onKeyDown, onPaste };
}
