import { day, type Instant } from '../base/time';
import { type Fact, keyFacts, type Learning, planInForce, type ReleaseMoment, type ReleasePlan } from './plan';

/** A fact that gives away a key, and the first moment at which a student of the sitting can have seen it. */
export type EarlyFact = { fact: Fact; from: Instant };

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

/** Someone who may still be writing questions whose keys are given away here. */
export type Leak = Writing & {
  own: boolean;
  /** What gives keys away there, the earliest first. */
  early: readonly EarlyFact[];
};

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
    const told = early.filter((one) => writing.latest > one.from).sort((a, b) => a.from - b.from);
    return told.length ? [{ ...writing, own, early: told }] : [];
  });
}

/** What somebody has taken on by name: these facts are shown although who writes that sitting may do so until then. */
export type LeakTaken = {
  sittingId: string;
  facts: Fact[];
  /** Null where nothing ends it. */
  latest: Instant | null;
};

/** A leak, as it is taken on. */
export const leakTaken = (leak: Pick<Leak, 'sittingId' | 'latest' | 'early'>): LeakTaken => ({
  sittingId: leak.sittingId,
  facts: keyFacts.filter((fact) => leak.early.some((one) => one.fact === fact)),
  latest: Number.isFinite(leak.latest) ? leak.latest : null,
});

/** A name for a leak: the same for the same leak; one that tells more or reaches further is another. */
export function leakKey(leak: Pick<Leak, 'sittingId' | 'latest' | 'early'>): string {
  const { sittingId, facts, latest } = leakTaken(leak);
  return `leak of ${facts.join(', ')} to ${sittingId} until ${latest ?? 'ever'}`;
}

/** Whether somebody has taken on that the fact is shown while that writing may go on. */
const isTakenOn = (taken: readonly LeakTaken[], writing: Writing, fact: Fact): boolean =>
  taken.some(
    ({ sittingId, facts, latest }) =>
      sittingId === writing.sittingId && facts.includes(fact) && (latest === null || latest >= writing.latest),
  );

/** Whether all that a leak tells has been taken on by name, so that nothing of it is held back. */
export const isLeakTaken = (taken: readonly LeakTaken[], leak: Leak): boolean =>
  leak.early.every(({ fact }) => isTakenOn(taken, leak, fact));

/**
 * Facts that are kept from a student although the plan shows them: they give away a key, somebody may still be writing the
 * same questions, and nobody has taken that on by name.
 *
 * @param taken what was taken on by name
 * @returns for each fact held back, until when; ∞ where nothing ends it
 */
export function heldBack(
  sitting: { sittingId: string; meant: boolean },
  visible: ReadonlySet<Fact>,
  writings: readonly Writing[],
  taken: readonly LeakTaken[],
  now: Instant,
): Map<Fact, Instant> {
  const held = new Map<Fact, Instant>();
  const early = keyFacts.filter((fact) => visible.has(fact)).map((fact) => ({ fact, from: now }));
  for (const leak of leaks(sitting, early, writings))
    for (const { fact } of leak.early)
      if (!isTakenOn(taken, leak, fact)) held.set(fact, Math.max(held.get(fact) ?? now, leak.latest));
  return held;
}

/** What the earliest showing of a fact depends on. */
export type Earliest = {
  /** From when anybody can start. */
  opens: Instant;
  /** The earliest closing of anybody, arrangements included; null where there is none. */
  closes: Instant | null;
  overAt: Instant | null;
};

/**
 * The facts of a sitting that give away keys, and from when a student can see each at the earliest: whoever hands in at
 * once sees what is shown on hand-in once it opens. What is published is looked at when it is published.
 */
export function earliestFacts(
  plan: ReleasePlan,
  { learning, tries }: { learning: Learning; tries: object | null },
  { opens, closes, overAt }: Earliest,
): EarlyFact[] {
  const at = (moment: ReleaseMoment): Instant | null => {
    switch (moment.kind) {
      case 'as-they-go':
      case 'on-hand-in':
      case 'after-attempt':
      case 'after-last-attempt':
        return opens;
      case 'over-for-everyone':
        return overAt;
      case 'at':
        return Math.max(moment.at, opens);
      case 'after-closing':
        return closes === null ? null : closes + moment.days * day;
      case 'on-publishing':
        return null;
    }
  };
  const held = planInForce(plan, learning);
  const early = keyFacts.flatMap((fact) => {
    const moments = held.questions?.length ? (held[fact] ?? []).flatMap(({ begins }) => at(begins) ?? []) : [];
    return moments.length ? [{ fact, from: Math.min(...moments) }] : [];
  });
  // A check of a question tells right from wrong, whatever is shown afterwards.
  const checked = learning === 'as-they-go' || tries !== null;
  return checked
    ? [...early.filter((one) => one.fact !== 'right-or-wrong'), { fact: 'right-or-wrong', from: opens }]
    : early;
}
