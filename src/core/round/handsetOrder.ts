import type { Instant } from '../base/time';

/** What made-up handsets are sent out with. */
export type HandsetOrder = {
  /** Where the server is reached. */
  origin: string;
  code: string;
  sittingId: string;
  /** What only made-up handsets of this round have. */
  key: string;
  /** How many, from 1 to {@link mostHandsets}, and the number of the first, from 0. */
  count: number;
  first: number;
  /** How much faster than people they are; 1 for as fast. */
  pace: number;
};

/** The most made-up handsets at once. */
export const mostHandsets = 300;

/** What is told of them. */
export type HandsetNews = { cameIn: number; answered: number; refused: number; gone: number; at: Instant };
