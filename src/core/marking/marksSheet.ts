import { pointsSaid } from '../base/words';
import { pointsProblem } from './marks';

/** The columns of a marks sheet. Those that are read back are found by these names, in any order. */
export const sheetColumns = ['Answer', 'Question', 'Paper', 'Words', 'Out of', 'Points', 'Comment', 'State'] as const;

/** At most so many rows of a sheet are read. */
export const mostSheetRows = 60_000;

/** An answer that a sheet can name. */
export type SheetAnswer = {
  slotId: string;
  code: string;
  outOf: number;
  points: number | null;
  comment: string;
  /** What the answer and its mark were, in a word that changes with either. */
  state: string;
};

/** What one row of a sheet says. */
export type SheetRow = {
  /** Its number in the file, from 1. */
  line: number;
  code: string;
} & (
  | { kind: 'change'; slotId: string; from: number | null; points: number; comment: string }
  | { kind: 'same' | 'empty' }
  | { kind: 'wrong'; why: WhyWrong; message: string }
);

/** Why a row cannot be taken. */
type WhyWrong =
  | 'nameless'
  | 'unknown'
  | 'twice'
  | 'formula'
  | 'no-number'
  | 'out-of-range'
  | 'no-points'
  | 'changed-since';

type ReadSheet = { ok: true; rows: SheetRow[] } | { ok: false; message: string };

const tidy = (text: string | undefined): string => (text ?? '').trim();
const known = (name: string): string => name.toLowerCase().replace(/[^a-z]/g, '');

/** A number as people write it into a cell, with point or comma; null where it is none. */
function cellNumber(text: string): number | null {
  return /^[-+]?\d+(?:[.,]\d+)?$/.test(text) ? Number(text.replace(',', '.')) : null;
}

/**
 * Reads a marks sheet against the answers of a sitting: what each row would change, and what is wrong with it. Rows may
 * stand in any order and be missing; an empty cell of points leaves the answer as it is, unless a comment stands beside it: that
 * is taken where the answer has points, and asked about where it has none. Nothing is decided here about
 * rows that name the same answer twice: both are wrong.
 *
 * @param table the cells as texts, the names of the columns among the first ten rows
 */
export function readMarksSheet(table: readonly (readonly string[])[], answers: readonly SheetAnswer[]): ReadSheet {
  const head = table.slice(0, 10).findIndex((row) => row.some((cell) => known(cell) === 'answer'));
  const names = (table[head] ?? []).map(known);
  const at = (name: (typeof sheetColumns)[number]) => names.indexOf(known(name));
  if (head < 0 || at('Points') < 0)
    return {
      ok: false,
      message:
        'This is no marks sheet: it needs a row with the names of the columns, “Answer” and “Points” among them.',
    };
  if (table.length - head - 1 > mostSheetRows)
    return { ok: false, message: `At most ${mostSheetRows} rows are read; this sheet has ${table.length - head - 1}.` };
  const byCode = new Map(answers.map((one) => [one.code, one]));
  const firstLine = new Map<string, number>();
  const twice = new Set<string>();
  for (let i = head + 1; i < table.length; i++) {
    const code = tidy(table[i]?.[at('Answer')]).toLowerCase();
    if (!code) continue;
    if (firstLine.has(code)) twice.add(code);
    else firstLine.set(code, i + 1);
  }
  const rows: SheetRow[] = [];
  for (let i = head + 1; i < table.length; i++) {
    const cells = table[i] as readonly string[];
    if (cells.every((cell) => tidy(cell) === '')) continue;
    const cell = (name: (typeof sheetColumns)[number]) => (at(name) < 0 ? '' : tidy(cells[at(name)]));
    const code = cell('Answer').toLowerCase();
    const line = i + 1;
    const wrong = (why: WhyWrong, message: string) => rows.push({ line, code, kind: 'wrong', why, message });
    const answer = byCode.get(code);
    const comment = at('Comment') < 0 ? (answer?.comment ?? '') : cell('Comment');
    const isCommented = comment !== '' && comment !== answer?.comment.trim();
    // A comment by itself leaves the points as they are.
    const points = cell('Points') || (isCommented && answer?.points != null ? String(answer.points) : '');
    const number = cellNumber(points);
    if (!code) wrong('nameless', 'No answer is named in this row.');
    else if (!answer) wrong('unknown', 'There is no such answer in this sitting.');
    else if (twice.has(code))
      wrong('twice', `This answer is named in more than one row, first in row ${firstLine.get(code)}.`);
    else if (points === '' && isCommented)
      wrong('no-points', 'A comment stands here and no points: give the points, too.');
    else if (points === '') rows.push({ line, code, kind: 'empty' });
    else if (points.startsWith('='))
      wrong('formula', 'A formula stands in the cell of the points; put the number there.');
    else if (number === null) wrong('no-number', `“${points.slice(0, 40)}” is no number.`);
    else if (pointsProblem(number, answer.outOf) !== null)
      wrong('out-of-range', pointsProblem(number, answer.outOf) as string);
    else if (at('State') >= 0 && cell('State') !== answer.state)
      wrong(
        'changed-since',
        answer.points === null
          ? 'The answer has changed since the sheet was made, or its mark was taken back.'
          : `Someone has given this answer ${pointsSaid(answer.points)} since the sheet was made.`,
      );
    else {
      const same =
        answer.points !== null && Math.abs(answer.points - number) < 1e-9 && comment === answer.comment.trim();
      if (same) rows.push({ line, code, kind: 'same' });
      else
        rows.push({ line, code, kind: 'change', slotId: answer.slotId, from: answer.points, points: number, comment });
    }
  }
  return { ok: true, rows };
}
