import { z } from 'zod';
import { emptyRich, richText } from '../../../base/rich';
import { richSchema } from '../../../base/richSchema';
import { needsStem } from '../../choices';
import { feedbackSchema, noFeedback } from '../../feedback';
import { checkVariation, variationFields } from '../../variables/variation';
import { readNumber } from './readNumber';
import { quantityFields } from './units';

const acceptedNumberSchema = z
  .object({
    /** As the author wrote it: a number, read by the same rules as a student's, or a formula on the variables. */
    value: z.string().trim().min(1, 'Give the value.').max(300),
    tolerance: z.object({
      kind: z.enum(['absolute', 'relative', 'significant']),
      /**
       * Absolute: in the unit of the value. Relative: a share of the value, 0.02 for 2 %. Significant: the number of
       * significant digits that must be right.
       */
      amount: z.number().min(0, 'A tolerance cannot be negative.').finite(),
    }),
    /** A credit of 0 is for a foreseen wrong answer that has its own feedback. */
    credit: z.number().min(0).max(1),
    feedback: richSchema.optional(),
  })
  .superRefine(({ value, tolerance }, context) => {
    const problem = (message: string) => context.addIssue({ code: 'custom', path: ['tolerance'], message });
    const read = readNumber(value);
    if (read.ok && read.value === 0 && tolerance.kind !== 'absolute')
      problem('A share of 0 is 0: give the tolerance as an amount.');
    if (
      tolerance.kind === 'significant' &&
      !(Number.isInteger(tolerance.amount) && tolerance.amount >= 1 && tolerance.amount <= 15)
    )
      problem('Significant digits are a whole number from 1 to 15.');
  });

/** An accepted number or formula with its tolerance, and its credit in [0, 1]. */
export type AcceptedNumber = z.output<typeof acceptedNumberSchema>;

/** The accepted values of a numeric question or of a number gap: 1 to 20. */
export const acceptedNumbers = z.array(acceptedNumberSchema).min(1, 'Give the right answer.').max(20);

/** Reports accepted values that are neither number nor formula, and a key that nobody can fully meet. */
export function checkAcceptedNumbers(
  accepted: readonly AcceptedNumber[],
  withVariables: boolean,
  context: z.RefinementCtx,
  path: (string | number)[],
): void {
  accepted.forEach((one, i) => {
    if (!withVariables && !readNumber(one.value).ok)
      context.addIssue({
        code: 'custom',
        path: [...path, i, 'value'],
        message: 'Write a number, such as 12, 1.5 or 3/4.',
      });
  });
  if (!accepted.some((one) => one.credit === 1))
    context.addIssue({ code: 'custom', path, message: 'One answer must earn full credit.' });
}

/** A number, accepted within a tolerance; its values may differ from paper to paper. */
export const numericContent = z
  .object({
    type: z.literal('numeric'),
    stem: richSchema,
    accepted: acceptedNumbers,
    ...quantityFields,
    ...variationFields,
    feedback: feedbackSchema,
  })
  .superRefine((content, context) => {
    needsStem(content, context);
    checkAcceptedNumbers(content.accepted, Boolean(content.variables?.length), context, ['accepted']);
    checkVariation(content, context);
  });

/** Valid content of a numeric question. */
export type NumericContent = z.output<typeof numericContent>;

/**
 * An accepted value that is not typed yet, exact.
 * @param credit in [0, 1]
 */
export const blankAcceptedNumber = (credit = 1): AcceptedNumber => ({
  value: '',
  tolerance: { kind: 'absolute', amount: 0 },
  credit,
});

/** A numeric question with one empty value. */
export const blankNumeric = (): NumericContent => ({
  type: 'numeric',
  stem: emptyRich,
  accepted: [blankAcceptedNumber()],
  feedback: noFeedback,
});

/** The words of a numeric question: its stem. */
export const numericText = (content: NumericContent): string => richText(content.stem);
