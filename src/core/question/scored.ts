/** What scoring a response gives: credit in [0, 1], or the word that a person has to judge it. */
export type Scored = { kind: 'credit'; credit: number } | { kind: 'by-hand' };

/** The word that a person has to judge it. */
export const byHand: Scored = { kind: 'by-hand' };

/** Credit kept within [0, 1]; what is no number is 0. */
export const creditOf = (credit: number): Scored => ({
  kind: 'credit',
  credit: credit > 0 ? Math.min(1, credit) : 0,
});
