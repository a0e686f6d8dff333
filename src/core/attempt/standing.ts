import { type Instant, momentText } from '../base/time';
import { counted, oneOrMany } from '../base/words';
import { inTimeToSave } from '../sitting/saveAllowance';
import type { Phase } from './attemptMachine';

/**
 * Who ended an attempt: its student; its open page when the time was over; the clock, without any page; or whoever
 * invigilates.
 */
export type EndedBy = 'student' | 'page' | 'clock' | 'invigilator' | 'answer-sheet';

/** What is known of an attempt at a moment, as far as it decides how it stands. */
export type StandingFacts = {
  state: Phase;
  deadline: Instant | null;
  /** Until when its student may still hand it in; the deadline where there is no grace. */
  handInUntil: Instant | null;
  endedAt: Instant | null;
  endedBy: EndedBy | null;
  /** Whether it runs because it was opened again. */
  reopened: boolean;
};

/** How an attempt stands: in exactly one of these at any moment. */
export type Standing =
  | { kind: 'running'; deadline: Instant | null; handInUntil: Instant | null; reopened: boolean }
  /** The time is over, nothing more can be entered, and it counts only if it is handed in until then. */
  | { kind: 'grace'; deadline: Instant; handInUntil: Instant }
  /** The time is over, and what was entered is being handed in. */
  | { kind: 'time-over'; deadline: Instant }
  | { kind: 'handed-in'; at: Instant; by: EndedBy }
  | { kind: 'not-handed-in'; at: Instant }
  | { kind: 'voided'; at: Instant };

/** How an attempt stands at a moment. */
export function standingOf(facts: StandingFacts, now: Instant): Standing {
  const { state, deadline, handInUntil, endedAt, endedBy, reopened } = facts;
  const at = endedAt ?? now;
  if (state === 'handed-in') return { kind: 'handed-in', at, by: endedBy ?? 'clock' };
  if (state !== 'running') return { kind: state, at };
  if (deadline === null || now < deadline) return { kind: 'running', deadline, handInUntil, reopened };
  if (handInUntil !== null && handInUntil > deadline && inTimeToSave(handInUntil, now))
    return { kind: 'grace', deadline, handInUntil };
  return { kind: 'time-over', deadline };
}

/**
 * How an attempt that was said to stand in one way stands at a later moment, as far as the clock alone decides it: what a
 * page knows that hears nothing.
 */
export function standingLater(heard: Standing, now: Instant): Standing {
  if (heard.kind !== 'running' && heard.kind !== 'grace') return heard;
  const { deadline, handInUntil } = heard;
  return standingOf(
    {
      state: 'running',
      deadline,
      handInUntil,
      endedAt: null,
      endedBy: null,
      reopened: heard.kind === 'running' && heard.reopened,
    },
    now,
  );
}

/** How an attempt stands, in words: what happened, what was kept, what to do next. */
export type StandingSaid = {
  title: string;
  happened: string;
  kept: string;
  next: string;
};

const handedInSaid: Record<EndedBy, string> = {
  student: 'You handed it in.',
  page: 'The time was over, and the open page handed it in.',
  clock: 'The time was over, and it was handed in by itself.',
  invigilator: 'It was handed in for you.',
  'answer-sheet': 'Your answer sheet was read in.',
};

/** The answers that the attempt holds, in words; empty where nothing is known of a person's answers. */
const keptSaid = (answers: StandingAnswers | null): string =>
  answers ? `${answers.answered} of ${counted(answers.questions, 'question')} answered.` : '';

/** How much of a paper is answered. */
export type StandingAnswers = { answered: number; questions: number };

/**
 * How an attempt stands, in the words in which the taking page, the receipt and the list of exams say it.
 *
 * @param answers null where nothing is known of a person's answers
 */
export function standingSaid(standing: Standing, zone: string, answers: StandingAnswers | null): StandingSaid {
  const kept = keptSaid(answers);
  switch (standing.kind) {
    case 'running':
      return {
        title: standing.reopened ? 'Opened again' : 'Your attempt is running',
        happened: standing.reopened ? 'Your instructor has opened it again: you can go on where you were.' : '',
        kept,
        next: `Go on${standing.deadline === null ? '.' : `: it ends ${momentText(standing.deadline, zone)} (${zone}).`}`,
      };
    case 'grace':
      return {
        title: 'The time is over',
        happened: 'Nothing more can be entered.',
        kept,
        next: `Your answers count only if you hand in until ${momentText(standing.handInUntil, zone)} (${zone}).`,
      };
    case 'time-over':
      return {
        title: 'The time is over',
        happened: 'Nothing more can be entered.',
        kept,
        next: 'Your answers are being handed in; there is nothing you have to do.',
      };
    case 'handed-in':
      return { title: 'Handed in', happened: handedInSaid[standing.by], kept, next: '' };
    case 'not-handed-in':
      return {
        title: 'Not handed in in time',
        happened: 'The time allowed for the hand-in passed.',
        kept: `${kept} They are kept, and do not count as it stands.`.trim(),
        next: 'If something kept you from handing in, tell your instructor: it can be counted, or opened again.',
      };
    case 'voided':
      return {
        title: 'Voided',
        happened: 'Your instructor has taken this attempt out: it does not count.',
        kept: `${kept} Your answers are kept.`.trim(),
        next: 'If you do not know why, ask your instructor. Should it be taken back, you go on from here.',
      };
  }
}

/** Why an answer was kept aside instead of being taken. */
export type AsideReason = 'superseded' | 'late' | 'question-over' | 'beyond-choose' | 'behind' | 'closed';

/** An answer that was kept aside. */
export type Aside = {
  /** Of its question, from 1. */
  number: number;
  reason: AsideReason;
  receivedAt: Instant;
  /** When it was given, as its browser says; null where it does not say. */
  givenAt: Instant | null;
  /** Whether it was given before its time ended, by its browser's word. */
  inTime: boolean;
  /** What was decided about it; null while it waits. */
  decision: 'taken' | 'left' | null;
};

/** Whether a person decides about it. What a rule of the exam does not take is listed, and decided by that rule. */
export const waitsForDecision = ({ reason, decision }: Pick<Aside, 'reason' | 'decision'>): boolean =>
  decision === null && reasonsToDecide.includes(reason);

/** The reasons for which whoever invigilates decides whether an answer counts after all. */
export const reasonsToDecide: readonly AsideReason[] = ['superseded', 'late', 'question-over', 'behind'];

/** What each reason says. */
export const asideReasonSaid: Record<AsideReason, string> = {
  late: 'after the end',
  superseded: 'from a window that another had replaced',
  'question-over': 'after the time for this question',
  behind: 'after you had gone on from this question',
  closed: 'after this question had been checked for the last time',
  'beyond-choose': 'beyond the answers that its part asks for',
};

/** An answer kept aside, in words for its student. */
export function asideSaid(aside: Aside, zone: string): string {
  const { number, reason, receivedAt, givenAt, inTime, decision } = aside;
  const came = `Question ${number}: an answer came ${momentText(receivedAt, zone)}, ${asideReasonSaid[reason]}`;
  const given = inTime && givenAt !== null ? `; it was given ${momentText(givenAt, zone)}, in time` : '';
  const fate =
    decision === 'taken'
      ? 'It has been counted after all.'
      : decision === 'left'
        ? 'It does not count.'
        : waitsForDecision(aside)
          ? 'It is kept, and your instructor decides whether it counts.'
          : 'It is kept, and does not count.';
  return `${came}${given}. ${fate}`;
}

/** How many answers wait for a decision, in words for their student; empty where none does. */
export const asideInShort = (asides: readonly Pick<Aside, 'reason' | 'decision'>[]): string =>
  asidesWaitingSaid(asides.filter(waitsForDecision).length);

/** The same from their number. */
export function asidesWaitingSaid(waiting: number): string {
  return waiting === 0
    ? ''
    : `${counted(waiting, 'answer')} of yours ${oneOrMany(waiting, 'is', 'are')} kept aside: your instructor decides about ${oneOrMany(waiting, 'it', 'them')}.`;
}
