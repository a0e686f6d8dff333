import { unguarded } from '../../base/csv';
import { richText } from '../../base/rich';
import { type QuestionContent, questionContent } from '../../question/content';
import { definitionOf, questionTypeNames } from '../../question/definitions';
import type { QuestionType } from '../../question/types';
import { type Brought, blankBrought } from './brought';
import { buildQuestion } from './build';
import { readNotes } from './readDocument';

/** What a column of a table can hold. */
export const tableFields = [
  'text',
  'choice',
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
  ['answer', /answer|correct|right|key|solution letter/],
  ['choice', /^(choice|option)|^[a-t]$|distractor|wrong/],
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

/** The most rows that are read from one table. */
export const mostRows = 5_000;

/**
 * Reads a table with headings, one question in each row. Where a row carries a definition, it is taken as it is, unless
 * the readable columns beside it have been changed: then they hold.
 */
export function readTable(rows: readonly (readonly string[])[], columns: readonly TableField[]): Brought[] {
  return rows.flatMap((cells, i): Brought[] => {
    const row = cells.map((cell) => unguarded(cell).trim());
    if (row.every((cell) => cell === '')) return [];
    // The headings are row 1.
    return [readRow(row, columns, i + 2)];
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
  const built = buildQuestion({
    stem: text,
    choices: choices.map((choice) => ({ text: choice.replace(/^\*\s*/, ''), right: /^\*/.test(choice) })),
    answer: given.answer || null,
    solution: given.solution || undefined,
    hint: given.hint || undefined,
  });
  if ('content' in built) brought.content = built.content;
  else for (const message of built.reasons) brought.problems.push({ severity: 'error', message });
  return brought;
}

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
