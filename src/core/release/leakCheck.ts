import type { Instant } from '../base/time';

/** A fact that gives away a key, and the first moment at which a student of the sitting can have seen it. */
export type EarlyFact = { fact: 'right-or-wrong' | 'right-answers' | 'feedback'; from: Instant };

/** A sitting that can draw some of the same questions, and how late who may still be writing there. */
export type Writing = {
  sittingId: string;
  title: string;
  /** How many questions it can draw that the other sitting can draw too. */
  shared: number;
  /** ∞ where nothing ends it. */
  latest: Instant;
  /** Of those who may write that late, the names, while there are few. */
  names: readonly string[];
};

export type Leak = EarlyFact & Writing & { own: boolean };

/**
 * Leaks: facts that give away a key and are shown while somebody may still be writing the same questions, the viewer's own
 * later attempts included.
 *
 * @param sitting whose facts are shown; `meant` where early answers are what it is for: a practice sitting, checked against
 * itself only
 */
export function leaks(
  sitting: { sittingId: string; meant: boolean },
  early: readonly EarlyFact[],
  writings: readonly Writing[],
): Leak[] {
  return writings.flatMap((writing) => {
    const own = writing.sittingId === sitting.sittingId;
    if (writing.shared === 0 || (own && sitting.meant)) return [];
    const first = [...early].sort((a, b) => a.from - b.from)[0];
    return first && writing.latest > first.from ? [{ ...first, ...writing, own }] : [];
  });
}
