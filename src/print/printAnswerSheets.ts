import { create } from 'qrcode';
import { openPart } from '../core/answerSheet/findCorners';
import { codeInGroups, sheetCodeText } from '../core/answerSheet/sheetCode';
import { layOutSheet, type Place, placesOnPaper, type SheetPage } from '../core/answerSheet/sheetLayout';
import type { AnswerSheetOrder } from '../core/answerSheet/sheetOrder';
import { type PlacedSheet, type SheetDrawing, typesetData } from './typesetPdf';

/** A sheet where it stands on a page of A4, and which page of which copy it is. */
export type LaidSheet = PlacedSheet & { layout: string; copy: number; page: number; laidOut: SheetPage };

/**
 * Puts answer sheets on pages of A4: all pages of a sheet, then the next; several to a page where the plan says so.
 *
 * @returns the sheets of each page of A4, and what is drawn on them
 */
export function laySheets({ installation, title, layouts, sheets, bothSides }: AnswerSheetOrder): {
  papers: LaidSheet[][];
  drawings: SheetDrawing[];
} {
  const drawings: SheetDrawing[] = [];
  const laidOut = new Map(
    Object.entries(layouts).map(([layout, plan]) => {
      const pages = layOutSheet(plan);
      const first = drawings.length;
      drawings.push(...pages.map(drawingOf));
      return [layout, { pages, first, perPage: plan.perPage }];
    }),
  );
  const perPage = laidOut.values().next().value?.perPage ?? 1;
  const places = placesOnPaper(perPage);
  const instruction = 'Fill in the box of your answer. Rub out cleanly what you do not mean.';
  const placed = sheets.map(({ layout, copy, name, note }) => {
    const { pages, first } = laidOut.get(layout) ?? { pages: [], first: 0 };
    return pages.map((_, i): Unplaced => {
      const text = sheetCodeText({ installation, layout, copy, page: i + 1 });
      return {
        layout,
        copy,
        page: i + 1,
        laidOut: pages[i] as SheetPage,
        drawing: first + i,
        title,
        name: name ?? '',
        note,
        says: pages.length > 1 ? `Page ${i + 1} of ${pages.length}. ${instruction}` : instruction,
        code: codeSvg(text),
        spelled: codeInGroups(text),
      };
    });
  });
  const papers: LaidSheet[][] = [];
  if (perPage === 1)
    for (const own of placed) {
      papers.push(...own.map((one) => [{ ...one, ...(places[0] as Place) }]));
      if (bothSides && own.length % 2 === 1) papers.push([]);
    }
  else {
    // Pages of several sheets stand together, so that a stack can be cut: all first pages, then all second ones.
    const most = Math.max(...placed.map((own) => own.length));
    const all = Array.from({ length: most }, (_, i) => placed.flatMap((own) => own[i] ?? [])).flat();
    for (let from = 0; from < all.length; from += perPage)
      papers.push(all.slice(from, from + perPage).map((one, i) => ({ ...one, ...(places[i] as Place) })));
  }
  return { papers, drawings };
}

/** Prints answer sheets into one PDF. */
export function printAnswerSheets(order: AnswerSheetOrder): Uint8Array {
  const { papers, drawings } = laySheets(order);
  const bare = papers.map((own) => own.map(({ laidOut: _, ...sheet }) => sheet));
  return typesetData({ title: order.title, drawings, papers: bare });
}

type Unplaced = Omit<LaidSheet, 'x' | 'y'>;

const thousandth = (value: number): number => Math.round(value * 1_000) / 1_000;

/** A page of a sheet as the typesetter draws it. */
function drawingOf(page: SheetPage): SheetDrawing {
  return {
    width: page.width,
    height: page.height,
    head: [page.head.x, page.head.y, page.head.width, page.head.height],
    code: [page.code.x, page.code.y, page.code.side],
    corners: page.corners.flatMap(({ x, y }, i) => [
      x,
      y,
      page.cornerSide,
      ...(i === 0 ? [x, y, page.cornerSide * openPart] : []),
    ]),
    boxes: page.boxes.flatMap(({ x, y, side }) => [thousandth(x), thousandth(y), thousandth(side)]),
    strokes: page.strokes.map(({ from, to }) => [from.x, from.y, to.x, to.y]),
    labels: page.labels.map(({ x, y, size, align, strong, text }) => [x, y, size, align, strong === true, text]),
  };
}

/** A printed code as a drawing, without the white around it: that is part of the sheet's geometry. */
function codeSvg(text: string): string {
  const { modules } = create(text, { errorCorrectionLevel: 'Q' });
  let path = '';
  for (let y = 0; y < modules.size; y++)
    for (let x = 0; x < modules.size; x++) {
      if (!modules.get(y, x)) continue;
      let wide = 1;
      while (x + wide < modules.size && modules.get(y, x + wide)) wide += 1;
      path += `M${x} ${y}h${wide}v1h-${wide}z`;
      x += wide;
    }
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${modules.size} ${modules.size}"><path d="${path}" fill="#000"/></svg>`;
}
