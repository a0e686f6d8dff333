/** When a student is done with a sitting: once it is completely marked, or once the result reaches so many percent. */
export type Completion = { kind: 'when-marked' } | { kind: 'when-passed'; percent: number };

/** A result as it was published; `waiting` counts the questions without a mark. */
export type CompletionFacts = { earned: number; possible: number; waiting: number };

/**
 * Whether a student is done with a sitting, from what was published to them.
 *
 * @returns null where the sitting does not say when
 */
export function isDone(completion: Completion | null, published: CompletionFacts | null): boolean | null {
  if (!completion) return null;
  if (!published || published.waiting > 0) return false;
  if (completion.kind === 'when-marked') return true;
  const { earned, possible } = published;
  // A share such as 0.7 · 10 is not exactly 7 in binary.
  return possible > 0 && (earned / possible) * 100 >= completion.percent - 1e-9;
}

/** When a student is done, in words. @example completionSaid({ kind: 'when-passed', percent: 60 }) // 'done when passed at 60 %' */
export const completionSaid = (completion: Completion): string =>
  completion.kind === 'when-marked' ? 'done when marked' : `done when passed at ${completion.percent} %`;
