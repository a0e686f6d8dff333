import type { GreyPicture } from './greyPicture';
import { judgePage } from './judgeMarks';
import type { FoundOnPage } from './pageParcel';
import { readCode } from './readCode';
import { findSheets, keptDots, readMarks, straightened } from './readSheet';
import { readSheetCode } from './sheetCode';
import { layOutSheet, type SheetPage } from './sheetLayout';
import type { SheetPlan } from './sheetRow';

/** One sheet of a picture: what was found on it, and the sheet as it lies flat; of what is no sheet the picture itself. */
export type ReadPage = { found: Omit<FoundOnPage, 'source'>; kept: GreyPicture };

/** The layouts by which sheets are read, each laid out once. */
export type KnownLayouts = {
  /** A page of the layout that a code names; null where there is none. */
  page(code: string): SheetPage | null;
  /** How many of its rows are in doubt; null where there is no such layout. */
  doubts(code: string, darkness: readonly number[]): number | null;
};

/** Layouts by their signs, laid out when they are first asked for. */
export function knownLayouts(plans: readonly { id: string; plan: SheetPlan }[]): KnownLayouts {
  const byId = new Map(plans.map((one) => [one.id, one.plan]));
  const laidOut = new Map<string, SheetPage[]>();
  const known: KnownLayouts = {
    page(code) {
      const read = readSheetCode(code);
      const plan = read && byId.get(read.layout);
      if (!read || !plan) return null;
      const pages = laidOut.get(read.layout) ?? layOutSheet(plan);
      laidOut.set(read.layout, pages);
      return pages[read.page - 1] ?? null;
    },
    doubts(code, darkness) {
      const plan = byId.get(readSheetCode(code)?.layout ?? '');
      const page = known.page(code);
      if (!plan || !page) return null;
      return judgePage(
        plan,
        page,
        darkness.map((percent) => percent / 100),
      ).filter((row) => row.doubt).length;
    },
  };
  return known;
}

/** Reads all sheets in a picture; a picture without one is told as that, once. */
export function readPage(picture: GreyPicture, layouts: KnownLayouts): ReadPage[] {
  const sheets = findSheets(picture, readCode, (code) => layouts.page(code));
  if (sheets.length === 0) return [{ found: { problem: 'no-sheet', code: null, darkness: null }, kept: picture }];
  return sheets.map((sheet): ReadPage => {
    const page = layouts.page(sheet.text);
    // Of another exam, or printed elsewhere: who looks through it is told which.
    if (!page) return { found: { problem: null, code: sheet.text, darkness: null }, kept: picture };
    const read = readMarks(picture, sheet, page);
    if (read.kind === 'corner-missing')
      return { found: { problem: 'corner-missing', code: sheet.text, darkness: null }, kept: picture };
    return {
      found: {
        problem: null,
        code: sheet.text,
        darkness: Array.from(read.darkness, (one) => Math.round(one * 100)),
      },
      kept: straightened(picture, read.h, page, keptDots),
    };
  });
}
