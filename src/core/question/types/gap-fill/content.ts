import { z } from 'zod';
import { emptyRich, isEmptyRich, type Rich, richText } from '../../../base/rich';
import { richSchema } from '../../../base/richSchema';
import { innerId, needsStem } from '../../choices';
import { feedbackSchema, noFeedback } from '../../feedback';
import { acceptedTextSchema, matchingRuleSchema, usualMatching } from '../../text/acceptedText';
import { checkAcceptedTexts } from '../../text/checkAcceptedTexts';
import { checkVariation, variationFields } from '../../variables/variation';
import { acceptedNumbers, blankAcceptedNumber, checkAcceptedNumbers } from '../numeric/content';
import { quantityFields } from '../numeric/units';
import { gapsIn } from './gapsIn';

const weight = z.number({ message: 'Give the weight as a number.' }).gt(0, 'A weight is more than 0.').max(1_000);

const textGap = z.object({
  id: innerId,
  kind: z.literal('text'),
  weight,
  accepted: z.array(acceptedTextSchema).min(1, 'Give the right answer.').max(100),
  matching: matchingRuleSchema,
});

const numberGap = z.object({
  id: innerId,
  kind: z.literal('number'),
  weight,
  accepted: acceptedNumbers,
  ...quantityFields,
});

const pickGap = z
  .object({
    id: innerId,
    kind: z.literal('pick'),
    weight,
    options: z
      .array(z.object({ id: innerId, content: richSchema, right: z.boolean() }))
      .min(2, 'Give at least two options.')
      .max(20, 'At most 20 options.'),
    /** A list opens on a press and may be shuffled; a row shows all options in their order. */
    look: z.enum(['list', 'row']),
    shuffle: z.boolean(),
  })
  .superRefine((gap, context) => {
    gap.options.forEach((option, i) => {
      if (isEmptyRich(option.content))
        context.addIssue({ code: 'custom', path: ['options', i, 'content'], message: 'This option is empty.' });
    });
    if (new Set(gap.options.map((option) => option.id)).size < gap.options.length)
      context.addIssue({ code: 'custom', path: ['options'], message: 'Two options carry the same id.' });
    const right = gap.options.filter((option) => option.right).length;
    if (right !== 1)
      context.addIssue({
        code: 'custom',
        path: ['options'],
        message: right === 0 ? 'Mark the right option.' : 'Only one option can be right.',
      });
  });

const gapSchema = z.discriminatedUnion('kind', [textGap, numberGap, pickGap]);
/** One gap: a text, a number or a pick from a list, with its key and its weight (more than 0, at most 1,000). */
export type Gap = z.output<typeof gapSchema>;

/** A running text with gaps, each a text, a number or a pick from a list. */
export const gapFillContent = z
  .object({
    type: z.literal('gap-fill'),
    /** The running text; its gap nodes name the gaps by id. */
    stem: richSchema,
    gaps: z.array(gapSchema).min(1, 'Make at least one gap in the text.').max(50, 'At most 50 gaps.'),
    ...variationFields,
    feedback: feedbackSchema,
  })
  .superRefine((content, context) => {
    needsStem(content, context);
    checkVariation(content, context);
    const problem = (message: string, ...path: (string | number)[]) =>
      context.addIssue({ code: 'custom', path, message });
    const placed = gapsIn(content.stem);
    if (new Set(placed).size < placed.length) problem('A gap stands twice in the text.', 'stem');
    const ids = content.gaps.map((gap) => gap.id);
    if (new Set(ids).size < ids.length) problem('Two gaps carry the same id.', 'gaps');
    if (placed.some((id) => !ids.includes(id))) problem('A gap in the text has no answer.', 'stem');
    content.gaps.forEach((gap, i) => {
      if (!placed.includes(gap.id)) problem('This gap stands nowhere in the text.', 'gaps', i);
      if (gap.kind === 'text') checkAcceptedTexts(gap.accepted, gap.matching, context, ['gaps', i, 'accepted']);
      if (gap.kind === 'number')
        checkAcceptedNumbers(gap.accepted, Boolean(content.variables?.length), context, ['gaps', i, 'accepted']);
    });
  });

/** Valid content of a gap-fill: every gap stands exactly once in the text. */
export type GapFillContent = z.output<typeof gapFillContent>;

/**
 * A gap of a kind.
 * @param id unlike those of the other gaps
 * @param right its right answer; for a pick the first option
 */
export const blankGap = (id: string, kind: Gap['kind'], right = ''): Gap => {
  switch (kind) {
    case 'text':
      return { id, kind, weight: 1, accepted: [{ text: right, credit: 1 }], matching: usualMatching };
    case 'number':
      return { id, kind, weight: 1, accepted: [{ ...blankAcceptedNumber(), value: right }] };
    case 'pick':
      return {
        id,
        kind,
        weight: 1,
        look: 'list',
        shuffle: true,
        options: [
          { id: 'a', content: right ? paragraph(right) : emptyRich, right: true },
          { id: 'b', content: emptyRich, right: false },
        ],
      };
  }
};

const paragraph = (text: string): Rich => ({
  type: 'doc',
  content: [{ type: 'paragraph', content: [{ type: 'text', text }] }],
});

/** A gap-fill without text and gaps. */
export const blankGapFill = (): GapFillContent => ({
  type: 'gap-fill',
  stem: emptyRich,
  gaps: [],
  feedback: noFeedback,
});

/** The running text and the words of pick-gaps. */
export const gapFillText = (content: GapFillContent): string =>
  [
    richText(content.stem),
    ...content.gaps.flatMap((gap) =>
      gap.kind === 'pick' ? gap.options.map((option) => richText(option.content)) : [],
    ),
  ].join('\n');
