import { type Rich, type RichInline, richFromText } from '../src/core/base/rich';
import type { ContentOf, QuestionContent } from '../src/core/question/content';
import { usualMatching } from '../src/core/question/text/acceptedText';
import { blankGap, type Gap } from '../src/core/question/types/gap-fill/content';
import type { CreditRule } from '../src/core/question/types/multiple-choice/content';
import type { OrderingRule } from '../src/core/question/types/ordering/content';
import type { Variable } from '../src/core/question/variables/variation';

/**
 * Short ways to write the demo's questions as content. In a text, `[name]` is the place of a value or a gap of that
 * name, `[name.1]` a value with one decimal, and `$…$` is mathematics.
 */
type Names = { values?: readonly Variable[]; gaps?: readonly string[] };

export function say(text: string, names: Names = {}): Rich {
  const inline = (line: string): RichInline[] =>
    line.split(/(\[[a-zA-Z]\w*(?:\.\d)?\]|\$[^$]+\$)/).flatMap((piece): RichInline[] => {
      if (piece === '') return [];
      if (piece.startsWith('$')) return [{ type: 'math', attrs: { tex: piece.slice(1, -1), display: false } }];
      const [, name, decimals] = /^\[(\w+)(?:\.(\d))?\]$/.exec(piece) ?? [];
      const value = names.values?.find((one) => one.name === name);
      if (value)
        return [
          { type: 'variable', attrs: { id: value.id, decimals: decimals === undefined ? null : Number(decimals) } },
        ];
      if (name && names.gaps?.includes(name)) return [{ type: 'gap', attrs: { id: name } }];
      return [{ type: 'text', text: piece }];
    });
  return {
    type: 'doc',
    content: text.split('\n').map((line) => {
      const content = inline(line);
      return content.length ? { type: 'paragraph', content } : { type: 'paragraph' };
    }),
  };
}

const solved = (solution?: string, names?: Names) => (solution ? { solution: say(solution, names) } : {});

export const several = (
  ask: string,
  right: string[],
  wrong: string[],
  rule: CreditRule = 'wrong-cancels-right',
  solution?: string,
): ContentOf<'multiple-choice'> => {
  const texts = [...right.map((text) => ({ text, right: true })), ...wrong.map((text) => ({ text, right: false }))];
  // Right and wrong ones mixed as an author would write them, the same each time.
  const mixed = texts
    .map((one, i) => ({ ...one, at: (i * 7 + ask.length) % texts.length }))
    .sort((a, b) => a.at - b.at);
  return {
    type: 'multiple-choice',
    stem: say(ask),
    shuffle: true,
    rule,
    feedback: solved(solution),
    choices: mixed.map(({ text, right }, i) => ({ id: `c${i}`, content: say(text), right, pinned: false })),
  };
};

export const one = (ask: string, right: string, wrong: string[], last?: string): ContentOf<'single-choice'> => {
  const place = ask.length % (wrong.length + 1);
  const texts = [...wrong.slice(0, place), right, ...wrong.slice(place)];
  return {
    type: 'single-choice',
    stem: say(ask),
    shuffle: true,
    feedback: {},
    choices: [
      ...texts.map((text, i) => ({ id: `c${i}`, content: say(text), right: text === right, pinned: false })),
      ...(last ? [{ id: 'last', content: say(last), right: false, pinned: true }] : []),
    ],
  };
};

export const statement = (text: string, answer: boolean, why?: string): ContentOf<'true-false'> => ({
  type: 'true-false',
  stem: say(text),
  answer,
  feedback: solved(why),
});

export const words = (
  ask: string,
  accepted: (string | [text: string, credit: number])[],
  slips = 1,
  solution?: string,
): ContentOf<'short-text'> => ({
  type: 'short-text',
  stem: say(ask),
  accepted: accepted.map((entry) =>
    typeof entry === 'string' ? { text: entry, credit: 1 } : { text: entry[0], credit: entry[1] },
  ),
  matching: { ...usualMatching, slips },
  feedback: solved(solution),
});

type Source = [from: number, to: number, step: number] | number[][] | string;

/** Values by name: a range, a list (in double brackets) or a formula. */
export const values = (sources: Record<string, Source>): Variable[] =>
  Object.entries(sources).map(([name, source], i) => ({
    id: `v${i}`,
    name,
    source:
      typeof source === 'string'
        ? { kind: 'formula', formula: source }
        : Array.isArray(source[0])
          ? { kind: 'list', values: source[0] }
          : { kind: 'range', from: source[0] as number, to: source[1] as number, step: source[2] as number },
  }));

export const number = (
  ask: string,
  value: string,
  more: {
    within?: number;
    percent?: number;
    digits?: number;
    values?: Variable[];
    when?: string[];
    units?: ContentOf<'numeric'>['units'];
    also?: [value: string, within: number, credit: number, why?: string][];
    solution?: string;
  } = {},
): ContentOf<'numeric'> => ({
  type: 'numeric',
  stem: say(ask, { values: more.values }),
  accepted: [
    {
      value,
      credit: 1,
      tolerance: more.digits
        ? { kind: 'significant', amount: more.digits }
        : more.percent
          ? { kind: 'relative', amount: more.percent / 100 }
          : { kind: 'absolute', amount: more.within ?? 0 },
    },
    ...(more.also ?? []).map(([text, within, credit, why]) => ({
      value: text,
      credit,
      tolerance: { kind: 'absolute' as const, amount: within },
      ...(why ? { feedback: richFromText(why) } : {}),
    })),
  ],
  ...(more.values ? { variables: more.values } : {}),
  ...(more.when ? { constraints: more.when } : {}),
  ...(more.units ? { units: more.units } : {}),
  feedback: solved(more.solution, { values: more.values }),
});

type GapAnswer =
  | string
  | { number: string; within?: number }
  | { pick: [right: string, ...wrong: string[]]; row?: boolean };

export const gaps = (
  text: string,
  answers: Record<string, GapAnswer>,
  more: { values?: Variable[]; solution?: string } = {},
): ContentOf<'gap-fill'> => ({
  type: 'gap-fill',
  stem: say(text, { gaps: Object.keys(answers), values: more.values }),
  gaps: Object.entries(answers).map(([id, answer]): Gap => {
    if (typeof answer === 'string') return blankGap(id, 'text', answer);
    if ('number' in answer)
      return {
        id,
        kind: 'number',
        weight: 1,
        accepted: [{ value: answer.number, credit: 1, tolerance: { kind: 'absolute', amount: answer.within ?? 0 } }],
      };
    return {
      id,
      kind: 'pick',
      weight: 1,
      look: answer.row ? 'row' : 'list',
      shuffle: true,
      options: answer.pick.map((option, i) => ({ id: `o${i}`, content: say(option, more), right: i === 0 })),
    };
  }),
  ...(more.values ? { variables: more.values } : {}),
  feedback: solved(more.solution, { values: more.values }),
});

export const match = (
  ask: string,
  pairs: Record<string, string>,
  extras: string[] = [],
  rule: 'share' | 'all-or-nothing' = 'share',
): ContentOf<'matching'> => ({
  type: 'matching',
  stem: say(ask),
  pairs: Object.entries(pairs).map(([prompt, answer], i) => ({ id: `p${i}`, prompt: say(prompt), answer })),
  extras,
  rule,
  feedback: {},
});

export const order = (
  ask: string,
  items: string[],
  rule: OrderingRule = 'pairs',
  solution?: string,
): ContentOf<'ordering'> => ({
  type: 'ordering',
  stem: say(ask),
  items: items.map((text, i) => ({ id: `i${i}`, content: say(text) })),
  rule,
  feedback: solved(solution),
});

export const essay = (
  ask: string,
  model: string,
  criteria: [name: string, weight: number][],
  more: Partial<ContentOf<'written'>> = {},
): ContentOf<'written'> => ({
  type: 'written',
  stem: say(ask),
  modelAnswer: say(model),
  words: { least: 40, most: 200 },
  rubric: {
    criteria: criteria.map(([name, weight], i) => ({
      id: `k${i}`,
      name,
      weight,
      levels: [
        { id: 'l0', name: 'missing', share: 0 },
        { id: 'l1', name: 'in part', share: 0.5 },
        { id: 'l2', name: 'in full', share: 1 },
      ],
    })),
  },
  feedback: {},
  ...more,
});

export const scale = (ask: string, low: string, high: string, steps = 5): ContentOf<'rating-scale'> => ({
  type: 'rating-scale',
  stem: say(ask),
  steps,
  low,
  high,
  cannotSay: true,
  feedback: {},
});

export type Composed = {
  name: string;
  in: string;
  objective: string;
  difficulty: 'easy' | 'medium' | 'hard' | null;
  content: QuestionContent;
};
