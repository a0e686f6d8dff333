import { z } from 'zod';
import { emptyRich, isEmptyRich, richText } from '../../../base/rich';
import { richSchema } from '../../../base/richSchema';
import { feedbackSchema, noFeedback } from '../../feedback';

/** An answer in the student's own words, marked by hand. */
export const writtenContent = z
  .object({
    type: z.literal('written'),
    stem: richSchema,
    /** What a full answer holds; for markers, and for students once solutions are released. */
    modelAnswer: richSchema,
    /** Advice to the student, counted live; an answer outside the limits is still taken. */
    words: z.object({
      least: z.number().int().min(0).max(20_000).nullable(),
      most: z.number().int().min(1).max(20_000).nullable(),
    }),
    feedback: feedbackSchema,
  })
  .superRefine((content, context) => {
    if (isEmptyRich(content.stem))
      context.addIssue({ code: 'custom', path: ['stem'], message: 'The question has no text yet.' });
    const { least, most } = content.words;
    if (least !== null && most !== null && least > most)
      context.addIssue({ code: 'custom', path: ['words'], message: 'The fewest words are more than the most.' });
  });

export type WrittenContent = z.output<typeof writtenContent>;

export const blankWritten = (): WrittenContent => ({
  type: 'written',
  stem: emptyRich,
  modelAnswer: emptyRich,
  words: { least: null, most: null },
  feedback: noFeedback,
});

export const writtenText = (content: WrittenContent): string => richText(content.stem);
