import { keyHeading } from './keyLists';
import { tight } from './line';
import type { Marker } from './marker';
import { answerLine, note, type Piece } from './pieces';

type Pieces = readonly Piece[];

/** The text of a line as far as it is looked through. */
export const looked = (piece: Piece | undefined): string => (piece && !piece.isProse ? piece.whole : '');

/** Whether a line names the answer of the question above it. */
export const isAnswerLine = (piece: Piece | undefined): boolean => answerLine.test(looked(piece));

/** Whether a text asks, or announces what follows. */
export const asks = (text: string) => /[?:]\s*$/.test(text);

/** Whether the next of a numbered list follows, before a question of another form. */
export function goesOn(pieces: Pieces, i: number, marker: Marker & { kind: 'number' }): boolean {
  for (let j = i + 1; j < Math.min(pieces.length, i + 8); j++) {
    const other = pieces[j]?.marker;
    if (other?.kind !== 'number') continue;
    return other.form === marker.form && other.at === marker.at + 1;
  }
  return false;
}

/** Whether a numbered list is one of choices: nothing but its short lines, up to a key or an empty line. */
export function isShortList(pieces: Pieces, i: number, marker: Marker & { kind: 'number' }): boolean {
  let count = 0;
  for (let j = i; j < pieces.length; j++) {
    const piece = pieces[j] as Piece;
    if (j > i && (piece.gap || isAnswerLine(piece))) break;
    if (piece.marker?.form !== marker.form || asks(piece.text) || piece.text.split(' ').length > 12) return false;
    count++;
  }
  return count >= 2;
}

/** Whether the second of a list with letters stands in the lines below, so that this is no initial and no article. */
export function listFollows(pieces: Pieces, i: number, marker: Marker & { kind: 'letter' | 'roman' }): boolean {
  for (let j = i + 1; j < Math.min(pieces.length, i + 12); j++) {
    const other = pieces[j]?.marker;
    if (other?.kind === 'number') return false;
    if (other?.kind === marker.kind && other.at > 0) return other.at <= 2;
  }
  return false;
}

const verdict = /^(?:t|f|true|false)\.?$/i;

/** Whether a line is nothing but "True" or "False". */
export const isTrueOrFalse = (piece: Piece | undefined): boolean =>
  piece !== undefined && !piece.isProse && verdict.test(piece.isMarked || piece.marker ? piece.text : piece.whole);

/**
 * Choices without letters below a question: short lines of which some, and not all, are marked as right, or one of which
 * is named by the key below; and "True" and "False" below one another, whatever is marked.
 */
export function plainChoicesBelow(pieces: Pieces, i: number, isSaid: (place: number) => boolean): number[] {
  const piece = pieces[i] as Piece;
  const isStart = piece.marker?.kind === 'number' || ((piece.gap || piece.isParagraph) && asks(piece.whole));
  if (!isStart) return [];
  const below: number[] = [];
  let j = i + 1;
  for (; j < pieces.length; j++) {
    const other = pieces[j] as Piece;
    const isPlain = other.marker === null || (other.marker.kind === 'bullet' && other.marker.form === '*');
    if (!isPlain || other.gap || isSaid(j) || (other.isParagraph && asks(other.whole) && below.length > 1)) break;
    if (other.isProse || isAnswerLine(other) || note.test(other.whole) || keyHeading.test(other.whole)) break;
    below.push(j);
  }
  const last = below.map((at) => asks((pieces[at] as Piece).whole)).lastIndexOf(true);
  const choices = below.slice(last + 1);
  if (choices.length === 2 && choices.every((at) => isTrueOrFalse(pieces[at]))) return choices;
  if (choices.length < 2 || (last < 0 && !asks(piece.text))) return [];
  const marks = choices.filter((at) => {
    const one = pieces[at] as Piece;
    return one.isMarked || one.marker !== null;
  }).length;
  const styled = choices.filter((at) => (pieces[at] as Piece).isStyled).length;
  const key = answerLine.exec(looked(pieces[j]))?.[1];
  const isNamed =
    key !== undefined &&
    choices.some(
      (at) => tight(key).toLowerCase().replace(/\.$/, '') === pieces[at]?.text.toLowerCase().replace(/\.$/, ''),
    );
  const some = (count: number) => count > 0 && count < choices.length;
  if (!some(marks) && !some(styled) && !isNamed) return [];
  return choices;
}
