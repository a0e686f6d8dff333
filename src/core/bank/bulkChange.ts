import { z } from 'zod';
import { id } from '../base/id';
import type { QuestionContent } from '../question/content';
import { difficulties } from '../question/types';

const objectives = z.array(id('objective')).max(50);
const tag = z
  .string()
  .trim()
  .min(1)
  .max(60)
  .regex(/^[^,;]*$/, 'A tag holds no comma.');

/** One thing done to many questions at once. It adds or removes exactly what it names. */
export const bulkChangeSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('points'), points: z.number().gt(0, 'Points must be more than 0.').max(1_000) }),
  z.object({ kind: z.literal('difficulty'), difficulty: z.enum(difficulties).nullable() }),
  z.object({ kind: z.literal('move'), categoryId: id('category') }),
  z.object({ kind: z.literal('add-tags'), tags: z.array(tag).min(1, 'Name a tag.').max(30) }),
  z.object({ kind: z.literal('remove-tags'), tags: z.array(tag).min(1, 'Name a tag.').max(30) }),
  z.object({ kind: z.literal('add-objectives'), objectives: objectives.min(1, 'Name an objective.') }),
  z.object({ kind: z.literal('remove-objectives'), objectives: objectives.min(1, 'Name an objective.') }),
  z.object({ kind: z.literal('shuffle'), shuffle: z.boolean() }),
  z.object({ kind: z.literal('choices'), count: z.number().int().min(2).max(20) }),
  z.object({ kind: z.literal('pin'), places: z.record(z.string(), z.array(z.string())) }),
  z.object({ kind: z.literal('spread') }),
  z.object({ kind: z.literal('retire') }),
  /** Retired questions come into use again. */
  z.object({ kind: z.literal('bring-back') }),
]);

/** One change that is made to many questions at once. */
export type BulkChange = z.output<typeof bulkChangeSchema>;

/** The changes that touch the content of questions, and so may make new versions. */
export type ContentChange = Extract<BulkChange, { kind: 'shuffle' | 'choices' | 'pin' }>;

/**
 * The content after a change, or the same object where the change does not concern it.
 *
 * - shuffle: turns it on or off for single and multiple choice;
 * - choices: keeps so many choices; all right ones and pinned ones stay, then wrong ones in their order. A question with
 *   more right and pinned choices than that, or fewer choices, is left as it is;
 * - pin: pins the named choices of a question.
 *
 * @param questionId for changes that name questions one by one
 */
export function changedContent(content: QuestionContent, change: ContentChange, questionId: string): QuestionContent {
  if (!('choices' in content)) return content;
  switch (change.kind) {
    case 'shuffle':
      return content.shuffle === change.shuffle ? content : { ...content, shuffle: change.shuffle };
    case 'choices': {
      const must = content.choices.filter((choice) => choice.right || choice.pinned).length;
      if (content.choices.length <= change.count || must > change.count) return content;
      let spare = change.count - must;
      const choices = content.choices.filter((choice) => choice.right || choice.pinned || spare-- > 0);
      return { ...content, choices };
    }
    case 'pin': {
      const named = Object.hasOwn(change.places, questionId) ? (change.places[questionId] ?? []) : [];
      const loose = content.choices.some((choice) => named.includes(choice.id) && !choice.pinned);
      if (!loose) return content;
      return {
        ...content,
        choices: content.choices.map((choice) => (named.includes(choice.id) ? { ...choice, pinned: true } : choice)),
      };
    }
  }
}
