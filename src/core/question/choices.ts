import { z } from 'zod';
import { emptyRich, isEmptyRich, type Rich, richNodes } from '../base/rich';
import { richSchema } from '../base/richSchema';

/** How many choices a choice question may have. */
export const choiceLimits = { fewest: 2, most: 20 };

/** Ids inside a question: they stay the same through all its versions. */
export const innerId = z.string().regex(/^[a-z0-9]{1,20}$/);

const choiceSchema = z.object({
  id: innerId,
  content: richSchema,
  right: z.boolean(),
  /** A pinned choice keeps its place when the others are shuffled ("none of these" at the end). */
  pinned: z.boolean().default(false),
  feedback: richSchema.optional(),
});

/** The choices of a choice question, each with words or a picture. */
export const choicesSchema = z
  .array(choiceSchema)
  .min(choiceLimits.fewest, 'A choice question needs at least two choices.')
  .max(choiceLimits.most, 'A choice question takes at most 20 choices.')
  .superRefine((choices, context) => {
    choices.forEach((choice, i) => {
      if (isEmptyRich(choice.content))
        context.addIssue({ code: 'custom', path: [i, 'content'], message: 'This choice is empty.' });
    });
    if (new Set(choices.map((choice) => choice.id)).size < choices.length)
      context.addIssue({ code: 'custom', message: 'Two choices carry the same id.' });
  });

/** One choice of a choice question. */
export type Choice = z.output<typeof choiceSchema>;

/** Four empty choices. None is right until someone says so: a key that was never thought of would be believed. */
export const blankChoices = (): Choice[] =>
  ['a', 'b', 'c', 'd'].map((id) => ({ id, content: emptyRich, right: false, pinned: false }));

type WithStem = {
  type: string;
  stem: Rich;
  feedback?: Partial<Record<string, Rich>>;
  variables?: readonly { id: string }[];
};

/** Reports a question without any text, and chips in it that stand for nothing. For the schema of every type. */
export function needsStem(content: WithStem, context: z.RefinementCtx): void {
  const problem = (message: string, ...path: string[]) => context.addIssue({ code: 'custom', path, message });
  if (isEmptyRich(content.stem)) problem('The question has no text yet.', 'stem');
  const known = new Set((content.variables ?? []).map((variable) => variable.id));
  const texts: [Rich | undefined, ...string[]][] = [
    [content.stem, 'stem'],
    ...Object.entries(content.feedback ?? {}).map(([part, rich]): [Rich | undefined, string, string] => [
      rich,
      'feedback',
      part,
    ]),
  ];
  for (const [rich, ...path] of texts) {
    const nodes = rich ? [...richNodes(rich)] : [];
    if (nodes.some((node) => node.type === 'variable' && !known.has(node.attrs.id)))
      problem('A value stands in this text that is not declared.', ...path);
    if (nodes.some((node) => node.type === 'gap') && (!('gaps' in content) || path[0] !== 'stem'))
      problem('A gap can stand only in the text of a gap-fill question.', ...path);
  }
}

/** The first of a, b, c, … c0, c1, … that no item of a question carries yet. */
export function freeId(taken: readonly { id: string }[], prefix = 'c'): string {
  const used = new Set(taken.map((one) => one.id));
  for (let n = 0; ; n++) if (!used.has(`${prefix}${n}`)) return `${prefix}${n}`;
}
