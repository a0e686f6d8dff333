import { type Brought, blankBrought } from './brought';
import { buildQuestion } from './build';
import { isVerdict } from './keyLists';
import { longestLooked } from './line';
import type { ReadLine } from './lineForms';
import { readNotes } from './readNotes';

const worth = /\s*[([]\s*(\d{1,3}(?:[.,]\d+)?)\s*(?:points?|pts?\.?|marks?|p\.?)\s*[)\]]\s*/iu;
const keyInStem = /^[([]([A-H])[)\]]\s+(?=\S)/u;

/** A choice as it was found, with all that may mark it as right. */
export type OpenChoice = {
  lines: string[];
  letter: number;
  form: string;
  isMarked: boolean;
  isMarkedBehind: boolean;
  isStyled: boolean;
  /** Whether an empty line stands above it. */
  gap: boolean;
  feedback?: string;
  line: number;
};

/** A question whose lines are being gathered. */
export type Open = {
  at: number;
  number: number | null;
  form: string | null;
  stem: string[];
  choices: OpenChoice[];
  answer: string | null;
  /** Whether its key stands above its choices. */
  isKeyAbove: boolean;
  otherKeys: string[];
  notes: Record<string, string>;
  /** What an unlabelled line continues. */
  last: 'stem' | 'choice' | 'key' | 'note';
  lastNote: string;
  /** How many lines of its text look like two things that belong together. */
  pairs: number;
  asks: string[];
  warnings: string[];
};

/** Which choices are marked as right, by signs or by standing out. Signs that all of them carry are bullets. */
function marksOf({ choices, asks: asked }: Open): boolean[] {
  const all = (has: (one: OpenChoice) => boolean) => choices.every(has);
  const some = (has: (one: OpenChoice) => boolean) => choices.some(has);
  const isBoxed = all((one) => one.form === '☐' || one.form === '[ ]');
  const stars = some((one) => one.form === '*') && !all((one) => one.form === '*');
  const marks = choices.map((one) => one.isMarked || (stars && one.form === '*'));
  if (isBoxed && marks.every(Boolean)) return choices.map(() => false);
  if (!marks.includes(true) && some((one) => one.form === '+') && some((one) => /^[-–]$/.test(one.form))) {
    asked.push('The choice with “+” was read as the right one.');
    return choices.map((one) => one.form === '+');
  }
  // Words that stand out mark the right choice only where some do and some do not.
  if (!marks.includes(true) && some((one) => one.isStyled) && !all((one) => one.isStyled))
    return choices.map((one) => one.isStyled);
  return marks;
}

/** All that is told of why the key is right, under whatever names. */
const solutionOf = (notes: Open['notes']): string | undefined =>
  ['feedback', 'explanation', 'solution', 'rationale'].flatMap((name) => notes[name] || []).join('\n') || undefined;

/** A question made of the lines that were gathered; which choices are right is written into the lines’ roles. */
export function finish(open: Open, listed: string[], roles: ReadLine[]): Brought {
  const brought = blankBrought(open.at);
  const problem = (severity: 'error' | 'ask' | 'warning', message: string) =>
    brought.problems.push({ severity, message });
  let stem = open.stem.join('\n');
  const isProse = stem.length > longestLooked;
  const points = isProse ? null : worth.exec(stem);
  if (points && !open.notes.point) {
    stem = `${stem.slice(0, points.index)} ${stem.slice(points.index + points[0].length)}`
      .replace(/ {2,}/g, ' ')
      .trim();
    open.notes.point = points[1] as string;
  }
  const marks = marksOf(open);
  const otherKeys = [...open.otherKeys, ...listed];
  const inStem = open.choices.length > 0 && !isProse ? keyInStem.exec(stem) : null;
  if (inStem) {
    otherKeys.push(inStem[1] as string);
    stem = stem.slice(inStem[0].length);
    open.asks.push(`“(${inStem[1]})” before the question was read as its key.`);
  }
  const inOrder = [...open.choices].map((one, i) => ({ one, right: marks[i] === true }));
  const letters = open.choices.map((one) => one.letter);
  const kinds = new Set(open.choices.map((one) => one.form).filter((form) => form !== '*' && form !== ''));
  const gaps = open.choices.slice(1).map((one) => one.gap);
  // Letters show by themselves where a list goes on.
  const isLettered = open.choices.every((one) => /^(letter|roman)/.test(one.form));
  if (!isLettered && gaps.includes(true) && gaps.includes(false))
    open.asks.push('An empty line divides the choices: do all of them belong to this question?');
  if (kinds.size > 1 && ![...kinds].every((form) => /^[-–+]$/.test(form)))
    open.asks.push('The choices begin in different ways: do all of them belong to this question?');
  // Choices in two columns stand in the order of their letters.
  if (new Set(letters).size === letters.length) inOrder.sort((a, b) => a.one.letter - b.one.letter);
  else open.asks.push('Two choices have the same letter.');
  const missing = inOrder.findIndex(({ one }, i) => one.letter !== i);
  if (missing >= 0 && new Set(letters).size === letters.length)
    open.asks.push(`The choice ${String.fromCharCode(97 + missing)}) is missing.`);
  const { solution } = open.notes;
  // "Solution: B" below choices is the key.
  if (inOrder.length > 0 && open.answer === null && solution && isVerdict(solution)) {
    open.answer = solution;
    delete open.notes.solution;
  }
  const built = buildQuestion({
    stem,
    choices: inOrder.map(({ one, right }) => ({
      text: one.lines.join('\n').trim(),
      right,
      letter: one.letter,
      ...(one.feedback ? { feedback: one.feedback } : {}),
    })),
    answer: open.answer,
    otherKeys,
    solution: solutionOf(open.notes),
    hint: open.notes.hint,
  });
  brought.title = stem.split('\n')[0]?.slice(0, 120) ?? '';
  if ('content' in built) {
    brought.content = built.content;
    const { content } = built;
    if ('choices' in content)
      content.choices.forEach((choice, i) => {
        const role = roles[inOrder[i]?.one.line ?? -1];
        if (choice.right && role?.role === 'choice') role.role = 'right';
      });
    const isBare = open.choices.length === 0 && open.answer === null && otherKeys.length === 0;
    if (isBare && 'modelAnswer' in content && stem.split(/\s+/).length <= 2 && !/[.?!:…]$/.test(stem))
      problem('ask', 'Is this a question of its own, or a choice of the one above?');
    if (isBare && 'modelAnswer' in content && open.pairs > 1)
      problem('ask', 'Are these pairs to be matched? It was read as a question that is answered in words.');
    for (const ask of [...open.asks, ...built.asks]) problem('ask', ask);
  } else for (const reason of [...built.reasons, ...open.asks]) problem('error', reason);
  for (const warning of open.warnings) problem('warning', warning);
  readNotes(open.notes, brought);
  return brought;
}
