import fc from 'fast-check';

/** Rules that meet in a story. */
export const features = [
  'grace',
  'onward',
  'own-time',
  'time-for-each',
  'required',
  'tries',
  'choose',
  'no-limit',
  'closing',
  'full-time',
  'extra-time',
] as const;
/** One rule that a story's sitting has. */
export type Feature = (typeof features)[number];

/** Every rule by itself, and every two together; time for each question is part of the way onward. */
export const pairs: readonly (readonly Feature[])[] = features.flatMap((one, i) =>
  features.slice(i).map((other) => {
    const both = new Set<Feature>([one, other]);
    if (both.has('time-for-each')) both.add('onward');
    if (both.has('full-time')) both.add('closing');
    return [...both];
  }),
);

/**
 * What the network of a window does: it carries; it loses what is sent; it loses what is answered; or it carries, and what
 * is answered comes only when time passes or the network is another: much happens meanwhile.
 */
export type NetMode = 'up' | 'down' | 'answers-lost' | 'slow';

/** One thing that happens in a story. Windows are numbered from 0. */
export type Step =
  | { kind: 'open' | 'reload' | 'close' | 'press' | 'drop' | 'beat' | 'next'; window: number }
  | { kind: 'type'; window: number; question: number; value: number | null }
  | { kind: 'check' | 'come-back'; window: number; question: number }
  | { kind: 'net'; window: number; mode: NetMode }
  | { kind: 'wait'; seconds: number }
  /** To a moment shortly before, at or after the end of the time, of the grace, or of a question's own time. */
  | { kind: 'to-end'; of: 'deadline' | 'grace' | 'question'; seconds: number }
  | { kind: 'more-time'; minutes: number }
  | { kind: 'reopen'; minutes: number }
  | { kind: 'void' | 'restore' | 'hand-in-for' | 'correct' }
  | { kind: 'decide'; take: boolean };

const window = fc.nat(1);
const question = fc.nat(4);

const anyStep: fc.Arbitrary<Step> = fc.oneof(
  {
    weight: 14,
    arbitrary: fc.record({
      kind: fc.constant('type' as const),
      window,
      question,
      value: fc.option(fc.nat(2), { nil: null, freq: 8 }),
    }),
  },
  {
    weight: 6,
    arbitrary: fc.record({
      kind: fc.constant('net' as const),
      window,
      mode: fc.constantFrom<NetMode>('up', 'up', 'down', 'answers-lost', 'slow'),
    }),
  },
  {
    weight: 4,
    arbitrary: fc.record({ kind: fc.constant('wait' as const), seconds: fc.integer({ min: 0, max: 400 }) }),
  },
  {
    weight: 5,
    arbitrary: fc.record({
      kind: fc.constant('to-end' as const),
      of: fc.constantFrom('deadline' as const, 'grace' as const, 'question' as const),
      seconds: fc.constantFrom(-30, -2, -1, 0, 1, 2, 3, 4, 20),
    }),
  },
  {
    weight: 8,
    arbitrary: fc.record({
      kind: fc.constantFrom('open' as const, 'reload', 'press', 'press', 'drop', 'beat', 'next', 'next', 'close'),
      window,
    }),
  },
  {
    weight: 2,
    arbitrary: fc.record({ kind: fc.constantFrom('check' as const, 'come-back'), window, question }),
  },
  {
    weight: 2,
    arbitrary: fc.oneof(
      fc.record({ kind: fc.constantFrom('more-time' as const, 'reopen'), minutes: fc.integer({ min: 1, max: 6 }) }),
      fc.record({ kind: fc.constantFrom('void' as const, 'restore', 'hand-in-for', 'correct') }),
      fc.record({ kind: fc.constant('decide' as const), take: fc.boolean() }),
    ),
  },
);

/** A story: the rules it happens under, whether its two windows are of one browser, and what happens. */
export type Story = { rules: readonly Feature[]; oneBrowser: boolean; skew: number; steps: readonly Step[] };

/** Any story: a student with one or two windows, networks that fail, clocks at every boundary, and an invigilator. */
export const anyStory: fc.Arbitrary<Story> = fc.record({
  rules: fc.constantFrom(...pairs),
  oneBrowser: fc.boolean(),
  // A browser's clock is wrong by so many milliseconds.
  skew: fc.constantFrom(0, 0, 40_000, -3_600_000),
  steps: fc.array(anyStep, { minLength: 6, maxLength: 45 }),
});
