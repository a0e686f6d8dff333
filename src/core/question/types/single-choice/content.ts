import { z } from 'zod';
import { emptyRich, isEmptyRich, richText } from '../../../base/rich';
import { richSchema } from '../../../base/richSchema';
import { feedbackSchema, noFeedback } from '../../feedback';

/** How many choices a choice question may have. */
export const choiceLimits = { fewest: 2, most: 20 };

const choiceSchema = z.object({
  /** Stays the same through all versions of the question. */
  id: z.string().regex(/^[a-z0-9]{1,20}$/),
  content: richSchema,
  right: z.boolean(),
  /** A pinned choice keeps its place when the others are shuffled ("none of these" at the end). */
  pinned: z.boolean().default(false),
  feedback: richSchema.optional(),
});

/** One right choice out of several. */
export const singleChoiceContent = z
  .object({
    type: z.literal('single-choice'),
    stem: richSchema,
    choices: z
      .array(choiceSchema)
      .min(choiceLimits.fewest, 'A choice question needs at least two choices.')
      .max(choiceLimits.most, 'A choice question takes at most 20 choices.'),
    shuffle: z.boolean(),
    feedback: feedbackSchema,
  })
  .superRefine((content, context) => {
    const problem = (message: string, ...path: (string | number)[]) =>
      context.addIssue({ code: 'custom', message, path });
    if (isEmptyRich(content.stem)) problem('The question has no text yet.', 'stem');
    content.choices.forEach((choice, i) => {
      if (isEmptyRich(choice.content)) problem('This choice is empty.', 'choices', i, 'content');
    });
    if (new Set(content.choices.map((choice) => choice.id)).size < content.choices.length)
      problem('Two choices carry the same id.', 'choices');
    const right = content.choices.filter((choice) => choice.right).length;
    if (right !== 1) problem(right === 0 ? 'Mark the right choice.' : 'Only one choice can be right.', 'choices');
  });

export type SingleChoiceContent = z.output<typeof singleChoiceContent>;
export type Choice = SingleChoiceContent['choices'][number];

export const blankSingleChoice = (): SingleChoiceContent => ({
  type: 'single-choice',
  stem: emptyRich,
  choices: ['a', 'b', 'c', 'd'].map((id, i) => ({ id, content: emptyRich, right: i === 0, pinned: false })),
  shuffle: true,
  feedback: noFeedback,
});

/** Stem and choices as words, for lists and search. */
export const singleChoiceText = (content: SingleChoiceContent): string =>
  [richText(content.stem), ...content.choices.map((choice) => richText(choice.content))].join('\n');
