import { z } from 'zod';
import { emptyRich, isEmptyRich, richText } from '../../../base/rich';
import { richSchema } from '../../../base/richSchema';
import { innerId, needsStem } from '../../choices';
import { feedbackSchema, noFeedback } from '../../feedback';

/** How an order becomes credit; the definitions stand in {@link scoreOrdering}. */
export const orderingRules = ['all-or-nothing', 'in-place', 'pairs'] as const;
/** One rule by which an order becomes credit. */
export type OrderingRule = (typeof orderingRules)[number];

/** Items to be put in order; they stand here in the right one. */
export const orderingContent = z
  .object({
    type: z.literal('ordering'),
    stem: richSchema,
    items: z
      .array(z.object({ id: innerId, content: richSchema }))
      .min(2, 'Ordering needs at least two items.')
      .max(20, 'At most 20 items.'),
    rule: z.enum(orderingRules),
    feedback: feedbackSchema,
  })
  .superRefine((content, context) => {
    needsStem(content, context);
    content.items.forEach((item, i) => {
      if (isEmptyRich(item.content))
        context.addIssue({ code: 'custom', path: ['items', i, 'content'], message: 'This item is empty.' });
    });
    if (new Set(content.items.map((item) => item.id)).size < content.items.length)
      context.addIssue({ code: 'custom', path: ['items'], message: 'Two items carry the same id.' });
    const texts = content.items.map((item) => JSON.stringify(item.content));
    texts.forEach((text, i) => {
      if (texts.indexOf(text) !== i)
        context.addIssue({
          code: 'custom',
          path: ['items', i, 'content'],
          message: 'Two items read the same, so nobody could tell their order.',
        });
    });
  });

/** Valid content of an ordering: 2 to 20 items that all read differently, in the right order. */
export type OrderingContent = z.output<typeof orderingContent>;

/** An ordering with three empty items. */
export const blankOrdering = (): OrderingContent => ({
  type: 'ordering',
  stem: emptyRich,
  items: ['a', 'b', 'c'].map((id) => ({ id, content: emptyRich })),
  rule: 'pairs',
  feedback: noFeedback,
});

/** The stem and the items as words. */
export const orderingText = (content: OrderingContent): string =>
  [richText(content.stem), ...content.items.map((item) => richText(item.content))].join('\n');
