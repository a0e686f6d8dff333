/** How an answer did: by the share of its points that it earned. */
export type AnswerOutcome = 'right' | 'partly' | 'wrong';

/** Right with all its points, wrong with none, partly right between. */
export const outcomeOf = (points: number, outOf: number): AnswerOutcome =>
  points >= outOf ? 'right' : points > 0 ? 'partly' : 'wrong';
