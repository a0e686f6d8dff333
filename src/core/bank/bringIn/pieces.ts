import { keysInLine } from './keyLists';
import { cleanText, isStyled, type Line, lineText, longestLooked, tight, withTypedBold } from './line';
import { choicesInRow, type Marker, markedLine, type Row } from './marker';

/** A line that names the answer of the question above it. */
export const answerLine =
  /^(?:the\s+)?(?:correct\s+|right\s+)?(?:answers?|ans|key|solution\s+letter|correct(?:\s+(?:choice|option|letter))?|right(?:\s+(?:choice|option))?)(?:\s+is)?\s*[:=.–-]\s*(.*)$/iu;
/** The same as a sentence. */
export const answerSentence = /^(?:the\s+)?(?:(?:correct|right)\s+)?answer(?:\s+is)?\s+[([]?([A-T])[)\]]?\.?$/iu;
/** A line that says something of the question besides. */
export const note =
  /^(feedback|explanation|solution|rationale|why|reason|hint|points?|marks?|difficulty|category|tags?|objectives?|name)\s*[:=]\s*(.*)$/iu;
/** A line, or one of several choices in it, with its beginning taken apart. */
export type Piece = {
  line: number;
  whole: string;
  text: string;
  marker: Marker | null;
  isMarked: boolean;
  isMarkedBehind: boolean;
  leadKey: string | null;
  isStyled: boolean;
  /** Whether an empty line stands above it. */
  gap: boolean;
  /** Whether it is a paragraph, which never goes on below. */
  isParagraph: boolean;
  /** Whether a mark in its line may belong to the choice before or after it. */
  isDoubtful: boolean;
  /** Whether it is too long to be looked through. */
  isProse: boolean;
};

/** What is known of a line that is too long to be anything but prose. */
const prose = {
  isMarked: false,
  isMarkedBehind: false,
  leadKey: null,
  isStyled: false,
  isDoubtful: false,
  isProse: true,
};

/** The lines taken apart, empty ones left out, choices that stand in one line each by itself. */
export function piecesOf(typed: readonly Line[]): Piece[] {
  const lines = typed.map(withTypedBold);
  const pieces: Piece[] = [];
  let gap = true;
  const texts = lines.map(cleanText);
  const nextText = (after: number): string => {
    let at = after + 1;
    while (texts[at] === '') at++;
    return (texts[at] ?? '').slice(0, longestLooked);
  };
  lines.forEach((line, i) => {
    const full = texts[i] as string;
    if (full === '') {
      gap = true;
      return;
    }
    if (full.length > longestLooked) {
      const whole = tight(full);
      // A long question has its number all the same.
      const { marker, lead } = markedLine(whole.slice(0, 40));
      const isNumbered = marker?.kind === 'number';
      pieces.push({
        ...prose,
        line: i,
        whole,
        text: isNumbered ? whole.slice(lead).trim() : whole,
        marker: isNumbered ? marker : null,
        gap,
        isParagraph: line.whole === true,
      });
      gap = false;
      return;
    }
    const raw = lineText(line);
    const add = (said: string, isFirst: boolean, isDoubtful = false) => {
      const { marker, rest, isMarked, isMarkedBehind, leadKey, lead } = markedLine(said);
      pieces.push({
        line: i,
        whole: tight(said),
        text: tight(rest),
        marker,
        isMarked,
        isMarkedBehind,
        leadKey,
        isStyled: isFirst && isStyled(line, lead + raw.length - raw.trimStart().length),
        gap: gap && isFirst,
        isParagraph: line.whole === true,
        isDoubtful,
        isProse: false,
      });
      gap = false;
    };
    const { marker, lead } = markedLine(full);
    // The key may stand behind the choices of the same line.
    const keyed = /(?:\s\s|\t)(?:answer|ans|key)\s*[:=].{0,40}$/iu.exec(full);
    const text =
      keyed && choicesInRow(full.slice(marker?.kind === 'number' ? lead : 0, keyed.index))
        ? full.slice(0, keyed.index).trim()
        : full;
    const isTold = answerLine.test(text) || note.test(text) || keysInLine(text, 2) !== null;
    const stem = marker?.kind === 'number' ? text.slice(lead) : text;
    const row = isTold ? null : (choicesInRow(stem) ?? (marker?.kind === 'number' ? choicesByTab(stem) : null));
    const below = markedLine(nextText(i)).marker;
    const listBelow = below?.kind === 'letter' && below.at === 0;
    if (!row || (row.pieces[0] !== '' && listBelow)) {
      add(text, true);
      return;
    }
    const [before = '', ...choices] = row.pieces;
    if (before || marker?.kind === 'number') add(`${text.slice(0, text.length - stem.length)}${before}`, true);
    for (const choice of choices) {
      add(choice, false, row.isDoubtful);
      const piece = pieces[pieces.length - 1] as Piece;
      if (row.isByTab) piece.marker ??= { kind: 'bullet', form: 'tab' };
    }
    if (text !== full) add(full.slice(text.length).trim(), false);
  });
  return pieces;
}

/** What stands behind a numbered question in the same row of a table that was pasted without its lines. */
function choicesByTab(text: string): (Row & { isByTab: true }) | null {
  const pieces = text.split('\t').map((one) => one.trim());
  const [stem = '', ...choices] = pieces.filter(Boolean);
  return pieces[0] && choices.length > 1 ? { pieces: [stem, ...choices], isDoubtful: false, isByTab: true } : null;
}
