import { z } from 'zod';
import { emptyRich } from '../../../base/rich';
import { richSchema } from '../../../base/richSchema';
import { choiceLabels } from '../../choiceLabels';
import { blankChoices, choicesSchema, needsStem } from '../../choices';
import { feedbackSchema, noFeedback } from '../../feedback';

/** One right choice out of several. */
export const singleChoiceContent = z
  .object({
    type: z.literal('single-choice'),
    stem: richSchema,
    choices: choicesSchema,
    shuffle: z.boolean(),
    /** How its choices are labelled, whatever the exam says. */
    labels: choiceLabels.optional(),
    feedback: feedbackSchema,
  })
  .superRefine((content, context) => {
    needsStem(content, context);
    const right = content.choices.filter((choice) => choice.right).length;
    if (right !== 1)
      context.addIssue({
        code: 'custom',
        path: ['choices'],
        message: right === 0 ? 'Mark the right choice.' : 'Only one choice can be right.',
      });
  });

/** Valid content of a single choice: 2 to 20 choices, exactly one of them right. */
export type SingleChoiceContent = z.output<typeof singleChoiceContent>;

/** A single choice with four empty choices, none of them right. */
export const blankSingleChoice = (): SingleChoiceContent => ({
  type: 'single-choice',
  stem: emptyRich,
  choices: blankChoices(),
  shuffle: true,
  feedback: noFeedback,
});
