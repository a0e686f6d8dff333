import { unguarded } from '../../base/csv';
import { richText } from '../../base/rich';
import { type QuestionContent, questionContent } from '../../question/content';
import { definitionOf, questionTypeNames } from '../../question/definitions';
import type { QuestionType } from '../../question/types';
import { type Brought, blankBrought } from './brought';
import { buildQuestion } from './build';
import { longestLooked } from './line';
import { choicesInRow, type Marked, markedLine } from './marker';
import { readNotes } from './readNotes';

/** What a column of a table can hold. */
export const tableFields = [
  'text',
  'choice',
  'wrong',
  'answer',
  'name',
  'category',
  'points',
  'difficulty',
  'tags',
  'objectives',
  'solution',
  'hint',
  'type',
  'definition',
  'ignore',
] as const;
/** One thing that a column of a table can hold. */
export type TableField = (typeof tableFields)[number];

/** What each kind of column is called where an instructor assigns columns. */
export const tableFieldNames: Record<TableField, string> = {
  text: 'question text',
  choice: 'a choice',
  wrong: 'a wrong choice',
  answer: 'right answer',
  name: 'short name',
  category: 'category',
  points: 'points',
  difficulty: 'difficulty',
  tags: 'tags',
  objectives: 'objectives',
  solution: 'worked solution',
  hint: 'hint',
  type: 'type (for reading)',
  definition: 'definition, exact',
  ignore: 'leave out',
};

const guesses: [TableField, RegExp][] = [
  ['definition', /^definition/],
  ['ignore', /^(#|no\.?|nr\.?|number|(question|item)\s*(no\.?|nr\.?|number|#|id))$/],
  ['wrong', /distractor|wrong|incorrect|false/],
  ['answer', /answer|correct|right|key|solution letter/],
  ['choice', /^(choice|option|alternative)|^[a-t][).]?$/],
  ['text', /question|text|stem|prompt|statement/],
  ['name', /name|title|label|id$/],
  ['category', /category|chapter|topic|section/],
  ['points', /point|mark|score|worth/],
  ['difficulty', /difficult|level/],
  ['tags', /tag|keyword/],
  ['objectives', /objective|standard|outcome/],
  ['solution', /solution|explanation|feedback|rationale/],
  ['hint', /hint/],
  ['type', /type|kind/],
];

/** What each column most likely holds, by its heading. */
export function guessColumns(headings: readonly string[]): TableField[] {
  let text = false;
  return headings.map((heading) => {
    const said = heading.trim().toLowerCase();
    const field = guesses.find(([, pattern]) => pattern.test(said))?.[0] ?? 'ignore';
    if (field === 'text' && text) return 'ignore';
    if (field === 'text') text = true;
    return field;
  });
}

/** A table whose columns are told apart, headings first; `hasHeadings` is false where its first row is a question. */
export type KnownTable = { headings: string[]; rows: string[][]; fields: TableField[]; hasHeadings: boolean };

/**
 * A table of questions with what its columns hold, by its headings, or by what stands in them where it has none.
 *
 * @returns null where these cells are no table of questions
 */
export function knownTable(table: readonly (readonly string[])[]): KnownTable | null {
  const [first, ...rest] = table.map((row) => row.map((cell) => unguarded(cell).trim()));
  if (!first || first.length < 2) return null;
  const fields = guessColumns(first);
  const text = first[fields.indexOf('text')] ?? '';
  const isHeading = fields.includes('text') && text.length <= 40 && !text.endsWith('?');
  if (isHeading) return rest.length > 0 ? { headings: first, rows: rest, fields, hasHeadings: true } : null;
  const rows = [first, ...rest];
  const found = columnsByContent(rows);
  return found && { headings: first.map((_, i) => `column ${i + 1}`), rows, fields: found, hasHeadings: false };
}

/** Columns without headings: the longest words are the question, a last column of letters or of choices is the key. */
function columnsByContent(rows: readonly (readonly string[])[]): TableField[] | null {
  const width = rows[0]?.length ?? 0;
  if (width < 3 || rows.some((row) => row.length !== width)) return null;
  const lengths = Array.from(
    { length: width },
    (_, i) => rows.reduce((sum, row) => sum + (row[i] ?? '').length, 0) / rows.length,
  );
  const text = lengths.indexOf(Math.max(...lengths));
  const isKey = rows.every((row) => {
    const key = row[width - 1] ?? '';
    return /^[a-h]$/i.test(key) || row.slice(text + 1, -1).some((cell) => cell !== '' && cell === key);
  });
  if (!isKey || text >= width - 1 || (lengths[text] ?? 0) < 10) return null;
  return Array.from({ length: width }, (_, i) =>
    i < text ? 'ignore' : i === text ? 'text' : i === width - 1 ? 'answer' : 'choice',
  );
}

/** What stands for a cell that holds a formula without its value. */
export const formulaWithoutValue = '⟨a formula without its value⟩';

/** The most rows that are read from one table. */
export const mostRows = 5_000;

/**
 * Reads a table with headings, one question in each row. Where a row carries a definition, it is taken as it is, unless
 * the readable columns beside it have been changed: then they hold.
 */
export function readTable(
  rows: readonly (readonly string[])[],
  columns: readonly TableField[],
  hasHeadings = true,
): Brought[] {
  const answers = columns.indexOf('answer');
  // Keys that count from 0 would all be read one too low.
  const fromZero = columns.includes('choice') && rows.some((row) => row[answers]?.trim() === '0');
  return rows.flatMap((cells, i): Brought[] => {
    const row = cells.map((cell) => unguarded(cell).trim());
    if (row.every((cell) => cell === '')) return [];
    // The headings are row 1.
    const brought = readRow(row, columns, i + (hasHeadings ? 2 : 1));
    if (fromZero && /^\d+$/.test(row[answers] ?? ''))
      brought.problems.push({
        severity: 'ask',
        message: 'A key of this table is 0: do the keys count choices from 0?',
      });
    return [brought];
  });
}

function readRow(row: readonly string[], columns: readonly TableField[], at: number): Brought {
  const brought = blankBrought(at);
  const first = (field: TableField) => row[columns.indexOf(field)] || undefined;
  const choices = columns.flatMap((field, i) => (field === 'choice' && row[i] ? [row[i] as string] : []));
  const text = first('text') ?? '';
  brought.title = text.split('\n')[0]?.slice(0, 120) ?? '';
  readNotes(
    {
      name: first('name'),
      category: first('category'),
      point: first('points'),
      difficulty: first('difficulty'),
      tag: first('tags'),
      objective: first('objectives'),
    },
    brought,
  );
  const given = {
    text,
    choices,
    answer: first('answer') ?? '',
    solution: first('solution') ?? '',
    hint: first('hint') ?? '',
  };
  const definition = first('definition');
  if (definition) {
    const defined = readDefinition(definition);
    if (!defined)
      brought.problems.push({
        severity: 'warning',
        message: 'The definition cannot be read; the other columns were taken.',
      });
    else if (matches(columns, given, readable(defined))) {
      brought.content = defined;
      return brought;
    } else
      brought.problems.push({
        severity: 'warning',
        message: 'The readable columns differ from the definition; they were taken, without form and settings.',
      });
  }
  if (text === '') {
    brought.problems.push({ severity: 'error', message: 'There is no question text in this row.' });
    return brought;
  }
  if ([text, ...choices, given.answer].includes(formulaWithoutValue)) {
    brought.problems.push({
      severity: 'error',
      message:
        'A cell of this row holds a formula whose value was not saved. Open the table, save it, and bring it in again.',
    });
    return brought;
  }
  // Beside columns of wrong choices, what is right is a choice of its own.
  const wrong = columns.flatMap((field, i) => (field === 'wrong' && row[i] ? [row[i] as string] : []));
  const rightOnes =
    choices.length === 0
      ? given.answer
          .slice(0, longestLooked)
          .split(/\s*;\s*/)
          .filter(Boolean)
          .map((text) => ({ text, right: true }))
      : [];
  const built = buildQuestion({
    stem: text,
    choices: [
      ...(wrong.length ? rightOnes : []),
      ...choicesOf(choices),
      ...wrong.map((text) => ({ text, right: false })),
    ],
    answer: wrong.length && !choices.length ? null : given.answer || null,
    solution: given.solution || undefined,
    hint: given.hint || undefined,
  });
  if ('content' in built) {
    brought.content = built.content;
    for (const message of built.asks) brought.problems.push({ severity: 'ask', message });
  } else for (const message of built.reasons) brought.problems.push({ severity: 'error', message });
  return brought;
}

/** The choices of a row with their marks; a single cell may hold all of them, lettered or on lines of their own. */
function choicesOf(cells: readonly string[]): { text: string; right: boolean }[] {
  const [only = ''] = cells;
  const inOne =
    cells.length === 1 && only.length <= longestLooked
      ? (choicesInRow(only.replace(/\s*[\n;|]\s*/g, '  '))?.pieces.slice(1) ?? only.split(/\s*[\n;|]\s*/))
      : null;
  const marked = (inOne ?? cells).filter((cell) => cell !== '').map(markedLine);
  // A star is a mark where some choices have it and some do not.
  const stars = marked.filter((one) => one.marker?.kind === 'bullet' && one.marker.form === '*').length;
  const isLettered = marked.every((one) => one.marker?.kind === 'letter');
  return marked.map((one, i) => ({
    text: isLettered || isMark(one) ? one.rest : ((inOne ?? cells)[i] as string),
    right: one.isMarked || (stars < marked.length && isStar(one)),
  }));
}

const isStar = ({ marker }: Marked) => marker?.kind === 'bullet' && marker.form === '*';
const isMark = (one: Marked) => (one.isMarked && one.marker === null) || isStar(one);

function readDefinition(text: string): QuestionContent | null {
  try {
    const parsed = questionContent.safeParse(JSON.parse(text));
    return parsed.success ? parsed.data : null;
  } catch {
    return null;
  }
}

type Readable = { text: string; choices: string[]; answer: string; solution: string; hint: string };

/** Whether the readable columns that are there still say what the definition says. */
function matches(columns: readonly TableField[], given: Readable, defined: Readable): boolean {
  const same = (a: string, b: string) => a.replace(/\s+/g, ' ').trim() === b.replace(/\s+/g, ' ').trim();
  return (
    (['text', 'answer', 'solution', 'hint'] as const).every(
      (field) => !columns.includes(field) || same(given[field], defined[field]),
    ) &&
    (!columns.includes('choice') || same(given.choices.join('\n'), defined.choices.join('\n')))
  );
}

/** A question in the readable columns of a table. */
export function readable(content: QuestionContent): Readable {
  const { solution, hint } = content.feedback;
  return {
    text: richText(content.stem),
    ...definitionOf(content.type).columns(content),
    solution: solution ? richText(solution) : '',
    hint: hint ? richText(hint) : '',
  };
}

/** A question as a row of a table to take out. */
type TakenOut = {
  name: string;
  type: QuestionType;
  category: string;
  difficulty: string | null;
  points: number | null;
  tags: string[];
  objectives: string[];
  content: QuestionContent;
};

/** The table of questions that {@link readTable} reads back to the same ones, headings first. */
export function tableOf(questions: readonly TakenOut[]): string[][] {
  const read = questions.map((one) => readable(one.content));
  const width = Math.max(0, ...read.map((one) => one.choices.length));
  const headings = [
    'short name',
    'type',
    'category',
    'question text',
    ...Array.from({ length: width }, (_, i) => `choice ${String.fromCharCode(65 + i)}`),
    'right answer',
    'points',
    'difficulty',
    'tags',
    'objectives',
    'worked solution',
    'hint',
    'definition',
  ];
  const rows = questions.map((one, i) => {
    const said = read[i] as Readable;
    return [
      one.name,
      questionTypeNames[one.type],
      one.category,
      said.text,
      ...Array.from({ length: width }, (_, at) => said.choices[at] ?? ''),
      said.answer,
      one.points === null ? '' : String(one.points),
      one.difficulty ?? '',
      one.tags.join(', '),
      one.objectives.join(', '),
      said.solution,
      said.hint,
      JSON.stringify(one.content),
    ];
  });
  return [headings, ...rows];
}
