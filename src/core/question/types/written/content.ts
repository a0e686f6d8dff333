import { z } from 'zod';
import { emptyRich, richText } from '../../../base/rich';
import { richSchema } from '../../../base/richSchema';
import { innerId, needsStem } from '../../choices';
import { feedbackSchema, noFeedback } from '../../feedback';
import { fileKinds } from './fileKinds';

const criterionSchema = z.object({
  id: innerId,
  name: z.string().trim().min(1, 'Name the criterion.').max(200, 'At most 200 characters.'),
  /** Relative to the weights of the other criteria. */
  weight: z.number({ message: 'Give the weight as a number.' }).gt(0, 'A weight is more than 0.').max(1_000),
  levels: z
    .array(
      z.object({
        id: innerId,
        name: z.string().trim().min(1, 'Name the level.').max(200, 'At most 200 characters.'),
        /** Share of the criterion's points that the level earns, 0 to 1. */
        share: z.number().min(0).max(1),
      }),
    )
    .min(2, 'A criterion needs at least two levels.')
    .max(10, 'At most 10 levels.')
    .refine(
      (levels) => levels.some((level) => level.share === 1),
      'One level must earn all the points of its criterion.',
    ),
});

/** What markers look at, and how much each counts. */
const rubricSchema = z.object({
  criteria: z.array(criterionSchema).min(1, 'A rubric needs at least one criterion.').max(20, 'At most 20 criteria.'),
});

/** 1 to 20 criteria, each with 2 to 10 levels of which one earns all its points. */
export type Rubric = z.output<typeof rubricSchema>;

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
    /** The answer is written on paper: nothing is entered, and a person marks it all the same. */
    onPaper: z.literal(true).optional(),
    /** Plain text unless said otherwise. */
    format: z.enum(['plain', 'rich']).optional(),
    rubric: rubricSchema.optional(),
    /** Files that may be handed in with the answer. */
    files: z
      .object({
        most: z.number().int().min(1).max(10, 'At most 10 files.'),
        kinds: z.array(z.enum(fileKinds)).min(1, 'Allow at least one kind of file.'),
        megabytes: z.number().gt(0).max(50, 'At most 50 MB for each file.'),
      })
      .optional(),
    feedback: feedbackSchema,
  })
  .superRefine((content, context) => {
    needsStem(content, context);
    const { least, most } = content.words;
    if (least !== null && most !== null && least > most)
      context.addIssue({ code: 'custom', path: ['words'], message: 'The fewest words are more than the most.' });
  });

/** Valid content of a written answer. */
export type WrittenContent = z.output<typeof writtenContent>;

/** A written answer without text, model answer and limits. */
export const blankWritten = (): WrittenContent => ({
  type: 'written',
  stem: emptyRich,
  modelAnswer: emptyRich,
  words: { least: null, most: null },
  feedback: noFeedback,
});

/** The words of a written question: its stem. */
export const writtenText = (content: WrittenContent): string => richText(content.stem);
