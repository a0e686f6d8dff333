import type { Duration, Instant } from '../base/time';
import type { Learning } from '../release/plan';

/** What happens when the time of an attempt is over: it is handed in, or counts only if its student hands it in by then. */
type Expiry = { kind: 'hand-in' } | { kind: 'grace'; minutes: number };

/**
 * What lies between two attempts of a student: nothing; a wait from the hand-in, `minutes[i]` before attempt i + 2, the
 * last of them before every later one; or the instructor, who lets each attempt after the first through.
 */
export type BetweenAttempts = { kind: 'none' } | { kind: 'wait'; minutes: number[] } | { kind: 'let-through' };

/** How often a question may be tried, and the share of its credit that each further try costs, in [0, 1]. */
export type Tries = { most: number; cost: number };

/** How many missed questions come again at the end, and the share of their credit they then bring, in [0, 1]. */
type MissedAgain = { most: number; credit: number };

/** The rules of a sitting that most sittings leave as they are. */
export type FurtherRules = {
  expiry: Expiry;
  between: BetweenAttempts;
  /** Whether a further attempt goes on with the paper and the answers of the one before, or gets a paper of its own. */
  nextPaper: 'new' | 'same';
  /** Null: a question is not checked before the hand-in, except where students learn as they go: then once. */
  tries: Tries | null;
  missedAgain: MissedAgain | null;
  learning: Learning;
  /** No way back to a page once it is left. */
  onwardOnly: boolean;
  /** Time for each question that has none of its own; only where the way is onward only. */
  minutesPerQuestion: number | null;
  /** What has to be typed to start; empty for none. */
  entryCode: string;
  /** The networks from which it can be started and written, as CIDR ranges; empty for all. */
  networks: string[];
  /** Days of the course's calendar on which nobody can start, as `2026-12-25`. */
  shutDays: string[];
};

/** Those of them that belong to one day or one room; the others can be usual for an exam. */
export type RuleOfOneRoom = 'entryCode' | 'networks' | 'shutDays';

/** The rules of a sitting that says nothing beyond its moments. */
export const noFurtherRules: FurtherRules = {
  expiry: { kind: 'hand-in' },
  between: { kind: 'none' },
  nextPaper: 'new',
  tries: null,
  missedAgain: null,
  learning: 'by-plan',
  onwardOnly: false,
  minutesPerQuestion: null,
  entryCode: '',
  networks: [],
  shutDays: [],
};

/** The rules of a sitting. Every moment is optional: a sitting without `closes` never closes. */
export type SittingRules = FurtherRules & {
  opens: Instant | null;
  lastStart: Instant | null;
  /** The moment after which work is late; never after `closes`. */
  due: Instant | null;
  closes: Instant | null;
  /** Time from the start of an attempt; null is no limit. */
  timeLimit: Duration | null;
  /** A started attempt gets its full time even past the closing. */
  fullTimeOnceStarted: boolean;
  /** How many attempts; null is unlimited. */
  attemptsAllowed: number | null;
  /** Which attempt makes the result. */
  attemptCounts: AttemptCounts;
};

/** Which of several attempts can count. */
export const attemptCountings = ['best', 'first', 'last', 'mean'] as const;
/** One way in which several attempts count. */
export type AttemptCounts = (typeof attemptCountings)[number];

/** Which attempt counts, in words. */
export const attemptCountingNames: Record<AttemptCounts, string> = {
  best: 'the best attempt counts',
  first: 'the first attempt counts',
  last: 'the last attempt counts',
  mean: 'the mean of the attempts counts',
};

/** What differs for one student. Standing and per-sitting arrangements are merged by {@link mergeArrangements}. */
export type Arrangement = {
  /** Extra time in percent of the limit. */
  extraPercent: number;
  extraMinutes: number;
  opens: Instant | null;
  lastStart: Instant | null;
  due: Instant | null;
  closes: Instant | null;
  extraAttempts: number;
  excused: boolean;
  /** An entry code of one's own; null where the sitting's holds. */
  entryCode: string | null;
  /** Networks of one's own; null where the sitting's hold. */
  networks: string[] | null;
  /** The number of the last attempt the instructor has let through. */
  letThrough: number;
};

/** What is arranged for someone for whom nothing is. */
export const noArrangement: Arrangement = {
  extraPercent: 0,
  extraMinutes: 0,
  opens: null,
  lastStart: null,
  due: null,
  closes: null,
  extraAttempts: 0,
  excused: false,
  entryCode: null,
  networks: null,
  letThrough: 0,
};

/** A sitting's own arrangement stands in front of the standing one; extra time named in both is the greater of the two. */
export function mergeArrangements(standing: Arrangement, own: Arrangement): Arrangement {
  return {
    extraPercent: Math.max(standing.extraPercent, own.extraPercent),
    extraMinutes: Math.max(standing.extraMinutes, own.extraMinutes),
    opens: own.opens ?? standing.opens,
    lastStart: own.lastStart ?? standing.lastStart,
    due: own.due ?? standing.due,
    closes: own.closes ?? standing.closes,
    extraAttempts: Math.max(standing.extraAttempts, own.extraAttempts),
    excused: standing.excused || own.excused,
    entryCode: own.entryCode ?? standing.entryCode,
    networks: own.networks ?? standing.networks,
    letThrough: Math.max(standing.letThrough, own.letThrough),
  };
}
