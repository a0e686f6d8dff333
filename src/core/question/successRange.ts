import { z } from 'zod';

/** What first attempts that count have earned: the mean credit in [0, 1] and over how many answers. */
export type Success = { mean: number; n: number };

const percent = z.number({ message: 'Give a percentage.' }).min(0, 'At least 0 %.').max(100, 'At most 100 %.');

/** A range of success rates in percent, both ends included. */
export const successRange = z
  .object({ from: percent, to: percent })
  .refine(({ from, to }) => from <= to, { message: 'The lower end must not lie above the upper end.', path: ['from'] });

/** A valid range of success rates in percent, from 0 to 100, both ends included. */
export type SuccessRange = z.output<typeof successRange>;

/**
 * Whether a success rate lies in a range. A question without any rate lies in none. The rate is rounded to six decimals of
 * a percent, so that 3 of 10 is 30 % whatever the binary fractions say.
 */
export const inSuccessRange = (success: Success | null | undefined, range: SuccessRange): boolean => {
  if (!success) return false;
  const rate = Math.round(success.mean * 1e8) / 1e6;
  return rate >= range.from && rate <= range.to;
};
