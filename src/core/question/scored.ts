/** What scoring a response gives: credit in [0, 1], or the word that a person has to judge it. */
export type Scored = { kind: 'credit'; credit: number } | { kind: 'by-hand' };
