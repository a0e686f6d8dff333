import { type SheetPage, studentRow } from './sheetLayout';
import { boxLabels, figuresOnly, gridSigns, type SheetPlan, type SheetRow } from './sheetRow';

/**
 * Boxes as dark as this are filled; as light as that, empty; between the two is doubt. In a row of choices in which nothing
 * is filled a box has to be lighter still: a hand that hardly pressed would else be taken for none. Chosen on simulated
 * pages.
 */
export const thresholds = { filled: 0.25, empty: 0.075, emptyAlone: 0.05 };

/** What a box shows. */
export type BoxState = 'filled' | 'empty' | 'doubtful';
/** Judges how dark a box is. @example boxState(0.6) // 'filled' */
export const boxState = (darkness: number): BoxState =>
  darkness >= thresholds.filled ? 'filled' : darkness <= thresholds.empty ? 'empty' : 'doubtful';

/** Why a row cannot be decided without a person. */
export type Doubt = 'faint' | 'two-marks' | 'gap' | 'no-unit' | 'two-entries';

/** A row as it was read: the labels of what is filled, in order; for a number grid one sign for each column, '' for none. */
export type RowReading = {
  row: number;
  filled: string[];
  doubt: Doubt | null;
  /** What was typed the second time, where it was something else. */
  other?: string[];
};

/** The rows that begin on a page, each with what its boxes show. */
export function judgePage(plan: SheetPlan, page: SheetPage, darkness: ArrayLike<number>): RowReading[] {
  const byRow = new Map<number, (Box & { darkness: number })[]>();
  for (const [i, box] of page.boxes.entries()) {
    const d = darkness[i] as number;
    const one = { column: box.column, option: box.option, state: boxState(d), darkness: d };
    const row = byRow.get(box.row);
    if (row) row.push(one);
    else byRow.set(box.row, [one]);
  }
  return [...byRow].map(([row, boxes]) => {
    if (row === studentRow) return { row, ...judgeGrid(gridSigns(figuresOnly), boxes) };
    const asked = plan.rows[row] as SheetRow;
    const isAlone = asked.kind !== 'number' && boxes.every((box) => box.state !== 'filled');
    const judged = isAlone
      ? boxes.map((box) => (box.darkness > thresholds.emptyAlone ? { ...box, state: 'doubtful' as const } : box))
      : boxes;
    return { row, ...judgeRow(asked, judged) };
  });
}

type Box = { column: number; option: number; state: BoxState };

/**
 * What a row says. A row that must hold one mark is in doubt where none is filled though not all are empty, or where more
 * than one is not empty; a row in which everything is empty was left out. What was rubbed out and what is faint lies
 * between the thresholds, and is never passed over.
 */
export function judgeRow(row: SheetRow, boxes: readonly Box[]): Omit<RowReading, 'row'> {
  if (row.kind === 'number') return judgeGrid(gridSigns(row), boxes);
  const labels = boxLabels(row);
  const stated = labels.map((label, option) => ({
    label,
    state: boxes.find((box) => box.option === option)?.state ?? 'empty',
  }));
  const filled = stated.filter((box) => box.state === 'filled').map((box) => box.label);
  const faint = stated.some((box) => box.state === 'doubtful');
  if (row.kind === 'points') return judgePoints(row.most, filled, faint);
  if (row.kind === 'choice' && row.several) return { filled, doubt: faint ? 'faint' : null };
  return { filled, doubt: faint ? 'faint' : filled.length > 1 ? 'two-marks' : null };
}

function judgePoints(most: number, filled: string[], faint: boolean): Omit<RowReading, 'row'> {
  const whole = filled.filter((label) => label !== '½');
  if (faint) return { filled, doubt: 'faint' };
  if (most <= 10) return { filled, doubt: whole.length > 1 ? 'two-marks' : null };
  const tens = whole.filter((label) => Number(label) >= 10);
  const units = whole.filter((label) => Number(label) < 10);
  if (tens.length > 1 || units.length > 1) return { filled, doubt: 'two-marks' };
  return { filled, doubt: filled.length > 0 && units.length === 0 && tens.length === 1 ? 'no-unit' : null };
}

function judgeGrid(signs: readonly string[], boxes: readonly Box[]): Omit<RowReading, 'row'> {
  const columns = Math.max(...boxes.map((box) => box.column)) + 1;
  const filled: string[] = [];
  let doubt: Doubt | null = null;
  for (let column = 0; column < columns; column++) {
    const own = boxes.filter((box) => box.column === column);
    const marks = own.filter((box) => box.state === 'filled');
    if (own.some((box) => box.state === 'doubtful')) doubt ??= 'faint';
    else if (marks.length > 1) doubt ??= 'two-marks';
    filled.push(marks.length === 1 ? (signs[marks[0]?.option as number] as string) : '');
  }
  // A number has no empty column in its midst.
  if (/[^ ] +[^ ]/.test(filled.map((sign) => sign || ' ').join(''))) doubt ??= 'gap';
  return { filled, doubt };
}

/** The points that a points row says; null where it was left out. */
export function pointsRead(filled: readonly string[]): number | null {
  if (filled.length === 0) return null;
  return filled.reduce((sum, label) => sum + (label === '½' ? 0.5 : Number(label)), 0);
}

/** The number that a grid says, as it would be typed; '' where it was left out. */
export const numberRead = (filled: readonly string[]): string => filled.join('').replace('−', '-');
