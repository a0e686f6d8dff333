import type { Rich } from '../../../base/rich';
import { asFields } from '../../readJson';
import type { RatingScaleContent } from './content';

/** A rating scale as a student sees it. */
export type RatingScaleView = {
  type: 'rating-scale';
  stem: Rich;
  steps: number;
  low: string;
  high: string;
  cannotSay: boolean;
};

/** A step counted from 1, or 0 for "cannot say". */
export type RatingScaleResponse = { step: number };

/** Builds the student's view from nothing. */
export const viewRatingScale = ({ stem, steps, low, high, cannotSay }: RatingScaleContent): RatingScaleView => ({
  type: 'rating-scale',
  stem,
  steps,
  low,
  high,
  cannotSay,
});

/** Reads any JSON: null unless it is a whole step from 0 to 11, undefined where nothing was picked. */
export function readRatingScale(input: unknown): RatingScaleResponse | undefined | null {
  if (input === null || input === undefined) return undefined;
  const step = asFields(input)?.step;
  return typeof step === 'number' && Number.isInteger(step) && step >= 0 && step <= 11 ? { step } : null;
}
