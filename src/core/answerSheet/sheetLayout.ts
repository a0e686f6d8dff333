import { boxLabels, figuresOnly, gridSigns, type SheetPlan, type SheetRow } from './sheetRow';

/** A place on a sheet, in millimetres from its upper left corner. */
export type Place = { x: number; y: number };

/** A box to be filled in: its centre, its side, and what it means. */
export type SheetBox = Place & {
  side: number;
  /** The row, from 0; -1 for the student's number. */
  row: number;
  /** The column of a number grid, else 0. */
  column: number;
  /** Which of the row's signs or options it stands for, from 0. */
  option: number;
};

/** Words on a sheet; `y` is the middle of their letters, `size` the height of the letters' line. */
export type SheetLabel = Place & { text: string; size: number; align: 'left' | 'center' | 'right'; strong?: boolean };

/** A stroke of the ruler that runs along a column, at the middle of a row, or the ruler itself. */
export type SheetStroke = { from: Place; to: Place };

/** One page of a sheet. All measures in millimetres from its upper left corner. */
export type SheetPage = {
  width: number;
  height: number;
  /** Centres of the corner marks: upper left (open in its middle), upper right, lower left, lower right (filled). */
  corners: [Place, Place, Place, Place];
  cornerSide: number;
  /** The square of the code: its upper left corner and its side. */
  code: Place & { side: number };
  /** Where title, name and section stand. */
  head: Place & { width: number; height: number };
  boxes: SheetBox[];
  labels: SheetLabel[];
  strokes: SheetStroke[];
};

/** A page of A4 without the edge that printers leave white, and the room of a sheet on it by how many share it. */
export const paper = { width: 210, height: 297, edge: 8 };
const rooms = {
  1: { width: 194, height: 281 },
  2: { width: 194, height: 138 },
  4: { width: 95, height: 138 },
} as const;

/** Measures at 100 %, in millimetres. */
const usual = {
  box: 3.8,
  row: 6.4,
  /** From one figure of a number grid to the one below. */
  gridRow: 5,
  gridColumn: 5.6,
  /** Between the columns of rows. */
  gutter: 7,
  number: 9,
  letter: 3.1,
  /** From the end of one box to the label of the next. */
  apart: 1.7,
};
const fixed = { corner: 5, code: 17, head: 20, gap: 3 };

/** About how wide a label is, in parts of its height; for room, not for print. */
const widthOf = (text: string): number =>
  [...text].reduce((sum, sign) => sum + (/[.,/ilj1|]/.test(sign) ? 0.45 : 0.62), 0);

type Part = {
  height: number;
  width: number;
  at: (x: number, y: number) => Pick<SheetPage, 'boxes' | 'labels' | 'strokes'>;
};

/** The place of each sheet on a page of A4, from the page's upper left corner. */
export function placesOnPaper(perPage: SheetPlan['perPage']): Place[] {
  const { width, height } = rooms[perPage];
  const across = perPage === 4 ? 2 : 1;
  const down = perPage === 1 ? 1 : 2;
  const gapX = across === 1 ? 0 : paper.width - 2 * paper.edge - across * width;
  const gapY = down === 1 ? 0 : paper.height - 2 * paper.edge - down * height;
  return Array.from({ length: perPage }, (_, i) => ({
    x: paper.edge + (i % across) * (width + gapX),
    y: paper.edge + Math.floor(i / across) * (height + gapY),
  }));
}

/** Where each part of a sheet begins, and the rulers along its columns. */
type Placing = {
  pages: number;
  parts: { part: Part; page: number; x: number; y: number }[];
  rulers: { page: number; x: number; from: number; to: number }[];
};

function placed(plan: SheetPlan): Placing {
  const scale = plan.size / 100;
  const room = rooms[plan.perPage];
  const parts = [
    ...(plan.studentColumns ? [studentPart(plan.studentColumns, scale)] : []),
    ...plan.rows.map((row, i) => rowPart(row, i, scale)),
  ];
  const left = fixed.corner + fixed.gap;
  const right = room.width - left;
  const top = left + fixed.head;
  const bottom = room.height - left;
  const gutter = usual.gutter * scale;
  const placing: Placing = { pages: 1, parts: [], rulers: [] };
  // A column is as wide as the widest of its rows, so that a wide row takes no room from the others.
  let column = { x: left, width: 0 };
  let y = top;
  const endRuler = () => {
    if (y > top) placing.rulers.push({ page: placing.pages - 1, x: column.x, from: top, to: y });
  };
  for (const part of parts) {
    const isFull = y + part.height > bottom || column.x + part.width > right;
    if (y > top && isFull) {
      endRuler();
      column = { x: column.x + column.width + gutter, width: 0 };
      y = top;
      if (column.x + part.width > right) {
        placing.pages++;
        column = { x: left, width: 0 };
      }
    }
    placing.parts.push({ part, page: placing.pages - 1, x: column.x, y });
    column.width = Math.max(column.width, part.width);
    y += part.height;
  }
  endRuler();
  return placing;
}

/** How many pages a sheet has: as many as {@link layOutSheet} gives, without laying them out. */
export const pagesOfSheet = (plan: SheetPlan): number => placed(plan).pages;

/**
 * Where everything stands on an answer sheet. Printer and reader both take it from here, so that what was printed can be
 * read: the same plan gives the same places for ever; another geometry is another version of the plan.
 *
 * @returns the pages of the sheet, the first of them with the student's number where there is one
 */
export function layOutSheet(plan: SheetPlan): SheetPage[] {
  const placing = placed(plan);
  const pages = Array.from({ length: placing.pages }, () => emptyPage(plan));
  for (const { part, page, x, y } of placing.parts) {
    const { boxes, labels, strokes } = part.at(x, y);
    pages[page]?.boxes.push(...boxes);
    pages[page]?.labels.push(...labels);
    pages[page]?.strokes.push(...strokes);
  }
  for (const { page, x, from, to } of placing.rulers)
    pages[page]?.strokes.push({ from: { x, y: from }, to: { x, y: to } });
  return pages;
}

/** What does not fit on a sheet of this size, in words; null where everything fits. */
export function doesNotFit(plan: SheetPlan): string | null {
  const room = rooms[plan.perPage];
  const scale = plan.size / 100;
  const width = room.width - 2 * (fixed.corner + fixed.gap);
  const height = room.height - 2 * (fixed.corner + fixed.gap) - fixed.head;
  for (const [i, row] of plan.rows.entries()) {
    const part = rowPart(row, i, scale);
    if (part.width > width || part.height > height)
      return `Row ${row.label} is larger than ${plan.perPage === 1 ? 'a page' : 'its part of the page'}: choose a smaller size${plan.perPage === 1 ? '' : ', or fewer to a page'}.`;
  }
  const student = plan.studentColumns ? studentPart(plan.studentColumns, scale) : null;
  if (student && (student.width > width || student.height > height))
    return 'The grid for the student’s number has no room: choose a smaller size, or fewer to a page.';
  return null;
}

function emptyPage({ perPage }: SheetPlan): SheetPage {
  const { width, height } = rooms[perPage];
  const half = fixed.corner / 2;
  return {
    width,
    height,
    corners: [
      { x: half, y: half },
      { x: width - half, y: half },
      { x: half, y: height - half },
      { x: width - half, y: height - half },
    ],
    cornerSide: fixed.corner,
    code: { x: fixed.corner + fixed.gap, y: 0, side: fixed.code },
    head: {
      x: fixed.corner + fixed.gap + fixed.code + 4,
      y: 0,
      width: width - 2 * (fixed.corner + fixed.gap) - fixed.code - 4,
      height: fixed.head,
    },
    boxes: [],
    labels: [],
    strokes: [],
  };
}

const tick = (x: number, y: number, scale: number): SheetStroke => ({ from: { x, y }, to: { x: x + 1.8 * scale, y } });

function rowPart(row: SheetRow, index: number, scale: number): Part {
  if (row.kind === 'number') return gridPart(row.label, row.columns, gridSigns(row), index, scale);
  const labels = boxLabels(row);
  const letter = usual.letter * scale;
  const box = usual.box * scale;
  const widest = Math.max(...labels.map(widthOf)) * letter;
  const pitch = widest + 0.8 * scale + box + usual.apart * scale;
  const height = usual.row * scale;
  return {
    height,
    width: (2.4 + usual.number) * scale + labels.length * pitch,
    at: (x, y) => {
      const middle = y + height / 2;
      const from = x + (2.4 + usual.number) * scale;
      return {
        strokes: [tick(x, middle, scale)],
        labels: [
          { x: x + 2.6 * scale, y: middle, text: row.label, size: letter, align: 'left', strong: true },
          ...labels.map(
            (text, i): SheetLabel => ({ x: from + i * pitch + widest, y: middle, text, size: letter, align: 'right' }),
          ),
        ],
        boxes: labels.map((_, option) => ({
          x: from + option * pitch + widest + 0.8 * scale + box / 2,
          y: middle,
          side: box,
          row: index,
          column: 0,
          option,
        })),
      };
    },
  };
}

function gridPart(name: string, columns: number, signs: readonly string[], index: number, scale: number): Part {
  const letter = usual.letter * scale;
  const box = usual.box * scale;
  const down = usual.gridRow * scale;
  const across = usual.gridColumn * scale;
  const head = 7.4 * scale;
  return {
    height: head + signs.length * down + 2.4 * scale,
    width: (2.4 + usual.number) * scale + columns * across + letter,
    at: (x, y) => {
      const from = x + (2.4 + usual.number) * scale;
      const middleOf = (row: number) => y + head + (row + 0.5) * down;
      const centre = (column: number) => from + letter + (column + 0.5) * across;
      const top = y + 1.2 * scale;
      const line = y + head - 1.2 * scale;
      return {
        strokes: [
          tick(x, y + head / 2, scale),
          // A frame above each column, to write the figure into.
          ...Array.from({ length: columns + 1 }, (_, i): SheetStroke => {
            const at = from + letter + i * across;
            return { from: { x: at, y: top }, to: { x: at, y: line } };
          }),
          { from: { x: from + letter, y: line }, to: { x: from + letter + columns * across, y: line } },
          { from: { x: from + letter, y: top }, to: { x: from + letter + columns * across, y: top } },
        ],
        labels: [
          { x: x + 2.6 * scale, y: y + head / 2, text: name, size: letter, align: 'left', strong: true },
          ...signs.map(
            (text, i): SheetLabel => ({ x: from + letter * 0.8, y: middleOf(i), text, size: letter, align: 'right' }),
          ),
        ],
        boxes: Array.from({ length: columns }, (_, column) =>
          signs.map(
            (_sign, option): SheetBox => ({
              x: centre(column),
              y: middleOf(option),
              side: box,
              row: index,
              column,
              option,
            }),
          ),
        ).flat(),
      };
    },
  };
}

/** The row of the student's number. */
export const studentRow = -1;

const studentPart = (columns: number, scale: number): Part =>
  gridPart('No.', columns, gridSigns(figuresOnly), studentRow, scale);
