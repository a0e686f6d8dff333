import { z } from 'zod';
import { emptyRich, isEmptyRich, richText } from '../../../base/rich';
import { richSchema } from '../../../base/richSchema';
import { innerId, needsStem } from '../../choices';
import { feedbackSchema, noFeedback } from '../../feedback';
import { fold } from '../../text/fold';

const answerText = z.string().trim().min(1, 'Write what belongs to it.').max(300, 'At most 300 characters.');

/** Prompts, each with the text that belongs to it; the same text may belong to several. */
export const matchingContent = z
  .object({
    type: z.literal('matching'),
    stem: richSchema,
    pairs: z
      .array(z.object({ id: innerId, prompt: richSchema, answer: answerText }))
      .min(2, 'Matching needs at least two pairs.')
      .max(20, 'At most 20 pairs.'),
    /** Options that belong to nothing. */
    extras: z.array(answerText).max(20, 'At most 20 extra options.'),
    rule: z.enum(['share', 'all-or-nothing']),
    feedback: feedbackSchema,
  })
  .superRefine((content, context) => {
    needsStem(content, context);
    content.pairs.forEach((pair, i) => {
      if (isEmptyRich(pair.prompt))
        context.addIssue({ code: 'custom', path: ['pairs', i, 'prompt'], message: 'This prompt is empty.' });
    });
    if (new Set(content.pairs.map((pair) => pair.id)).size < content.pairs.length)
      context.addIssue({ code: 'custom', path: ['pairs'], message: 'Two pairs carry the same id.' });
    const answers = new Set(content.pairs.map((pair) => sameText(pair.answer)));
    content.extras.forEach((extra, i) => {
      if (answers.has(sameText(extra)))
        context.addIssue({
          code: 'custom',
          path: ['extras', i],
          message: 'This belongs to a prompt, so it is no extra.',
        });
    });
  });

/** Valid content of a matching: 2 to 20 pairs, at most 20 extras, none of which belongs to a prompt. */
export type MatchingContent = z.output<typeof matchingContent>;

/** Two options are the same when their texts are, apart from spaces at the ends. */
export const sameText = (text: string): string =>
  fold(text, { case: false, accents: false, spacing: false }).replace(/\s+/g, ' ');

/** The different texts to choose from: those that belong to a prompt, then the extras. */
export const optionsOf = (content: MatchingContent): { id: string; text: string }[] => {
  const texts = [...content.pairs.map((pair) => pair.answer), ...content.extras];
  const seen = new Set<string>();
  return texts.flatMap((text) => {
    const same = sameText(text);
    if (seen.has(same)) return [];
    seen.add(same);
    return [{ id: same, text }];
  });
};

/** A matching with three empty pairs. */
export const blankMatching = (): MatchingContent => ({
  type: 'matching',
  stem: emptyRich,
  pairs: ['a', 'b', 'c'].map((id) => ({ id, prompt: emptyRich, answer: '' })),
  extras: [],
  rule: 'share',
  feedback: noFeedback,
});

/** The stem, the pairs and the extras as words. */
export const matchingText = (content: MatchingContent): string =>
  [
    richText(content.stem),
    ...content.pairs.map((pair) => `${richText(pair.prompt)} ${pair.answer}`),
    ...content.extras,
  ].join('\n');
