import { z } from 'zod';
import { richSchema } from '../../base/richSchema';

/** One accepted answer in words. A credit of 0 is for a foreseen wrong answer that has its own feedback. */
export const acceptedTextSchema = z.object({
  text: z
    .string()
    .trim()
    .min(1, 'Write the answer, or remove this row: a short text without answers is marked by hand.')
    .max(200, 'At most 200 characters.'),
  credit: z.number().min(0).max(1),
  feedback: richSchema.optional(),
});

/** An accepted answer: at most 200 characters, its credit in [0, 1], and what is said to whoever gives it. */
export type AcceptedText = z.output<typeof acceptedTextSchema>;

/** How a student's words are compared with the accepted ones. */
export const matchingRuleSchema = z
  .object({
    /** Differences that do not count. */
    ignore: z.object({ case: z.boolean(), accents: z.boolean(), spacing: z.boolean() }),
    /** Typing slips forgiven; fewer in short answers, where a slip makes another word. */
    slips: z.number().int().min(0).max(5),
    wildcards: z.boolean(),
  })
  .refine((rule) => !(rule.wildcards && rule.slips > 0), {
    message: 'Wildcards and forgiven typing slips cannot be used together.',
    path: ['slips'],
  });

/** How words are compared; wildcards and forgiven slips exclude one another. */
export type MatchingRule = z.output<typeof matchingRuleSchema>;

/** How words are compared unless an author says otherwise: case, accents, spaces and punctuation do not count. */
export const usualMatching: MatchingRule = {
  ignore: { case: true, accents: true, spacing: true },
  slips: 0,
  wildcards: false,
};
