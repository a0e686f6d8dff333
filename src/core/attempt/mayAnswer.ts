import type { Instant } from '../base/time';
import { saveAllowance } from '../sitting/saveAllowance';
import { type Phase, whyNotWrite } from './attemptMachine';

/** An attempt as far as it decides what its student may do in it. */
export type AttemptNow = {
  phase: Phase;
  /** Null where nothing ends it. */
  deadline: Instant | null;
  /** The first page that can still be gone to, from 0; 0 where one may go back. */
  reached: number;
};

/** A question of a paper as far as it decides whether it may be answered. */
export type QuestionNow = {
  /** From 1. */
  number: number;
  /** From 0. */
  page: number;
  required: boolean;
  answered: boolean;
  /** Whether it has a time of its own, and when that ends; `until` is null while the question has not been opened. */
  timed: boolean;
  until: Instant | null;
  /** Checked for the last time: nothing can be entered any more. */
  closed: boolean;
  /** Its part asks for no more answers than it holds already, and refuses more. */
  full: boolean;
};

/** Why a question cannot be answered now. */
export type WhyNotAnswer =
  | 'ended'
  | 'time-over'
  | 'behind'
  | 'not-opened'
  | 'question-over'
  | 'closed'
  | 'beyond-choose';

/** What each reason says to the student. */
export const whyNotAnswerSaid: Record<WhyNotAnswer, string> = {
  ended: 'This attempt has ended.',
  'time-over': 'The time for this attempt is over.',
  behind: 'You have gone on from this question: there is no way back to it.',
  'not-opened': 'This question has not been opened yet.',
  'question-over': 'The time for this question is over.',
  closed: 'This question has been checked and is closed.',
  'beyond-choose': 'This part has as many answers as it asks for. Clear one to answer this one.',
};

/**
 * Why a question may not be answered now; null where it may. The one rule: saving, checking, going on, handing in, the
 * taking page and the trial ask it.
 *
 * @param allowance for how long after the end of a time something that was on its way is still taken, in milliseconds
 */
export function whyNotAnswer(
  attempt: AttemptNow,
  question: Omit<QuestionNow, 'number' | 'required' | 'answered'>,
  now: Instant,
  allowance = 0,
): WhyNotAnswer | null {
  const why = whyNotWrite(attempt, now, allowance);
  if (why) return why;
  if (question.timed && question.until === null) return 'not-opened';
  if (question.until !== null && now > question.until + allowance) return 'question-over';
  if (question.page < attempt.reached) return 'behind';
  if (question.closed) return 'closed';
  return question.full ? 'beyond-choose' : null;
}

/** The same for what arrives: a save that was on its way when a time ran out is still taken for a moment. */
export const whyNotSave = (
  attempt: AttemptNow,
  question: Parameters<typeof whyNotAnswer>[1],
  now: Instant,
): WhyNotAnswer | null => whyNotAnswer(attempt, question, now, saveAllowance);

/** Whether a question has to be answered, is empty, and can be answered now, perhaps after opening it. */
function isOwed(attempt: AttemptNow, question: QuestionNow, now: Instant): boolean {
  if (!question.required || question.answered) return false;
  // At the very end of a time nothing more can be entered by a person, though what is on its way is taken.
  const ends = [attempt.deadline, question.until].filter((end) => end !== null);
  if (ends.some((end) => now >= end)) return false;
  const why = whyNotAnswer(attempt, question, now);
  return why === null || why === 'not-opened';
}

/**
 * The numbers of the questions for which an attempt may not be handed in: those that have to be answered, are empty, and
 * can still be answered. Whatever can no longer be answered holds nothing up, so that no attempt can be stuck.
 */
export const owedAtHandIn = (attempt: AttemptNow, questions: readonly QuestionNow[], now: Instant): number[] =>
  questions.filter((question) => isOwed(attempt, question, now)).map((question) => question.number);

/**
 * The numbers of the questions for which a student may not go on to a page from which there is no way back: those that are
 * owed and would be left behind.
 *
 * @param to the first page that can still be gone to afterwards
 */
export const owedBefore = (
  attempt: AttemptNow,
  questions: readonly QuestionNow[],
  to: number,
  now: Instant,
): number[] =>
  owedAtHandIn(
    attempt,
    questions.filter((question) => question.page < to),
    now,
  );

/** @example owedSaid([3, 5], 'you go on') // 'Questions 3 and 5 have to be answered before you go on.' */
export function owedSaid(numbers: readonly number[], before: 'you go on' | 'you hand in'): string {
  const [first] = numbers;
  const named =
    numbers.length === 1
      ? `Question ${first} has`
      : `Questions ${numbers.slice(0, -1).join(', ')} and ${numbers.at(-1)} have`;
  return `${named} to be answered before ${before}.`;
}
