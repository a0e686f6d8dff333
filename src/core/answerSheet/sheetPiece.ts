import type { SheetPage } from './sheetLayout';

/** A rectangle on a page of a sheet, in millimetres from its upper left corner. */
export type SheetPiece = { x: number; y: number; width: number; height: number };

/** What is shown around the boxes of a row, in millimetres: its number at the left, the next rows a little. */
const around = { left: 13, right: 4, above: 3.2, below: 3.2 };

/**
 * The piece of a page on which some rows stand, with their numbers; null where none of them stands on it.
 *
 * @param rows numbers of rows, from 0; rows of one question stand below one another, or where a column ends, beside
 */
export function pieceOfRows(page: SheetPage, rows: readonly number[]): SheetPiece | null {
  const boxes = page.boxes.filter((box) => rows.includes(box.row));
  if (boxes.length === 0) return null;
  const x = Math.max(0, Math.min(...boxes.map((box) => box.x)) - around.left);
  const y = Math.max(0, Math.min(...boxes.map((box) => box.y)) - around.above);
  return {
    x,
    y,
    width: Math.min(page.width, Math.max(...boxes.map((box) => box.x)) + around.right) - x,
    height: Math.min(page.height, Math.max(...boxes.map((box) => box.y)) + around.below) - y,
  };
}
