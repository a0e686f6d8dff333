import { z } from 'zod';
import { richSchema } from '../base/richSchema';

/** What a student may be told about a question besides its key; each part only when the release plan allows. */
export const feedbackSchema = z.object({
  right: richSchema.optional(),
  wrong: richSchema.optional(),
  solution: richSchema.optional(),
  hint: richSchema.optional(),
});

/** What a question says besides its key; a part that is absent says nothing. */
export type Feedback = z.output<typeof feedbackSchema>;

/** Feedback that says nothing. */
export const noFeedback: Feedback = {};
