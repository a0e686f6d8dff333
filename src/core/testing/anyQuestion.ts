import fc from 'fast-check';
import { type Rich, richFromText } from '../base/rich';
import type { ContentOf, QuestionContent } from '../question/content';
import type { QuestionType } from '../question/types';
import { creditRules } from '../question/types/multiple-choice/content';
import type { Units } from '../question/types/numeric/units';
import { orderingRules } from '../question/types/ordering/content';

/** Arbitrary questions of every type that an author could save, for property tests. */

const words = fc.string({ minLength: 1, maxLength: 20 }).filter((text) => text.trim() !== '' && !/[\r\n]/.test(text));
const rich = words.map((text) => richFromText(`x${text}`));
const flags = fc.array(fc.boolean(), { minLength: 20, maxLength: 20 });
const different = (least: number, most: number) =>
  fc.uniqueArray(words, { minLength: least, maxLength: most, selector: (text) => text.trim().replace(/\s+/g, ' ') });

const choices = (texts: Rich[], right: (place: number) => boolean, pins: boolean[]) =>
  texts.map((content, i) => ({ id: `c${i}`, content, right: right(i), pinned: pins[i] ?? false }));

const singleChoice: fc.Arbitrary<ContentOf<'single-choice'>> = fc
  .record({
    stem: rich,
    texts: fc.array(rich, { minLength: 2, maxLength: 20 }),
    right: fc.nat(),
    shuffle: fc.boolean(),
    pins: flags,
  })
  .map(({ stem, texts, right, shuffle, pins }) => ({
    type: 'single-choice',
    stem,
    shuffle,
    feedback: {},
    choices: choices(texts, (i) => i === right % texts.length, pins),
  }));

const multipleChoice: fc.Arbitrary<ContentOf<'multiple-choice'>> = fc
  .record({
    stem: rich,
    texts: fc.array(rich, { minLength: 2, maxLength: 20 }),
    right: fc.nat(),
    more: flags,
    shuffle: fc.boolean(),
    pins: flags,
    rule: fc.constantFrom(...creditRules),
  })
  .map(({ stem, texts, right, more, shuffle, pins, rule }) => ({
    type: 'multiple-choice',
    stem,
    shuffle,
    rule,
    feedback: {},
    choices: choices(texts, (i) => i === right % texts.length || Boolean(more[i]), pins),
  }));

const trueFalse: fc.Arbitrary<ContentOf<'true-false'>> = fc
  .record({ stem: rich, answer: fc.boolean() })
  .map((one) => ({ type: 'true-false', feedback: {}, ...one }));

const matching = fc.oneof(
  fc.record({
    ignore: fc.record({ case: fc.boolean(), accents: fc.boolean(), spacing: fc.boolean() }),
    slips: fc.nat({ max: 5 }),
    wildcards: fc.constant(false),
  }),
  fc.record({
    ignore: fc.record({ case: fc.boolean(), accents: fc.boolean(), spacing: fc.boolean() }),
    slips: fc.constant(0),
    wildcards: fc.constant(true),
  }),
);
const acceptedTexts = fc
  .array(
    fc.record({
      text: fc
        .oneof(words, fc.string({ unit: fc.constantFrom('a', 'É', 'ß', '*', '?', '\\', '1', ' ', '-'), maxLength: 9 }))
        .map((text) => `x${text}`.trim()),
      credit: fc.constantFrom(0, 0.25, 0.5, 1),
    }),
    { minLength: 1, maxLength: 5 },
  )
  .map((all) => all.map((one, i) => (i === 0 ? { ...one, credit: 1 } : one)));

const shortText: fc.Arbitrary<ContentOf<'short-text'>> = fc
  .record({ stem: rich, accepted: acceptedTexts, matching })
  .map((one) => ({ type: 'short-text', feedback: {}, ...one }));

const tolerance = fc.oneof(
  fc.record({ kind: fc.constant('absolute' as const), amount: fc.double({ noNaN: true, min: 0, max: 10 }) }),
  fc.record({ kind: fc.constant('relative' as const), amount: fc.double({ noNaN: true, min: 0, max: 1 }) }),
  fc.record({ kind: fc.constant('significant' as const), amount: fc.integer({ min: 1, max: 15 }) }),
);
const acceptedNumbers = fc
  .array(
    fc.record({
      value: fc.double({ noNaN: true, min: 0.001, max: 1e6 }).map((value) => `-${value.toFixed(3)}1`),
      tolerance,
      credit: fc.constantFrom(0, 0.5, 1),
    }),
    { minLength: 1, maxLength: 4 },
  )
  .map((all) => all.map((one, i) => (i === 0 ? { ...one, credit: 1 } : one)));
const units = fc.record({
  list: fc.constantFrom<Units['list'][]>(
    [{ name: 'm', factor: 1 }],
    [
      { name: 'nm', factor: 1 },
      { name: 'km', factor: 0.54 },
    ],
    [
      { name: '°', factor: 1 },
      { name: 'm/s2', factor: 3 },
    ],
  ),
  entry: fc.constantFrom('typed' as const, 'list' as const),
  missing: fc.constantFrom('refuse' as const, 'assume' as const),
});
const range = fc
  .record({
    from: fc.integer({ min: -50, max: 50 }),
    count: fc.integer({ min: 0, max: 30 }),
    step: fc.constantFrom(0.1, 0.5, 1, 3),
  })
  .map(({ from, count, step }) => ({ kind: 'range' as const, from, to: from + count * step, step }));

const plainNumeric: fc.Arbitrary<ContentOf<'numeric'>> = fc
  .record({ stem: rich, accepted: acceptedNumbers, units: fc.option(units, { nil: undefined }) })
  .map((one) => ({ type: 'numeric', feedback: {}, ...one }));

const variedNumeric: fc.Arbitrary<ContentOf<'numeric'>> = fc
  .record({
    a: range,
    b: fc.array(fc.integer({ min: 1, max: 99 }), { minLength: 1, maxLength: 6 }),
    key: fc.constantFrom('a', 'a / b', 'round(a * b + c, 2)', '60 * a / b - c', 'mod(a, 7) + 1e20 * b'),
    tolerance,
  })
  .map(({ a, b, key, tolerance }) => ({
    type: 'numeric',
    feedback: {},
    stem: {
      type: 'doc',
      content: [{ type: 'paragraph', content: [{ type: 'variable', attrs: { id: 'v0', decimals: null } }] }],
    },
    variables: [
      { id: 'v0', name: 'a', source: a },
      { id: 'v1', name: 'b', source: { kind: 'list', values: b } },
      { id: 'v2', name: 'c', source: { kind: 'formula', formula: 'a ^ 2 - b' } },
    ],
    accepted: [{ value: key, tolerance, credit: 1 }],
  }));

const gapFill: fc.Arbitrary<ContentOf<'gap-fill'>> = fc
  .record({
    gaps: fc.array(
      fc.oneof(
        fc.record({ kind: fc.constant('text' as const), accepted: acceptedTexts, matching }),
        fc.record({
          kind: fc.constant('number' as const),
          accepted: acceptedNumbers,
          units: fc.option(units, { nil: undefined }),
        }),
        fc.record({
          kind: fc.constant('pick' as const),
          look: fc.constantFrom('list' as const, 'row' as const),
          shuffle: fc.boolean(),
          options: fc
            .tuple(fc.array(rich, { minLength: 2, maxLength: 6 }), fc.nat())
            .map(([texts, right]) =>
              texts.map((content, i) => ({ id: `o${i}`, content, right: i === right % texts.length })),
            ),
        }),
      ),
      { minLength: 1, maxLength: 5 },
    ),
    weight: fc.constantFrom(0.5, 1, 3),
  })
  .map(({ gaps, weight }) => ({
    type: 'gap-fill',
    feedback: {},
    stem: {
      type: 'doc',
      content: gaps.map((_, i) => ({
        type: 'paragraph',
        content: [
          { type: 'text', text: 'before ' },
          { type: 'gap', attrs: { id: `g${i}` } },
        ],
      })),
    },
    gaps: gaps.map((gap, i) => ({ ...gap, id: `g${i}`, weight: weight * (i + 1) })),
  }));

const pairs: fc.Arbitrary<ContentOf<'matching'>> = fc
  .record({
    stem: rich,
    prompts: fc.array(rich, { minLength: 2, maxLength: 8 }),
    texts: different(3, 12),
    same: flags,
    rule: fc.constantFrom('share' as const, 'all-or-nothing' as const),
  })
  .map(({ stem, prompts, texts, same, rule }) => ({
    type: 'matching',
    stem,
    rule,
    feedback: {},
    pairs: prompts.map((prompt, i) => ({
      id: `p${i}`,
      prompt,
      answer: texts[same[i] ? 0 : i % (texts.length - 1)] as string,
    })),
    extras: texts.slice(-1),
  }));

const ordering: fc.Arbitrary<ContentOf<'ordering'>> = fc
  .record({ stem: rich, texts: different(2, 12), rule: fc.constantFrom(...orderingRules) })
  .map(({ stem, texts, rule }) => ({
    type: 'ordering',
    stem,
    rule,
    feedback: {},
    items: texts.map((text, i) => ({ id: `i${i}`, content: richFromText(`${i}${text}`) })),
  }));

const written: fc.Arbitrary<ContentOf<'written'>> = fc
  .record({ stem: rich, modelAnswer: rich, format: fc.constantFrom('plain' as const, 'rich' as const) })
  .map((one) => ({ type: 'written', feedback: {}, words: { least: null, most: null }, ...one }));

const ratingScale: fc.Arbitrary<ContentOf<'rating-scale'>> = fc
  .record({ stem: rich, steps: fc.integer({ min: 2, max: 11 }), cannotSay: fc.boolean() })
  .map((one) => ({ type: 'rating-scale', low: 'no', high: 'yes', feedback: {}, ...one }));

const date: fc.Arbitrary<ContentOf<'date'>> = fc
  .record({ stem: rich, earliest: fc.constantFrom(null, '2026-02-28'), latest: fc.constantFrom(null, '2028-02-29') })
  .map((one) => ({ type: 'date', feedback: {}, ...one }));

/** One generator for each type; the compiler asks for every one. */
export const anyOf: { [Type in QuestionType]: fc.Arbitrary<ContentOf<Type>> } = {
  'single-choice': singleChoice,
  'multiple-choice': multipleChoice,
  'true-false': trueFalse,
  'short-text': shortText,
  numeric: fc.oneof(plainNumeric, variedNumeric),
  'gap-fill': gapFill,
  matching: pairs,
  ordering,
  written,
  'rating-scale': ratingScale,
  date,
};

export const anyQuestion: fc.Arbitrary<QuestionContent> = fc.oneof(...Object.values(anyOf));
