import { z } from 'zod';
import { emptyRich, isEmptyRich, richText } from '../../../base/rich';
import { richSchema } from '../../../base/richSchema';
import { feedbackSchema, noFeedback } from '../../feedback';
import { readNumber } from './readNumber';

const numberText = z
  .string()
  .max(60)
  .refine((text) => readNumber(text).ok, 'Write a number, such as 12, 1.5 or 3/4.');

const acceptedSchema = z
  .object({
    /** As the author wrote it; read by the same rules as a student's answer. */
    value: numberText,
    tolerance: z.object({
      kind: z.enum(['absolute', 'relative']),
      /** Absolute: in the unit of the value. Relative: a share of the value, 0.02 for 2 %. */
      amount: z.number().min(0, 'A tolerance cannot be negative.').finite(),
    }),
    credit: z.number().gt(0).lte(1),
    feedback: richSchema.optional(),
  })
  .superRefine((accepted, context) => {
    const value = readNumber(accepted.value);
    if (value.ok && value.value === 0 && accepted.tolerance.kind === 'relative')
      context.addIssue({
        code: 'custom',
        path: ['tolerance'],
        message: 'A share of 0 is 0: give the tolerance as an amount.',
      });
  });

/** A number, accepted within a tolerance. */
export const numericContent = z
  .object({
    type: z.literal('numeric'),
    stem: richSchema,
    accepted: z.array(acceptedSchema).min(1, 'Give the right answer.').max(20),
    feedback: feedbackSchema,
  })
  .superRefine((content, context) => {
    if (isEmptyRich(content.stem))
      context.addIssue({ code: 'custom', path: ['stem'], message: 'The question has no text yet.' });
    if (!content.accepted.some((accepted) => accepted.credit === 1))
      context.addIssue({ code: 'custom', path: ['accepted'], message: 'One answer must earn full credit.' });
  });

export type NumericContent = z.output<typeof numericContent>;
export type AcceptedNumber = NumericContent['accepted'][number];

export const blankNumeric = (): NumericContent => ({
  type: 'numeric',
  stem: emptyRich,
  accepted: [{ value: '', tolerance: { kind: 'absolute', amount: 0 }, credit: 1 }],
  feedback: noFeedback,
});

export const numericText = (content: NumericContent): string => richText(content.stem);
