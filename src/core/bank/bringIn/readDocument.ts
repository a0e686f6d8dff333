import { difficulties } from '../../question/types';
import { type Brought, blankBrought } from './brought';
import { buildQuestion, type Parts } from './build';

/** A stretch of text with what a word processor did to it. */
export type Run = { text: string; bold?: boolean; underline?: boolean; marked?: boolean };

/** One paragraph; `label` is the number or letter that a list gave it, such as `3.` or `b)`. */
export type Line = { label?: string; runs: Run[] };

/** A plain text as lines. */
export const linesOf = (text: string): Line[] => text.split(/\r\n|\r|\n/).map((line) => ({ runs: [{ text: line }] }));

const question = /^(?:question\s+)?(\d{1,4})\s*[.):]\s*(.*)$/isu;
const choice = /^([*✓✔☑√]?) ?\(?([a-tA-T])[.)\]] ?([*✓✔☑√]?) ?(.*)$/su;
const bare = /^([*✓✔☑√]) (.+)$/su;
const ending = / ?(?:[*✓✔☑√]|\((?:correct|right)\))$/iu;
const answer = /^(?:correct\s+)?(?:answers?|ans|key)\s*[:=]\s*(.*)$/isu;
const note =
  /^(feedback|explanation|solution|rationale|hint|points?|difficulty|category|tags?|objectives?|name)\s*[:=]\s*(.*)$/isu;
const keyHeading = /^(?:answer\s+key|answers|key|solutions)\s*:?$/iu;
const keyEntry = /(?:^|[ ,;])(\d{1,4}) ?[.):=-]? ?([a-t](?: ?[,&/] ?[a-t])*|true|false)(?=$|[ ,;.])/giu;

type Open = {
  at: number;
  number: number | null;
  stem: string[];
  choices: { lines: string[]; right: boolean; styled: boolean; feedback?: string }[];
  answer: string | null;
  notes: Record<string, string>;
  /** What an unlabelled line continues. */
  last: 'stem' | 'choice' | 'note';
  lastNote: string;
};

/**
 * Reads questions from paragraphs as people type them: numbered questions, lettered choices, the right ones marked by a
 * star, a tick, bold, underline or highlighting, by "Answer: B", or by a key at the end; statements that are true or
 * false; texts with blanks (`____`) whose answers stand behind "Answer:", divided by semicolons; and lines that begin
 * with Feedback, Solution, Hint, Points, Difficulty, Category, Tags, Objective or Name.
 */
export function readDocument(lines: readonly Line[]): Brought[] {
  const found: Open[] = [];
  const key = new Map<number, string>();
  let inKey = false;
  lines.forEach((line, i) => {
    const text = textOf(line);
    if (text === '') return;
    if (keyHeading.test(text) && found.length > 0) {
      inKey = true;
      return;
    }
    if (inKey) {
      const entries = [...text.matchAll(keyEntry)];
      for (const [, number, value] of entries) key.set(Number(number), value as string);
      if (entries.length > 0) return;
      inKey = false;
    }
    readLine(found, line, text, i + 1);
  });
  return found.map((one) => finish(one, one.number === null ? undefined : key.get(one.number)));
}

const textOf = (line: Line): string => {
  const said = line.runs.map((run) => run.text).join('');
  return [line.label, said].filter(Boolean).join(' ').replace(/\s+/g, ' ').trim();
};

function readLine(found: Open[], line: Line, text: string, at: number): void {
  const open = found[found.length - 1];
  const begun = question.exec(text);
  if (begun) {
    found.push({
      at,
      number: Number(begun[1]),
      stem: begun[2] ? [begun[2]] : [],
      choices: [],
      answer: null,
      notes: {},
      last: 'stem',
      lastNote: '',
    });
    return;
  }
  if (!open) return;
  const said = answer.exec(text);
  if (said) {
    open.answer = (said[1] ?? '').trim();
    open.last = 'note';
    open.lastNote = '';
    return;
  }
  const noted = note.exec(text);
  if (noted) {
    const name = (noted[1] ?? '').toLowerCase().replace(/s$/, '');
    const value = (noted[2] ?? '').trim();
    const lastChoice = open.choices[open.choices.length - 1];
    // Feedback right below a choice belongs to it, as long as more choices may follow.
    if (name === 'feedback' && open.last === 'choice' && lastChoice) lastChoice.feedback = value;
    else {
      open.notes[name] = value;
      open.last = 'note';
      open.lastNote = name;
    }
    return;
  }
  const lettered = choice.exec(text);
  const starred = lettered ? null : bare.exec(text);
  const expected = String.fromCharCode(97 + open.choices.length);
  if ((lettered && (lettered[2] ?? '').toLowerCase() === expected) || (starred && open.choices.length > 0)) {
    let words = lettered ? (lettered[4] ?? '') : (starred?.[2] ?? '');
    let right = Boolean(starred || lettered?.[1] || lettered?.[3]);
    if (ending.test(words)) {
      right = true;
      words = words.replace(ending, '');
    }
    open.choices.push({ lines: [words], right, styled: isStyled(line) });
    open.last = 'choice';
    return;
  }
  if (open.last === 'stem') open.stem.push(text);
  else if (open.last === 'choice') open.choices[open.choices.length - 1]?.lines.push(text);
  else if (open.lastNote) open.notes[open.lastNote] += `\n${text}`;
}

/** Whether all words of a choice stand out, its letter left aside. */
function isStyled(line: Line): boolean {
  let rest =
    line.runs
      .map((run) => run.text)
      .join('')
      .match(/^\s*\(?[a-tA-T][.)\]]\s*/u)?.[0].length ?? 0;
  if (line.label) rest = 0;
  let words = 0;
  for (const run of line.runs) {
    const skipped = Math.min(rest, run.text.length);
    rest -= skipped;
    const text = run.text.slice(skipped).trim();
    if (text === '') continue;
    words++;
    if (!run.bold && !run.underline && !run.marked) return false;
  }
  return words > 0;
}

function finish(open: Open, fromKey: string | undefined): Brought {
  const brought = blankBrought(open.at);
  const problem = (severity: 'error' | 'warning', message: string) => brought.problems.push({ severity, message });
  // Words that stand out mark the right choice only where some do and some do not.
  const styled = open.choices.filter((one) => one.styled).length;
  const byStyle = styled > 0 && styled < open.choices.length && !open.choices.some((one) => one.right);
  const parts: Parts = {
    stem: open.stem.join('\n'),
    choices: open.choices.map((one) => ({
      text: one.lines.join('\n').trim(),
      right: byStyle ? one.styled : one.right,
      ...(one.feedback ? { feedback: one.feedback } : {}),
    })),
    answer: open.answer ?? fromKey ?? null,
    solution: open.notes.feedback ?? open.notes.explanation ?? open.notes.solution ?? open.notes.rationale,
    hint: open.notes.hint,
  };
  if (open.answer !== null && parts.choices.some((one) => one.right))
    problem('warning', 'Right choices are marked and an answer is named; the named answer was taken.');
  brought.title = parts.stem.split('\n')[0]?.slice(0, 120) ?? '';
  const built = buildQuestion(parts);
  if ('content' in built) brought.content = built.content;
  else for (const reason of built.reasons) problem('error', reason);
  readNotes(open.notes, brought);
  return brought;
}

/** Reads what stands behind Points, Difficulty, Category, Tags, Objective and Name. */
export function readNotes(notes: Readonly<Record<string, string | undefined>>, brought: Brought): void {
  const problem = (message: string) => brought.problems.push({ severity: 'warning', message });
  brought.shortName = (notes.name ?? '').slice(0, 120);
  brought.category = notes.category ?? '';
  brought.tags = list(notes.tag);
  brought.objectives = list(notes.objective);
  const points = notes.point?.replace(',', '.');
  if (points) {
    const value = Number(points);
    if (value > 0 && value <= 1_000) brought.points = value;
    else problem(`“${points}” is no number of points; the usual points are taken.`);
  }
  const difficulty = notes.difficulty?.trim().toLowerCase();
  if (difficulty) {
    brought.difficulty = difficulties.find((one) => one === difficulty) ?? null;
    if (!brought.difficulty) problem(`“${difficulty}” is none of ${difficulties.join(', ')}; no difficulty is set.`);
  }
}

const list = (text: string | undefined) =>
  (text ?? '')
    .split(/[,;]/)
    .map((one) => one.trim())
    .filter(Boolean)
    .slice(0, 30);
