import { richText } from '../base/rich';
import { choiceLabel } from '../question/choiceLabel';
import type { QuestionResponse, ResponseOf, ShownQuestion, ViewOf } from '../question/student';
import type { QuestionType } from '../question/types';
import type { Rubric } from '../question/types/written/content';
import { numberRead } from './judgeMarks';
import { rubricRows } from './markRows';
import type { SheetRow } from './sheetRow';

/** What the rows of a question say together: a response, nothing, or what cannot be one and waits for a person. */
export type RowsSaid<Response = QuestionResponse> = { response: Response } | { empty: true } | { unclear: string };

/** How a question is answered on an answer sheet: by rows of boxes, whose signs are read as a response. */
type OnSheet<Type extends QuestionType> = {
  /** Rows without their labels; null where only a person can read the answer, and enters points for it. */
  rows: (view: ViewOf<Type>) => DraftRow[] | null;
  said: (view: ViewOf<Type>, filled: readonly (readonly string[])[]) => RowsSaid<ResponseOf<Type>>;
};
type DraftRow = SheetRow extends infer Row ? (Row extends SheetRow ? Omit<Row, 'label'> : never) : never;

/** As many boxes as fit on a row of a quarter sheet. */
const mostBoxes = 10;

const choiceRow = (options: readonly string[], several = false): DraftRow => ({
  kind: 'choice',
  options: [...options],
  several,
});
const byLetter = (count: number): string[] => Array.from({ length: count }, (_, i) => choiceLabel(undefined, i));
const byFigure = (count: number): string[] => Array.from({ length: count }, (_, i) => String(i + 1));
const fits = (options: readonly string[]): boolean =>
  options.length >= 2 &&
  options.length <= mostBoxes &&
  new Set(options).size === options.length &&
  options.every((one) => one.length >= 1 && one.length <= 4);

type Choices = ViewOf<'single-choice' | 'multiple-choice'>;
/** The signs of choices as they stand on the paper; where they have no labels, their own words if these are signs. */
const choiceSigns = (view: Choices): string[] => {
  const labelled = view.choices.map((choice, i) =>
    view.labels === 'none' ? richText(choice.content).trim() : choiceLabel(view.labels, i),
  );
  return fits(labelled) ? labelled : byLetter(view.choices.length);
};
const choiceRows = (view: Choices, several: boolean): DraftRow[] | null => {
  const signs = choiceSigns(view);
  return fits(signs) ? [choiceRow(signs, several)] : null;
};
const keysOf = (view: Choices, filled: readonly string[]): string[] => {
  const signs = choiceSigns(view);
  return view.choices.filter((_, i) => filled.includes(signs[i] as string)).map((choice) => choice.key);
};

const byHand = { rows: () => null, said: () => ({ empty: true as const }) };

/** How each type is answered on a sheet. */
const onSheet: { [Type in QuestionType]: OnSheet<Type> } = {
  'single-choice': {
    rows: (view) => choiceRows(view, false),
    said(view, filled) {
      const [picked] = keysOf(view, filled[0] ?? []);
      return picked === undefined ? { empty: true } : { response: { picked } };
    },
  },
  'multiple-choice': {
    rows: (view) => choiceRows(view, true),
    said(view, filled) {
      const picked = keysOf(view, filled[0] ?? []);
      return picked.length === 0 ? { empty: true } : { response: { picked } };
    },
  },
  'true-false': {
    rows: () => [choiceRow(['T', 'F'])],
    said: (_, filled) => (filled[0]?.[0] ? { response: { picked: filled[0][0] === 'T' } } : { empty: true }),
  },
  numeric: {
    rows: (view) =>
      // A unit of one's own is a word, which boxes cannot hold; of several, which one is meant would be left open.
      view.unit === 'none' || (Array.isArray(view.unit) && view.unit.length === 1)
        ? [{ kind: 'number', ...usualGrid }]
        : null,
    said(view, filled) {
      const text = numberRead(filled[0] ?? []);
      if (text === '') return { empty: true };
      return { response: Array.isArray(view.unit) ? { text, unit: view.unit[0] as string } : { text } };
    },
  },
  'gap-fill': {
    rows: (view) =>
      view.gaps.every((gap) => gap.kind === 'pick' && gap.options.length >= 2 && gap.options.length <= mostBoxes)
        ? view.gaps.map((gap) => choiceRow(byLetter(gap.kind === 'pick' ? gap.options.length : 2)))
        : null,
    said(view, filled) {
      const gaps: Record<string, string> = {};
      for (const [i, gap] of view.gaps.entries()) {
        const [sign] = filled[i] ?? [];
        if (gap.kind !== 'pick' || sign === undefined) continue;
        const option = gap.options[byLetter(gap.options.length).indexOf(sign)];
        if (option) gaps[gap.id] = option.key;
      }
      return Object.keys(gaps).length === 0 ? { empty: true } : { response: { gaps } };
    },
  },
  matching: {
    rows: (view) =>
      view.options.length >= 2 && view.options.length <= mostBoxes
        ? view.prompts.map(() => choiceRow(byLetter(view.options.length)))
        : null,
    said(view, filled) {
      const pairs: Record<string, string> = {};
      for (const [i, prompt] of view.prompts.entries()) {
        const [sign] = filled[i] ?? [];
        const option = sign === undefined ? undefined : view.options[byLetter(view.options.length).indexOf(sign)];
        if (option) pairs[prompt.key] = option.key;
      }
      return Object.keys(pairs).length === 0 ? { empty: true } : { response: { pairs } };
    },
  },
  ordering: {
    rows: (view) =>
      view.items.length <= mostBoxes ? view.items.map(() => choiceRow(byFigure(view.items.length))) : null,
    said(view, filled) {
      const places = view.items.map((_, i) => Number(filled[i]?.[0] ?? 0));
      if (places.every((place) => place === 0)) return { empty: true };
      if (new Set(places).size < places.length || places.includes(0))
        return { unclear: 'every place from 1 on has to be given once.' };
      return { response: { order: places.map((_, place) => view.items[places.indexOf(place + 1)]?.key as string) } };
    },
  },
  'rating-scale': {
    rows: (view) => {
      const signs = [...byFigure(view.steps), ...(view.cannotSay ? ['–'] : [])];
      return fits(signs) ? [choiceRow(signs)] : null;
    },
    said(_, filled) {
      const [sign] = filled[0] ?? [];
      if (sign === undefined) return { empty: true };
      return { response: { step: sign === '–' ? 0 : Number(sign) } };
    },
  },
  'short-text': byHand,
  written: byHand,
  date: byHand,
};

const definitionFor = (view: ShownQuestion) => onSheet[view.type] as OnSheet<QuestionType>;

/** The rows of a question on an answer sheet, and whether they are points that whoever marks it fills in. */
export type QuestionRows = { rows: SheetRow[]; byHand: boolean };

/** How number grids are: how many columns, and which signs besides figures. */
export type NumberGrid = Pick<
  Extract<SheetRow, { kind: 'number' }>,
  'columns' | 'sign' | 'point' | 'fraction' | 'exponent'
>;
/** How number grids are unless whoever prints says otherwise. */
export const usualGrid: NumberGrid = { columns: 6, sign: true, point: true, fraction: false, exponent: false };

/** What of a question decides its rows, besides what its student sees. */
type RowsFor = {
  /** The number of the question on its paper, from 1. */
  number: number;
  /** What it is worth; where it is marked by hand in boxes, up to 100, with halves. */
  points: number;
  /** By which it is marked, if by any. */
  rubric: Rubric | null;
  grid: NumberGrid;
};

/** The rows of what boxes cannot hold: whoever marks fills in the levels of its rubric, or points. */
const markRows = ({ points, rubric }: RowsFor): DraftRow[] =>
  rubric
    ? rubricRows(rubric, points)
    : [{ kind: 'points', most: Math.min(100, Math.max(1, Math.ceil(points))), halves: true }];

/**
 * The rows on which a question is answered. What boxes cannot hold is answered on the paper itself, and whoever marks it
 * fills in its points or the levels of its rubric.
 */
export function rowsOfQuestion(view: ShownQuestion, setting: RowsFor): QuestionRows {
  const answers = definitionFor(view).rows(view);
  const drafts = answers ?? markRows(setting);
  const several = drafts.length > 1;
  const letters = byLetter(drafts.length).map((letter) => letter.toLowerCase());
  return {
    rows: drafts.map(
      (draft, i): SheetRow => ({
        ...draft,
        ...(draft.kind === 'number' ? setting.grid : {}),
        label: several ? `${setting.number}${letters[i]}` : String(setting.number),
      }),
    ),
    byHand: answers === null,
  };
}

/**
 * What the rows of a question say as a response to it.
 *
 * @param filled for each of its rows, the signs of the boxes that are filled
 */
export const responseOnSheet = (view: ShownQuestion, filled: readonly (readonly string[])[]): RowsSaid =>
  definitionFor(view).said(view, filled);
