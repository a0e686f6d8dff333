import { z } from 'zod';
import type { ExamDesign } from '../exam/design';
import type { Fact, ReleaseMoment, ReleasePlan } from '../release/plan';
import type { FurtherRules } from '../sitting/rules';

/** Whether everybody goes through a round by themselves, or whoever leads opens one question after the other for all. */
export const roundPaces = ['own', 'led'] as const;
/** How people come into a round: signed in, by a student number on the roster, by a name they type, or without any. */
export const waysIn = ['sign-in', 'number', 'name', 'nameless'] as const;
/** One of them. */
export type WayIn = (typeof waysIn)[number];
/** When those in a round learn how they did: after each question, after their last one, when it is stopped, or never. */
export const roundLearnings = ['each', 'last', 'stop', 'never'] as const;
/** One of these moments. */
export type RoundLearning = (typeof roundLearnings)[number];

/** How a round is held. */
export const roundRules = z.object({
  pace: z.enum(roundPaces),
  /** At one's own pace: no way back to a question once it is left. */
  onward: z.boolean(),
  comingIn: z.enum(waysIn),
  learning: z.enum(roundLearnings),
  /** Whether each sees their own score: at the moment at which they learn how they did, else when it is stopped. */
  score: z.boolean(),
  /** At one's own pace: whether each gets the questions, and the choices, in an order of their own. */
  shuffledQuestions: z.boolean(),
  shuffledChoices: z.boolean(),
  /** Led: the time of a question from its opening, in seconds; null where it goes on until it is closed. */
  seconds: z
    .number({ message: 'Give the seconds as a number.' })
    .int('A whole number of seconds.')
    .min(5, 'At least 5 seconds.')
    .max(3_600, 'At most an hour.')
    .nullable(),
  /** Of a question asked again: which of the two answers makes the result. */
  vote: z.enum(['last', 'first']),
  counts: z.enum(['score', 'taking-part', 'no']),
});
/** How a round is held, valid by {@link roundRules}. */
export type RoundRules = z.output<typeof roundRules>;

/** A round for which nobody has chosen anything yet: led, by a typed name, and counting for nothing. */
export const usualRound: RoundRules = {
  pace: 'led',
  onward: false,
  comingIn: 'name',
  learning: 'each',
  score: true,
  shuffledQuestions: false,
  shuffledChoices: false,
  seconds: null,
  vote: 'last',
  counts: 'no',
};

/**
 * The rules that hold where one choice rules out another: who is not named cannot be given a score, and a led round has one
 * order for all, because its letters stand on the wall.
 */
export const rulesThatHold = (rules: RoundRules): RoundRules => ({
  ...rules,
  onward: rules.pace === 'own' && rules.onward,
  shuffledQuestions: rules.pace === 'own' && rules.shuffledQuestions,
  shuffledChoices: rules.pace === 'own' && rules.shuffledChoices,
  seconds: rules.pace === 'led' ? rules.seconds : null,
  counts: rules.comingIn === 'nameless' ? 'no' : rules.counts,
});

const outcome: readonly Fact[] = ['questions', 'own-answers', 'right-or-wrong'];
const key: readonly Fact[] = ['right-answers', 'feedback', 'comments'];

/**
 * What those in a round see of it, and when, as the release plan of its sitting. At one's own pace, right answers wait for
 * the stop, also where each learns earlier whether theirs were right: others may still be writing.
 */
export function planOfRound({ pace, learning, score }: RoundRules): ReleasePlan {
  const stop: ReleaseMoment = { kind: 'over-for-everyone' };
  const soon: ReleaseMoment =
    pace === 'own' && (learning === 'each' || learning === 'last') ? { kind: 'on-hand-in' } : stop;
  const plan: ReleasePlan = {};
  if (score) plan.score = [{ begins: soon }];
  if (learning === 'never') return plan;
  for (const fact of outcome) plan[fact] = [{ begins: soon }];
  for (const fact of key) plan[fact] = [{ begins: stop }];
  return plan;
}

/** The further rules of a round's sitting. After each question, at one's own pace, means that it is checked once and then closed. */
export const furtherOfRound = ({ pace, learning, onward }: RoundRules): Partial<FurtherRules> => ({
  learning: 'by-plan',
  onwardOnly: pace === 'own' && onward,
  tries: pace === 'own' && learning === 'each' ? { most: 1, cost: 0 } : null,
});

/** The design of an exam as a round lays it out: one order for all where it is led, else as its rules say. */
export const designInRound = (
  design: ExamDesign,
  { pace, shuffledQuestions, shuffledChoices }: Pick<RoundRules, 'pace' | 'shuffledQuestions' | 'shuffledChoices'>,
): ExamDesign => {
  const { choices: _, ...rest } = design;
  return {
    ...rest,
    ...(pace === 'led' || !shuffledChoices ? { choices: 'as-written' as const } : {}),
    parts: design.parts.map((part) => ({
      ...part,
      order: pace === 'own' && shuffledQuestions ? ('shuffled' as const) : ('as-written' as const),
    })),
  };
};
