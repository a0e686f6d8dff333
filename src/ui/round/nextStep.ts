import type { LedPhase } from '@/core/round/ledRound';
import type { RoundHead } from '@/server/round/grid';

/** What whoever leads does next, and what they may do instead. */
export type Step =
  | { kind: 'open' | 'open-again' | 'close' | 'show'; question: number; says: string }
  | { kind: 'stop'; says: string };

const firstAhead = (phases: readonly (LedPhase | null)[], after: number): number =>
  phases.findIndex((phase, i) => i > after && phase === 'ahead');

/**
 * The next step of a led round, first, and the others that make sense now: to close what is open; to show what is right of
 * what is closed, or ask it again; to go on to the next question; to stop once there is none.
 */
export function stepsOf({
  questions,
  question,
  stoppedAt,
}: Pick<RoundHead, 'questions' | 'question' | 'stoppedAt'>): Step[] {
  if (stoppedAt !== null) return [];
  const phases = questions.map((one) => one.phase);
  const at = question?.at ?? -1;
  const phase = question?.phase ?? null;
  if (question && phase === 'open') return [{ kind: 'close', question: at, says: 'Close it' }];
  const later = firstAhead(phases, at);
  const next = later >= 0 ? later : firstAhead(phases, -1);
  const onward: Step[] =
    next >= 0
      ? [{ kind: 'open', question: next, says: `Open question ${next + 1}` }]
      : [{ kind: 'stop', says: 'Stop the round' }];
  if (!question || phase === 'ahead') return onward;
  const again: Step[] =
    phase === 'closed' && question.vote < 2 ? [{ kind: 'open-again', question: at, says: 'Ask it again' }] : [];
  if (phase === 'closed' && question.right !== '')
    return [{ kind: 'show', question: at, says: 'Show what is right' }, ...again, ...onward];
  return [...onward, ...again];
}
