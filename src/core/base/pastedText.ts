/** A cell over which pasted text lies: its row and column, counted from 0, and what was pasted there. */
export type PastedText = { row: number; column: number; text: string };

/** The most cells that are pasted at once. */
export const mostPasted = 2_000;

/**
 * Lays what was pasted over the cells of a grid: lines go down, what stands behind a tab goes to the right. Empty cells
 * change nothing.
 *
 * @param at the cell into which it was pasted
 * @param size how many rows and columns the grid has
 * @returns the cells, and how many texts found none
 */
export function pastedText(
  text: string,
  at: { row: number; column: number },
  size: { rows: number; columns: number },
): { cells: PastedText[]; outside: number } {
  const cells: PastedText[] = [];
  let outside = 0;
  text.split(/\r\n|\r|\n/).forEach((line, down) => {
    line.split('\t').forEach((typed, right) => {
      const found = typed.trim();
      if (found === '') return;
      const [row, column] = [at.row + down, at.column + right];
      if (row >= size.rows || column >= size.columns || cells.length >= mostPasted) outside += 1;
      else cells.push({ row, column, text: found });
    });
  });
  return { cells, outside };
}
