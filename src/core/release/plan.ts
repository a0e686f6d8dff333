import type { Duration, Instant } from '../base/time';
import { minute } from '../base/time';

/** What a student may be shown of their own attempts. */
export const facts = [
  'score',
  'questions',
  'own-answers',
  'right-or-wrong',
  'right-answers',
  'feedback',
  'comments',
] as const;
/** One thing that a student may be shown of a sitting. */
export type Fact = (typeof facts)[number];

/** As sentences begin with them. */
export const factNames: Record<Fact, string> = {
  score: 'Score',
  questions: 'The questions',
  'own-answers': 'Own answers',
  'right-or-wrong': 'Right or wrong, by question',
  'right-answers': 'Right answers',
  feedback: 'Feedback and solution',
  comments: 'Comments and rubric',
};

/** Whoever knows these of a question can tell others how to answer it. */
export const keyFacts: readonly Fact[] = ['right-or-wrong', 'right-answers', 'feedback'];

/** When a window begins. */
export type ReleaseMoment =
  /** From the first start on: question by question, as they are checked. */
  | { kind: 'as-they-go' }
  /** With the first hand-in. */
  | { kind: 'on-hand-in' }
  /** With the hand-in of attempt `number`. */
  | { kind: 'after-attempt'; number: number }
  /** When no attempt of this student runs and none can be started any more. */
  | { kind: 'after-last-attempt' }
  /** When the last of all it is given to cannot be writing any more. */
  | { kind: 'over-for-everyone' }
  | { kind: 'at'; at: Instant }
  /** So many days of 24 hours after the closing, after the student's own where that is later. */
  | { kind: 'after-closing'; days: number }
  | { kind: 'on-publishing' };

/** When a window ends: at the closing, at a moment, so many days of 24 hours after it began, or once it was seen. */
export type ReleaseEnd =
  | { kind: 'at-closing' }
  | { kind: 'at'; at: Instant }
  | { kind: 'after-days'; days: number }
  /** The student opens it once, by an act of their own, and has it in view for so long: at most {@link longestOnce}. */
  | { kind: 'once'; minutes: number };

/** The most minutes for which something stays open that is shown once. */
export const longestOnce = 60;

/** When a fact begins to be shown, and when it ends; without an end it stays. */
export type ReleaseWindow = { begins: ReleaseMoment; ends?: ReleaseEnd };

/** For each fact its windows; it is shown while any of them is open. A fact without a window is never shown. */
export type ReleasePlan = Partial<Record<Fact, ReleaseWindow[]>>;

/** For how long something stays open that is shown once, at most {@link longestOnce} minutes. */
export const onceFor = (end: { minutes: number }): Duration => Math.min(end.minutes, longestOnce) * minute;

/** When students can learn how they did. */
export const learnings = ['as-they-go', 'on-hand-in', 'by-plan'] as const;
/** When students learn how they did: question by question, with the hand-in, or by the release plan only. */
export type Learning = (typeof learnings)[number];

/** What students learn as they go, or with the hand-in, where the sitting's rules say so. */
const learnt: readonly Fact[] = ['score', 'questions', 'own-answers', 'right-or-wrong'];

/**
 * The plan that holds: the sitting's own, and what its rules say students learn as they go or with the hand-in. Those two
 * say the same to every attempt that is handed in; what a check of a question tells meanwhile is decided by the tries.
 */
export function planInForce(plan: ReleasePlan, learning: Learning): ReleasePlan {
  if (learning === 'by-plan') return plan;
  const held: ReleasePlan = { ...plan };
  for (const fact of learnt) held[fact] = [...(plan[fact] ?? []), { begins: { kind: 'on-hand-in' } }];
  return held;
}

/** Facts that presuppose the questions are dead in a plan that never shows these. */
export const deadFacts = (plan: ReleasePlan): Fact[] =>
  plan.questions?.length
    ? []
    : facts.filter((fact) => fact !== 'score' && fact !== 'questions' && (plan[fact]?.length ?? 0) > 0);

/** When results are published by themselves: never, each as soon as it is completely marked, or all once the last one is. */
export type SelfPublish = {
  kind: 'no' | 'each' | 'all';
  /** Not before this moment; null where nothing holds it back. */
  notBefore: Instant | null;
};

/** Results that never publish themselves. */
export const noSelfPublish: SelfPublish = { kind: 'no', notBefore: null };
