import { z } from 'zod';
import { emptyRich, richText } from '../../../base/rich';
import { richSchema } from '../../../base/richSchema';
import { needsStem } from '../../choices';
import { feedbackSchema, noFeedback } from '../../feedback';
import { acceptedTextSchema, matchingRuleSchema, usualMatching } from '../../text/acceptedText';
import { checkAcceptedTexts } from '../../text/checkAcceptedTexts';

/** A few words, compared with accepted answers; without any it is marked by hand. */
export const shortTextContent = z
  .object({
    type: z.literal('short-text'),
    stem: richSchema,
    accepted: z.array(acceptedTextSchema).max(100, 'At most 100 accepted answers.'),
    matching: matchingRuleSchema,
    feedback: feedbackSchema,
  })
  .superRefine((content, context) => {
    needsStem(content, context);
    checkAcceptedTexts(content.accepted, content.matching, context, ['accepted']);
  });

/** Valid content of a short text; without accepted answers a person marks it. */
export type ShortTextContent = z.output<typeof shortTextContent>;

/** A short text with one empty accepted answer. */
export const blankShortText = (): ShortTextContent => ({
  type: 'short-text',
  stem: emptyRich,
  accepted: [{ text: '', credit: 1 }],
  matching: usualMatching,
  feedback: noFeedback,
});

/** The words of a short text: its stem. */
export const shortTextText = (content: ShortTextContent): string => richText(content.stem);
