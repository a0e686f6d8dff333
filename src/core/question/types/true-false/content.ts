import { z } from 'zod';
import { emptyRich, richText } from '../../../base/rich';
import { richSchema } from '../../../base/richSchema';
import { needsStem } from '../../choices';
import { feedbackSchema, noFeedback } from '../../feedback';

/** A statement to be judged. */
export const trueFalseContent = z
  .object({
    type: z.literal('true-false'),
    stem: richSchema,
    /** Whether the statement is true. */
    answer: z.boolean({ error: 'Say whether the statement is true.' }),
    /** Feedback for picking one or the other. */
    onTrue: richSchema.optional(),
    onFalse: richSchema.optional(),
    feedback: feedbackSchema,
  })
  .superRefine(needsStem);

/** Valid content of a statement to be judged. */
export type TrueFalseContent = z.output<typeof trueFalseContent>;

/** A statement without text, of which nobody has said yet whether it is true. */
export const blankTrueFalse = (): TrueFalseContent => ({
  type: 'true-false',
  stem: emptyRich,
  // Missing until it is said, which the schema refuses to save.
  answer: undefined as unknown as boolean,
  feedback: noFeedback,
});

/** The words of a statement. */
export const trueFalseText = (content: TrueFalseContent): string => richText(content.stem);
