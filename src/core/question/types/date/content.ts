import { z } from 'zod';
import { emptyRich, richText } from '../../../base/rich';
import { richSchema } from '../../../base/richSchema';
import { needsStem } from '../../choices';
import { feedbackSchema, noFeedback } from '../../feedback';
import { isCalendarDate } from './calendarDate';

const calendarDate = z.string().refine(isCalendarDate, 'Give a date.');

/** A calendar date, for surveys. It has no right answer. */
export const dateContent = z
  .object({
    type: z.literal('date'),
    stem: richSchema,
    earliest: calendarDate.nullable(),
    latest: calendarDate.nullable(),
    feedback: feedbackSchema,
  })
  .superRefine((content, context) => {
    needsStem(content, context);
    if (content.earliest && content.latest && content.earliest > content.latest)
      context.addIssue({ code: 'custom', path: ['latest'], message: 'The latest date lies before the earliest.' });
  });

/** Valid content of a date question; limits are inclusive, null where there is none. */
export type DateContent = z.output<typeof dateContent>;

/** A date question without text and limits. */
export const blankDate = (): DateContent => ({
  type: 'date',
  stem: emptyRich,
  earliest: null,
  latest: null,
  feedback: noFeedback,
});

/** The words of a date question: its stem. */
export const dateText = (content: DateContent): string => richText(content.stem);
