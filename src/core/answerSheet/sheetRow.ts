import { z } from 'zod';

const label = z.string().trim().min(1).max(12);
const sign = z.string().trim().min(1).max(4);

/** One of several boxes with a label each. */
const choiceRow = z.object({
  kind: z.literal('choice'),
  label,
  options: z.array(sign).min(2).max(10),
  /** Whether more than one box may be filled. */
  several: z.boolean(),
});

/** Levels of a rubric, from the lowest, one of which is given; the row counts `weight` times. */
const rubricRow = z.object({
  kind: z.literal('rubric'),
  label,
  values: z.array(z.number().min(-1_000).max(1_000)).min(2).max(10),
  weight: z.number().positive().max(100),
});

/** A number, written a figure a column, and filled in below it. */
const numberRow = z.object({
  kind: z.literal('number'),
  label,
  columns: z.number().int().min(1).max(10),
  sign: z.boolean(),
  point: z.boolean(),
  fraction: z.boolean(),
  exponent: z.boolean(),
});

/** Points from 0 to `most`, filled in by whoever marks; with `halves` a box adds half a point. */
const pointsRow = z.object({
  kind: z.literal('points'),
  label,
  most: z.number().int().min(1).max(100),
  halves: z.boolean(),
});

/** What a row of an answer sheet asks for. */
export const sheetRowSchema = z.discriminatedUnion('kind', [choiceRow, rubricRow, numberRow, pointsRow]);
/** What a row asks for: a choice, a level of a rubric, a number, or points. */
export type SheetRow = z.infer<typeof sheetRowSchema>;

/** Everything that decides where the boxes of an answer sheet are: what is kept with a printed sheet, and read by. */
export const sheetPlanSchema = z.object({
  /** Raised when the geometry changes; what was printed is read by the geometry of its own version. */
  version: z.literal(1),
  /** The size of boxes and labels in percent of the usual size. */
  size: z.number().int().min(70).max(120),
  /** How many sheets stand on a page of A4. */
  perPage: z.union([z.literal(1), z.literal(2), z.literal(4)]),
  /** Columns of the number grid for the student's number; 0 for a sheet that is made out. */
  studentColumns: z.number().int().min(0).max(10),
  rows: z.array(sheetRowSchema).min(1).max(500),
});
/** The plan of a sheet: its rows, their size, and how many sheets share a page. */
export type SheetPlan = z.infer<typeof sheetPlanSchema>;

/** The signs of a number grid, from the top of a column: those that are asked for, then the figures. */
export function gridSigns(row: {
  sign: boolean;
  point: boolean;
  fraction: boolean;
  exponent: boolean;
}): readonly string[] {
  return [
    ...(row.sign ? ['−'] : []),
    ...(row.point ? ['.'] : []),
    ...(row.fraction ? ['/'] : []),
    ...(row.exponent ? ['E'] : []),
    ...'0123456789',
  ];
}

/** What the boxes of a points row say: 0 to 10, or tens and units where it goes further; ½ where halves are given. */
export function pointsSigns({ most, halves }: { most: number; halves: boolean }): readonly string[] {
  const upTo = (last: number) => Array.from({ length: last + 1 }, (_, i) => String(i));
  const whole =
    most <= 10
      ? upTo(most)
      : [...Array.from({ length: Math.floor(most / 10) }, (_, i) => String((i + 1) * 10)), ...upTo(9)];
  return halves ? [...whole, '½'] : whole;
}

/** The boxes of a row that is no grid, by what stands beside them. */
export function boxLabels(row: Exclude<SheetRow, { kind: 'number' }>): readonly string[] {
  if (row.kind === 'choice') return row.options;
  return row.kind === 'rubric' ? row.values.map(String) : pointsSigns(row);
}

/** A number grid in which only figures stand: of the student's number. */
export const figuresOnly = { sign: false, point: false, fraction: false, exponent: false } as const;

/**
 * Why these signs cannot be what a row says; null where they can.
 *
 * @param row null for the student's number
 * @param signs for a number grid one for each column, '' for none
 */
export function signsDoNotFit(row: SheetRow | null, signs: readonly string[]): string | null {
  const known = row && row.kind !== 'number' ? boxLabels(row) : ['', ...gridSigns(row ?? figuresOnly)];
  if (signs.some((sign) => !known.includes(sign))) return 'This row has no such box.';
  const takesOne = row?.kind === 'rubric' || (row?.kind === 'choice' && !row.several);
  return takesOne && signs.length > 1 ? 'This row takes one mark.' : null;
}
