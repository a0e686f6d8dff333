import { pointsSaid } from '../base/words';

/**
 * How a mark came about: by the key, by hand, as an adjustment of either with a reason, to settle two marks that differ, or
 * by taking the question out of the total. What a rule gave may be marked anew by a rule; the rest is a person's word.
 */
export type MarkKind = 'automatic' | 'hand' | 'adjusted' | 'settled' | 'left-out';

/** Kinds that no re-mark changes. */
export const byPerson: readonly MarkKind[] = ['hand', 'adjusted', 'settled'];

/** What speaks against so many points for an answer that carries `outOf` of them; null where nothing does. */
export function pointsProblem(points: number, outOf: number): string | null {
  if (points < 0) return 'Points cannot be negative.';
  return points > outOf + 1e-9 ? `This question carries ${pointsSaid(outOf)} at most.` : null;
}

/** The level chosen for each criterion of a rubric, by their ids. */
export type RubricLevels = Record<string, string>;

/** A note on a passage of an answer: from one letter of its words to another. */
export type PassageNote = { from: number; to: number; text: string };

type Rubric = {
  criteria: readonly { id: string; weight: number; levels: readonly { id: string; share: number }[] }[];
};

/**
 * What chosen levels earn: outOf · Σ weight·share / Σ weight.
 *
 * @returns null while a criterion has no level, or names one that the rubric does not have
 */
export function rubricPoints(rubric: Rubric, levels: RubricLevels, outOf: number): number | null {
  let sum = 0;
  let weights = 0;
  for (const criterion of rubric.criteria) {
    const level = criterion.levels.find((one) => one.id === levels[criterion.id]);
    if (!level) return null;
    sum += criterion.weight * level.share;
    weights += criterion.weight;
  }
  return (outOf * sum) / weights;
}

/**
 * An answer in pieces, as its notes divide it: each piece with the numbers (from 0) of the notes that lie over it.
 * Notes may overlap; what lies outside the words is cut off.
 */
export function notedPieces(text: string, notes: readonly PassageNote[]): { text: string; notes: number[] }[] {
  const within = (at: number) => Math.max(0, Math.min(text.length, at));
  const cuts = [...new Set([0, text.length, ...notes.flatMap(({ from, to }) => [within(from), within(to)])])].sort(
    (a, b) => a - b,
  );
  return cuts.slice(1).map((end, i) => {
    const begin = cuts[i] as number;
    return {
      text: text.slice(begin, end),
      notes: notes.flatMap((note, n) => (within(note.from) <= begin && end <= within(note.to) ? [n] : [])),
    };
  });
}
