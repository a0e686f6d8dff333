import type { AnswerSheetOrder, FillOrder } from '../answerSheet/sheetOrder';
import type { PrintedPaper } from '../exam/printedPaper';
import type { SheetDocument } from '../gradebook/sheetDocument';

/** A picture by the hash of its content, as PNG. */
export type PrintedPicture = { data: Uint8Array; width: number; height: number };

/**
 * What is printed: papers into one PDF; sheets each into a file of its own in one archive, or all into one PDF; answer
 * sheets into one PDF; those of a made-up class, filled in and scanned, into an archive.
 */
export type PrintOrder = { pictures: Record<string, PrintedPicture> } & (
  | { papers: PrintedPaper[] }
  | { sheets: SheetDocument[]; format: 'pdf' | 'docx'; into: 'archive' }
  | { sheets: SheetDocument[]; format: 'pdf'; into: 'one-pdf' }
  | { answerSheets: AnswerSheetOrder }
  | { filled: FillOrder }
);

/**
 * So many documents stand in one PDF. Of more there are several in an archive: the typesetter takes some megabytes for
 * each page until a file is done, and a printer takes a thousand pages no better.
 */
export const documentsAFile = 60;

/**
 * That so many documents come in several files; '' where they stand in one.
 *
 * @example filesSaid(150) // ', in 3 files'
 */
export const filesSaid = (documents: number): string =>
  documents > documentsAFile ? `, in ${Math.ceil(documents / documentsAFile)} files` : '';

/** How many pieces an order has: papers, or sheets. */
export const piecesOf = (order: PrintOrder): number => {
  if ('papers' in order) return order.papers.length;
  if ('filled' in order) return order.filled.order.sheets.length;
  return 'answerSheets' in order ? order.answerSheets.sheets.length : order.sheets.length;
};

/** What the printer says. */
export type PrintMessage =
  | { kind: 'progress'; done: number }
  | { kind: 'done'; bytes: Uint8Array }
  | { kind: 'failed'; message: string };
