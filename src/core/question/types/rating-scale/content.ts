import { z } from 'zod';
import { emptyRich, richText } from '../../../base/rich';
import { richSchema } from '../../../base/richSchema';
import { needsStem } from '../../choices';
import { feedbackSchema, noFeedback } from '../../feedback';

const endLabel = z.string().trim().max(80, 'At most 80 characters.');

/** A scale of steps between two named ends, for surveys. It has no right answer. */
export const ratingScaleContent = z
  .object({
    type: z.literal('rating-scale'),
    stem: richSchema,
    steps: z.number().int().min(2, 'A scale has at least 2 steps.').max(11, 'A scale has at most 11 steps.'),
    low: endLabel,
    high: endLabel,
    /** Whether "cannot say" is offered beside the steps. */
    cannotSay: z.boolean(),
    feedback: feedbackSchema,
  })
  .superRefine(needsStem);

/** Valid content of a rating scale of 2 to 11 steps. */
export type RatingScaleContent = z.output<typeof ratingScaleContent>;

/** A scale of five steps from “not at all” to “very much”. */
export const blankRatingScale = (): RatingScaleContent => ({
  type: 'rating-scale',
  stem: emptyRich,
  steps: 5,
  low: 'not at all',
  high: 'very much',
  cannotSay: false,
  feedback: noFeedback,
});

/** The words of a rating scale: its stem. */
export const ratingScaleText = (content: RatingScaleContent): string => richText(content.stem);
