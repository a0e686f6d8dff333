import { fold } from '../question/text/fold';
import { typingSlips } from '../question/text/typingSlips';

/** Answers of at most so many letters are compared letter by letter, longer ones by their words. */
const letterByLetter = 80;

/** The least similarity that the slider offers: below it, groups say nothing. */
export const leastSimilar = 0.5;

const number = /(?<![\p{L}\p{N}])[-\u2212]?\d+(?:[.,]\d+)*|\d+/gu;

/** The numbers in a text, in their order, with their signs and decimals. */
const numbersIn = (text: string): string =>
  (text.match(number) ?? []).map((one) => one.replace('\u2212', '-').replaceAll(',', '.')).join(' ');

const letters = (text: string): string => fold(text, { case: true, accents: false, spacing: true });

/** What two answers share that differ only in case, spaces and punctuation. Accents, signs and numbers make them differ. */
const sameKey = (text: string): string => `${letters(text)}|${numbersIn(text)}`;

/** An answer, ready to be compared. */
type Prepared = {
  folded: string;
  /** Its numbers in their order: answers with other numbers are never alike, however close their letters are. */
  numbers: string;
  /** How often each letter occurs, for a quick no. */
  counts: Uint16Array;
  /** Words and pairs of neighbouring words as sorted numbers, with repetitions; only for long answers. */
  words: Int32Array | null;
};

const bins = 32;

function prepare(text: string, known: Map<string, number>): Prepared {
  const folded = letters(text);
  const counts = new Uint16Array(bins);
  for (let i = 0; i < folded.length; i++) {
    const bin = folded.charCodeAt(i) % bins;
    counts[bin] = (counts[bin] as number) + 1;
  }
  const words = folded.length > letterByLetter ? wordsOf(text, known) : null;
  return { folded, numbers: numbersIn(text), counts, words };
}

function wordsOf(text: string, known: Map<string, number>): Int32Array {
  const idOf = (what: string) => {
    const id = known.get(what) ?? known.size;
    known.set(what, id);
    return id;
  };
  const words = (text
    .normalize('NFC')
    .toLowerCase()
    .match(/[\p{L}\p{N}]+/gu) ?? []) as string[];
  const ids = words.flatMap((word, i) => (i === 0 ? [idOf(word)] : [idOf(word), idOf(`${words[i - 1]} ${word}`)]));
  return Int32Array.from(ids).sort();
}

/** 2·|A ∩ B| / (|A| + |B|) of two sorted lists with repetitions (Dice, 1945). */
function dice(a: Int32Array, b: Int32Array): number {
  let shared = 0;
  for (let i = 0, j = 0; i < a.length && j < b.length; ) {
    const [x, y] = [a[i] as number, b[j] as number];
    if (x === y) {
      shared += 1;
      i += 1;
      j += 1;
    } else if (x < y) i += 1;
    else j += 1;
  }
  return a.length + b.length === 0 ? 1 : (2 * shared) / (a.length + b.length);
}

/** The similarity of two prepared answers, or 0 where it is below the least that is asked for. */
function alike(a: Prepared, b: Prepared, least: number): number {
  if (a.numbers !== b.numbers) return 0;
  if (a.folded === b.folded) return 1;
  if (a.words || b.words) {
    if (!a.words || !b.words) return 0;
    const most = (2 * Math.min(a.words.length, b.words.length)) / (a.words.length + b.words.length);
    return most < least ? 0 : dice(a.words, b.words);
  }
  const longer = Math.max(a.folded.length, b.folded.length);
  const most = Math.floor((1 - least) * longer + 1e-9);
  if (longer - Math.min(a.folded.length, b.folded.length) > most) return 0;
  let apart = 0;
  for (let i = 0; i < bins; i++) apart += Math.abs((a.counts[i] as number) - (b.counts[i] as number));
  // Each slip changes the count of at most two letters.
  if (apart > 2 * most) return 0;
  const slips = typingSlips(a.folded, b.folded, most);
  return slips > most ? 0 : 1 - slips / longer;
}

/**
 * How alike two answers are, in [0, 1]; 1 where they differ only in case, spaces and punctuation. Short ones: 1 − d/n with
 * d the optimal string alignment distance and n the length of the longer. Longer ones: Dice's coefficient over words and
 * pairs of neighbouring words. A short and a long one, and answers with different numbers in them: 0.
 */
export function similarity(a: string, b: string): number {
  const known = new Map<string, number>();
  return alike(prepare(a, known), prepare(b, known), 0);
}

/** Answers that are alike: the one that was given most often stands for them. */
type SimilarGroup<Id> = { text: string; members: { id: Id; similarity: number }[] };

/**
 * Groups answers. Different wordings are taken by how often they were given, then by the alphabet; each joins the group
 * whose first wording it is most like, if that is at least `least`, else it begins a group of its own. So every member is
 * like the answer that stands for its group, and no chain of small steps puts two unlike answers together.
 *
 * @param least in [{@link leastSimilar}, 1]; at 1 only case, spaces and punctuation may differ
 * @returns the largest group first, equals by the alphabet
 */
export function groupSimilar<Id>(answers: readonly { id: Id; text: string }[], least: number): SimilarGroup<Id>[] {
  const wordings = new Map<string, { text: string; ids: Id[] }>();
  for (const { id, text } of answers) {
    const key = sameKey(text);
    const own = wordings.get(key);
    if (own) own.ids.push(id);
    else wordings.set(key, { text, ids: [id] });
  }
  const known = new Map<string, number>();
  const ordered = [...wordings].sort(
    ([a, one], [b, other]) => other.ids.length - one.ids.length || (a < b ? -1 : a > b ? 1 : 0),
  );
  const groups: (SimilarGroup<Id> & { first: Prepared })[] = [];
  for (const [, { text, ids }] of ordered) {
    const prepared = prepare(text, known);
    let best: (typeof groups)[number] | null = null;
    let bestAlike = 0;
    if (least < 1)
      for (const group of groups) {
        const found = alike(prepared, group.first, Math.max(least, bestAlike));
        if (found >= least && found > bestAlike) [best, bestAlike] = [group, found];
      }
    const group = best ?? { text, members: [], first: prepared };
    if (!best) groups.push(group);
    for (const id of ids) group.members.push({ id, similarity: best ? bestAlike : 1 });
  }
  return groups
    .map(({ text, members }) => ({ text, members }))
    .sort((a, b) => b.members.length - a.members.length || (a.text < b.text ? -1 : 1));
}
