/** A stretch of text with what a word processor did to it. */
export type Run = { text: string; bold?: boolean; underline?: boolean; marked?: boolean };

/**
 * One line of typed text, or one paragraph of a word processor; `label` is the number or letter that a list gave it, such
 * as `3.` or `b)`. A paragraph is whole: the one below it never goes on with its sentence.
 */
export type Line = { label?: string; runs: Run[]; whole?: boolean };

/** A plain text as lines. */
export const linesOf = (text: string): Line[] => text.split(/\r\n|\r|\n/).map((line) => ({ runs: [{ text: line }] }));

const typedBold = /\*\*([^*\s](?:[^*]*))\*\*/g;

/** A line in which `**words**` stand out, as people and programs type it where letters cannot be made bold. */
export function withTypedBold(line: Line): Line {
  if (!line.runs.some((run) => run.text.includes('**'))) return line;
  const runs = line.runs.flatMap((run): Run[] => {
    const parts: Run[] = [];
    let end = 0;
    for (const match of run.text.slice(0, longestLooked).matchAll(typedBold)) {
      parts.push({ ...run, text: run.text.slice(end, match.index) }, { ...run, text: match[1] as string, bold: true });
      end = match.index + match[0].length;
    }
    return [...parts, { ...run, text: run.text.slice(end) }].filter((part) => part.text !== '');
  });
  return { ...line, runs };
}

/** The text of a line as it was found, with the label that a list gave it. */
export const lineText = (line: Line): string =>
  [line.label, line.runs.map((run) => run.text).join('')].filter(Boolean).join(' ');

/**
 * A text longer than so many signs is prose: nothing is looked for in it, so that no expression here takes more than a moment.
 */
export const longestLooked = 1_000;

/** Marks that are never seen: of direction, of no width, soft hyphens, byte orders. */
const unseen = /[\u00ad\u200b-\u200f\u202a-\u202e\u2060-\u2069\ufeff]/g;

/** The text of a line without marks that are never seen; tabs and wide gaps stay, since they may divide choices. */
export const cleanText = (line: Line): string =>
  lineText(line)
    .replace(unseen, '')
    .replace(/[^\S\t]/g, ' ')
    .trim();

/** A text in which every stretch of white space is one space. */
export const tight = (text: string): string => text.replace(/\s+/g, ' ').trim();

/**
 * Whether all words of a line stand out, its number or letter left aside.
 *
 * @param lead how many characters of the line's text are its marker
 */
export function isStyled(line: Line, lead: number): boolean {
  let rest = line.label ? 0 : lead;
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
