import { rmSync } from 'node:fs';
import { and, eq, inArray } from 'drizzle-orm';
import { copyName } from '@/core/answerSheet/gather';
import { ok } from '@/core/base/result';
import { counted } from '@/core/base/words';
import type { QuestionContent } from '@/core/question/content';
import type { Tx } from '@/db/client';
import { anonymousAnswer, type SheetPaperSlot, sheetPage, takenCopy } from '@/db/schema';
import { storeAnonymously } from '../attempt/anonymousAnswers';
import type { Context } from '../house/context';
import { keptFile } from '../house/keepFile';
import { undoable } from '../house/undoable';
import type { SittingRow } from '../records/audience';
import { frozenContents } from '../records/paperContent';
import { fewestShown } from '../release/answerTally';
import { type PlannedSheet, readPaper, type SheetSlot } from './planSheets';
import { type OpenedReading, sheetFolder } from './sheetPages';

/** A sheet of an anonymous sitting that would come in: nobody's, with the paper that it answers. */
export type AnonymousSheet = PlannedSheet & { layout: string; copy: number; paper: readonly SheetPaperSlot[] };

/** Works out what the sheets of an anonymous sitting would bring in: each is one paper more, of nobody. */
export function planAnonymousSheets(tx: Tx, opened: OpenedReading): AnonymousSheet[] {
  const { gathered, layouts, pages, names } = opened;
  const copies = new Map(pages.flatMap(({ code }) => (code ? [[copyName(code), code.copy] as const] : [])));
  const papers = gathered.students.map((one) => layouts.get(one.layout)?.paper ?? []);
  const contents = frozenContents(tx, [...new Set(papers.flat().map((slot) => slot.versionId))]);
  return gathered.students
    .map((sheets, i): AnonymousSheet => {
      const paper = papers[i] ?? [];
      const slots = paper.map(
        ({ versionId, presentation, points }, position): SheetSlot => ({
          position,
          slotId: null,
          content: contents.get(versionId) as QuestionContent,
          presentation,
          points,
        }),
      );
      const { writes, notes } = readPaper(sheets, opened, slots);
      const answered = writes.filter((one) => one.value !== null).length;
      return {
        userId: sheets.userId,
        name: names.get(sheets.userId) ?? '',
        into: 'new',
        answered,
        changes: [],
        pages: sheets.pages,
        missing: sheets.missing,
        notes: sheets.missing.length ? [...notes, 'What is missing cannot be added later.'] : notes,
        problem: answered === 0 ? 'Nothing is filled in.' : null,
        attemptId: null,
        number: 0,
        writes,
        marks: [],
        layout: sheets.layout,
        copy: copies.get(sheets.userId) ?? 0,
        paper,
      };
    })
    .sort((a, b) => a.copy - b.copy);
}

type TakenAnonymously = {
  /** The keys of the papers, in their order. */
  sheets: string[];
  /** The copies of each layout. */
  copies: Record<string, number[]>;
};

/**
 * Answers of an anonymous sitting were taken over from sheets: they go out again. Which answers came from which sheet is
 * not known, and their pages are not kept.
 */
export const anonymousSheetsTaken = undoable<TakenAnonymously>('sitting.anonymous-sheets-taken', {
  action: 'sitting.change',
  says: (_kept, { sheets }) => `${counted(Number(sheets), 'answer sheet')} read in`,
  apply(tx, _context, { sheets, copies }) {
    tx.delete(anonymousAnswer).where(inArray(anonymousAnswer.sheet, sheets)).run();
    for (const [layout, own] of Object.entries(copies))
      tx.delete(takenCopy)
        .where(and(eq(takenCopy.layoutId, layout), inArray(takenCopy.copy, own)))
        .run();
    return ok(`${counted(sheets.length, 'sheet')} taken out. Their pages are not kept: read them in again.`);
  },
});

/**
 * Takes the sheets of an anonymous sitting over, as its hand-ins are ({@link anonymousAnswer}): under random keys, without
 * time or order. Which copies came is kept apart, in the order of the copies. From few sheets, what taking them back needs
 * would tell whose answers they are: it is not kept.
 *
 * @returns what taking them back needs; null where it cannot be
 */
export function takeAnonymousSheets(
  tx: Tx,
  sitting: SittingRow,
  sheets: readonly AnonymousSheet[],
): TakenAnonymously | null {
  // What does not stand on a sheet, and what stands on a page that has not come, was not asked by it.
  const keys = sheets.map(({ writes, paper }) =>
    storeAnonymously(
      tx,
      sitting.id,
      writes.flatMap(({ position, value }) => {
        const slot = paper[position];
        return slot ? [{ ...slot, value }] : [];
      }),
    ),
  );
  tx.insert(takenCopy)
    .values(sheets.map(({ layout, copy }) => ({ layoutId: layout, copy })))
    .run();
  const copies: Record<string, number[]> = {};
  for (const { layout, copy } of sheets) copies[layout] = [...(copies[layout] ?? []), copy];
  return sheets.length < fewestShown ? null : { sheets: keys.sort(), copies };
}

/**
 * Forgets the pages of a reading of an anonymous sitting: a picture shows a hand.
 *
 * @returns what is to be done once they are gone from the tables: their pictures go too, but those that another reading has
 */
export function forgetPages(tx: Tx, context: Context, readingId: string): () => void {
  const hashes = tx
    .select({ picture: sheetPage.picture })
    .from(sheetPage)
    .where(eq(sheetPage.readingId, readingId))
    .all()
    .flatMap((one) => one.picture ?? []);
  tx.delete(sheetPage).where(eq(sheetPage.readingId, readingId)).run();
  return () => {
    const others = new Set(
      context.db
        .select({ picture: sheetPage.picture })
        .from(sheetPage)
        .where(inArray(sheetPage.picture, hashes))
        .all()
        .map((one) => one.picture),
    );
    for (const hash of hashes)
      if (!others.has(hash)) rmSync(keptFile(context.files ?? sheetFolder(), hash), { force: true });
  };
}
