import { withoutEnd } from '../base/withoutEnd';
/** What a feedback sheet can hold, each once, in any order. */
export const sheetFields = [
  'letter',
  'score',
  'band',
  'objectives',
  'questions',
  'missed',
  'signature',
  'reply',
] as const;
/** One piece of a feedback sheet. */
export type SheetField = (typeof sheetFields)[number];

/** What each piece is called where a sheet is laid out. */
export const sheetFieldNames: Record<SheetField, string> = {
  letter: 'Opening words',
  score: 'Score',
  band: 'Band and its comment',
  objectives: 'Results by objective',
  questions: 'All questions with answers, marks and explanations',
  missed: 'Only the questions that were missed',
  signature: 'Closing words',
  reply: 'Room for a reply',
};

/** How feedback sheets are laid out: their pieces in order, and their words. */
export type SheetLayout = {
  fields: SheetField[];
  /** Opening and closing words; names of fields in curly brackets stand for the student's own. */
  letter: string;
  signature: string;
  /** Whether right answers and solutions are printed where the questions are. */
  rightAnswers: boolean;
};

/** The layout that a course begins with. */
export const usualLayout: SheetLayout = {
  fields: ['letter', 'score', 'band', 'objectives', 'missed', 'reply'],
  letter: 'Dear {name}, here is how you did in {sitting}.',
  signature: '{instructor}',
  rightAnswers: true,
};

/** The words that may stand in curly brackets. */
export const sheetWords = [
  'name',
  'sitting',
  'course',
  'score',
  'possible',
  'percent',
  'band',
  'date',
  'instructor',
] as const;
/** A word in curly brackets that stands for something of the student's own. */
export type SheetWord = (typeof sheetWords)[number];

/**
 * Fills in the words in curly brackets. What is no such word stays as it was typed.
 *
 * @example filledIn('Dear {name}', { name: 'Zoe' }) // 'Dear Zoe'
 */
export const filledIn = (text: string, words: Record<SheetWord, string>): string =>
  text.replace(/\{(\w+)\}/g, (all, word: string) => (word in words ? words[word as SheetWord] : all));

/** The words in curly brackets that mean nothing. */
export const unknownWords = (text: string): string[] =>
  [...text.matchAll(/\{(\w+)\}/g)].flatMap(([, word]) => (sheetWords.includes(word as SheetWord) ? [] : [word ?? '']));

/**
 * The name of a student's file: their name, and a number where two have the same. Nothing that a file system, a shell or a
 * spreadsheet would take for something else is left in it.
 *
 * @param taken names of files there already; the new one is added
 */
export function sheetFileName(name: string, extension: string, taken: Set<string>): string {
  const plain =
    withoutEnd(
      name
        .normalize('NFC')
        .replace(/[^\p{L}\p{M}\p{N} .-]+/gu, ' ')
        .replace(/\s+/g, ' ')
        .replace(/^[ .-]+/, '')
        .slice(0, 80),
      ' .-',
    ) || 'student';
  for (let n = 1; ; n += 1) {
    const file = `${n === 1 ? plain : `${plain} (${n})`}.${extension}`;
    if (taken.has(file.toLowerCase())) continue;
    taken.add(file.toLowerCase());
    return file;
  }
}
