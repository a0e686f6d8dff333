import { and, desc, eq, inArray, isNotNull, sql } from 'drizzle-orm';
import { layOutSheet, type SheetPage } from '@/core/answerSheet/sheetLayout';
import { pieceOfRows, type SheetPiece } from '@/core/answerSheet/sheetPiece';
import type { Db, Tx } from '@/db/client';
import { sheetLayout, sheetPage, sheetReading } from '@/db/schema';

/** A page of an answer sheet that was read into an attempt. */
export type SheetEvidence = {
  pageId: string;
  /** Which page of the sheet, from 1. */
  page: number;
  /** The picture, by the hash of its content. */
  picture: string;
  /** Its size in millimetres, to which pieces are measured. */
  size: { width: number; height: number };
  /** Whether it has rows in which whoever marks fills in points. */
  holdsPoints: boolean;
  /** Where each question stands on it, by its place on the paper from 0; `points` where it is points that stand there. */
  pieces: ReadonlyMap<number, SheetPiece & { points: boolean }>;
};

/** The layout that the code of a page names. */
const layoutOfPage = eq(sheetLayout.id, sql`json_extract(${sheetPage.code}, '$.layout')`);

/** The pages of answer sheets that were read into attempts, by attempt and in their order: of each page the one read last. */
export function sheetEvidence(db: Db | Tx, attemptIds: readonly string[]): Map<string, SheetEvidence[]> {
  const found = new Map<string, SheetEvidence[]>();
  if (attemptIds.length === 0) return found;
  const rows = db
    .select({ page: sheetPage, plan: sheetLayout.plan, rowsOf: sheetLayout.rows })
    .from(sheetPage)
    .innerJoin(sheetReading, eq(sheetReading.id, sheetPage.readingId))
    .innerJoin(sheetLayout, layoutOfPage)
    .where(and(inArray(sheetPage.attemptId, [...attemptIds]), isNotNull(sheetPage.picture)))
    .orderBy(desc(sheetReading.appliedAt), desc(sheetPage.position))
    .all();
  const known = new Map<string, SheetPage[]>();
  for (const { page, plan, rowsOf } of rows) {
    const { attemptId, picture, code } = page;
    const pages = known.get(code?.layout ?? '') ?? layOutSheet(plan);
    known.set(code?.layout ?? '', pages);
    const laidOut = code && pages[code.page - 1];
    if (!attemptId || !picture || !laidOut) continue;
    const own = found.get(attemptId) ?? [];
    if (own.some((one) => one.page === code.page)) continue;
    const pieces = new Map<number, SheetPiece & { points: boolean }>();
    const rowsAt = new Map<number, number[]>();
    for (const [row, { position }] of rowsOf.entries()) rowsAt.set(position, [...(rowsAt.get(position) ?? []), row]);
    for (const [position, rows] of rowsAt) {
      const piece = pieceOfRows(laidOut, rows);
      if (piece) pieces.set(position, { ...piece, points: rows.some((row) => rowsOf[row]?.byHand) });
    }
    own.push({
      pageId: page.id,
      page: code.page,
      picture,
      size: { width: laidOut.width, height: laidOut.height },
      holdsPoints: [...pieces.values()].some((piece) => piece.points),
      pieces,
    });
    found.set(
      attemptId,
      own.sort((a, b) => a.page - b.page),
    );
  }
  return found;
}

/** What stands on a sheet of a question: its answer, or only its points; null where it stands on none. */
export function onSheet(
  sheets: ReadonlyMap<string, readonly SheetEvidence[]>,
  { attemptId, position }: { attemptId: string; position: number },
): 'answer' | 'points' | null {
  const piece = sheets.get(attemptId)?.flatMap((one) => one.pieces.get(position) ?? [])[0];
  return piece ? (piece.points ? 'points' : 'answer') : null;
}

/**
 * The questions of an attempt that were answered on paper where boxes cannot hold the answer, by their places from 0: what
 * is empty here is not empty there.
 */
export function answeredOnPaper(db: Db | Tx, attemptId: string): ReadonlySet<number> {
  const layouts = db
    .selectDistinct({ rowsOf: sheetLayout.rows })
    .from(sheetPage)
    .innerJoin(sheetLayout, layoutOfPage)
    .where(eq(sheetPage.attemptId, attemptId))
    .all();
  return new Set(layouts.flatMap(({ rowsOf }) => rowsOf.flatMap((of) => (of.byHand ? of.position : []))));
}
