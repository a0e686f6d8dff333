import type { Duration, Instant } from '../base/time';

/**
 * Where a question of a led round stands. *Ahead*: nobody has seen it. *Open*: answers are taken. *Closed*: how the class
 * answered can be shown, and it can be asked again. *Shown*: what is right is shown, and nothing more is taken.
 */
export const ledPhases = ['ahead', 'open', 'closed', 'shown'] as const;
/** One of them. */
export type LedPhase = (typeof ledPhases)[number];

/** How often the same question can be asked: once, and again after people have talked. */
export const mostVotes = 2;

/** A question of a led round as its acts have left it. */
export type LedQuestion = {
  phase: LedPhase;
  /** From 1; 0 while it is ahead. */
  vote: number;
  /** When it was opened for this vote; null while it is ahead. */
  openedAt: Instant | null;
  /** When this vote ends by itself, or ended; null where it goes on until it is closed. */
  endsAt: Instant | null;
};

/** A led round: its questions in their order, which of them the class is at, and when it was stopped. */
export type LedRound = {
  questions: readonly LedQuestion[];
  /** From 0; null before the first question was opened. */
  at: number | null;
  stoppedAt: Instant | null;
};

/** What whoever leads a round does with a question, or with the whole round. */
export type LedAct =
  | { kind: 'open' | 'open-again'; question: number; limit: Duration | null }
  | { kind: 'close' | 'show'; question: number }
  | { kind: 'stop' };

/** Why an act is refused. */
export type WhyNotAct =
  | 'no-such-question'
  | 'stopped'
  | 'another-is-open'
  | 'opened-already'
  | 'not-open'
  | 'not-closed'
  | 'asked-often-enough';

/** What each reason says to whoever leads. */
export const whyNotActSaid: Readonly<Record<WhyNotAct, string>> = {
  'no-such-question': 'This round has no such question.',
  stopped: 'This round has been stopped.',
  'another-is-open': 'Another question is open: close it first.',
  'opened-already': 'This question has been opened already.',
  'not-open': 'This question is not open.',
  'not-closed': 'Close this question first.',
  'asked-often-enough': 'This question has been asked again already.',
};

const ahead: LedQuestion = { phase: 'ahead', vote: 0, openedAt: null, endsAt: null };

/** A round of so many questions before anything is opened. */
export const beganLed = (questions: number): LedRound => ({
  questions: Array.from({ length: questions }, () => ahead),
  at: null,
  stoppedAt: null,
});

/**
 * The phase of a question now: a vote whose time has run out is closed, whether or not anybody has written that down.
 *
 * @example ledPhaseNow({ phase: 'open', vote: 1, openedAt: 0, endsAt: 30_000 }, 30_000) // 'closed'
 */
export const ledPhaseNow = ({ phase, endsAt }: LedQuestion, now: Instant): LedPhase =>
  phase === 'open' && endsAt !== null && now >= endsAt ? 'closed' : phase;

/**
 * Why an act cannot be done now; null where it can. What is done already (closed when its time ran out, stopped by another
 * device) is no error where the same is asked for: see {@link afterLedAct}.
 */
export function whyNotAct(round: LedRound, act: LedAct, now: Instant): WhyNotAct | null {
  if (act.kind === 'stop') return null;
  const question = round.questions[act.question];
  if (!question) return 'no-such-question';
  if (round.stoppedAt !== null && act.kind !== 'show') return 'stopped';
  const phase = ledPhaseNow(question, now);
  switch (act.kind) {
    case 'open':
      if (phase !== 'ahead') return 'opened-already';
      return openNow(round, now) === null ? null : 'another-is-open';
    case 'open-again':
      if (phase !== 'closed') return 'not-closed';
      if (question.vote >= mostVotes) return 'asked-often-enough';
      return openNow(round, now) === null ? null : 'another-is-open';
    case 'close':
      return phase === 'open' || phase === 'closed' ? null : 'not-open';
    case 'show':
      return phase === 'closed' || phase === 'shown' ? null : 'not-closed';
  }
}

/** The question that takes answers now, from 0; null where none does. */
export function openNow(round: LedRound, now: Instant): number | null {
  if (round.stoppedAt !== null) return null;
  const open = round.questions.findIndex((question) => ledPhaseNow(question, now) === 'open');
  return open < 0 ? null : open;
}

/**
 * A round after an act that {@link whyNotAct} allows. Done twice, an act changes nothing the second time: whoever presses
 * twice, or leads from two devices, is not stopped by it.
 *
 * @throws RangeError where the act is not allowed
 */
export function afterLedAct(round: LedRound, act: LedAct, now: Instant): LedRound {
  const why = whyNotAct(round, act, now);
  if (why !== null) throw new RangeError(whyNotActSaid[why]);
  if (act.kind === 'stop') {
    if (round.stoppedAt !== null) return round;
    const questions = round.questions.map((question) =>
      ledPhaseNow(question, now) === 'open' ? closed(question, now) : settled(question, now),
    );
    return { ...round, questions, stoppedAt: now };
  }
  const before = round.questions[act.question] as LedQuestion;
  const changed = (): LedQuestion => {
    switch (act.kind) {
      case 'open':
      case 'open-again':
        return {
          phase: 'open',
          vote: before.vote + 1,
          openedAt: now,
          endsAt: act.limit === null ? null : now + act.limit,
        };
      case 'close':
        return closed(before, now);
      case 'show':
        return { ...settled(before, now), phase: 'shown' };
    }
  };
  return {
    ...round,
    at: act.question,
    questions: round.questions.map((question, i) => (i === act.question ? changed() : question)),
  };
}

const closed = (question: LedQuestion, now: Instant): LedQuestion =>
  question.phase === 'open'
    ? { ...question, phase: 'closed', endsAt: question.endsAt === null ? now : Math.min(question.endsAt, now) }
    : question;

/** What has run out is written down as closed. */
const settled = (question: LedQuestion, now: Instant): LedQuestion =>
  ledPhaseNow(question, now) === question.phase ? question : closed(question, now);

/** Why an answer is not taken in a led round. */
export type WhyNotVote = 'not-opened' | 'closed' | 'other-vote' | 'stopped';

/** What each reason says to the student. */
export const whyNotVoteSaid: Readonly<Record<WhyNotVote, string>> = {
  'not-opened': 'This question has not been opened yet.',
  closed: 'This question has been closed.',
  'other-vote': 'This question is asked again: this answer was for the first time.',
  stopped: 'This round has been stopped.',
};

/** So long after a round was stopped something that was on its way to it is still taken. */
export const stopAllowance: Duration = 3_000;

/**
 * Why an answer that arrives now is not taken; null where it is. It is decided by when it arrives, on the server's clock.
 *
 * A vote that is closed takes nothing more: how the class answered is seen from then on. What was open when the whole round
 * was stopped is seen by nobody yet, and takes what was on its way.
 *
 * @param question from 0
 * @param vote for which the answer was given, from 1
 */
export function whyNotVote(round: LedRound, question: number, vote: number, now: Instant): WhyNotVote | null {
  const { stoppedAt } = round;
  const asked = round.questions[question];
  if (!asked || asked.vote === 0) return 'not-opened';
  if (vote !== asked.vote) return vote < asked.vote ? 'other-vote' : 'not-opened';
  if (stoppedAt !== null && now > stoppedAt + stopAllowance) return 'stopped';
  if (stoppedAt !== null) return asked.phase === 'closed' && asked.endsAt === stoppedAt ? null : 'closed';
  return ledPhaseNow(asked, now) === 'open' ? null : 'closed';
}
