import { z } from 'zod';
import { emptyRich } from '../../../base/rich';
import { richSchema } from '../../../base/richSchema';
import { choiceLabels } from '../../choiceLabels';
import { blankChoices, choicesSchema, needsStem } from '../../choices';
import { feedbackSchema, noFeedback } from '../../feedback';

/** How picks become credit; the definitions stand in {@link scoreMultipleChoice}. */
export const creditRules = ['all-or-nothing', 'wrong-cancels-right', 'each-judged'] as const;
/** One rule by which picks become credit. */
export type CreditRule = (typeof creditRules)[number];

/** Any number of right choices, at least one. */
export const multipleChoiceContent = z
  .object({
    type: z.literal('multiple-choice'),
    stem: richSchema,
    choices: choicesSchema,
    shuffle: z.boolean(),
    /** How its choices are labelled, whatever the exam says. */
    labels: choiceLabels.optional(),
    rule: z.enum(creditRules),
    feedback: feedbackSchema,
  })
  .superRefine((content, context) => {
    needsStem(content, context);
    if (!content.choices.some((choice) => choice.right))
      context.addIssue({ code: 'custom', path: ['choices'], message: 'Mark at least one right choice.' });
  });

/** Valid content of a multiple choice: 2 to 20 choices, at least one of them right. */
export type MultipleChoiceContent = z.output<typeof multipleChoiceContent>;

/** A multiple choice with four empty choices, none of them right. */
export const blankMultipleChoice = (): MultipleChoiceContent => ({
  type: 'multiple-choice',
  stem: emptyRich,
  choices: blankChoices(),
  shuffle: true,
  rule: 'wrong-cancels-right',
  feedback: noFeedback,
});
