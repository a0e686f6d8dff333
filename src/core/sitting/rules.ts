import type { Duration, Instant } from '../base/time';

/** The rules of a sitting that decide about time. Every moment is optional: a sitting without `closes` never closes. */
export type SittingRules = {
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

export const attemptCountings = ['best', 'first', 'last', 'mean'] as const;
export type AttemptCounts = (typeof attemptCountings)[number];

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
  closes: Instant | null;
  extraAttempts: number;
  excused: boolean;
};

export const noArrangement: Arrangement = {
  extraPercent: 0,
  extraMinutes: 0,
  opens: null,
  closes: null,
  extraAttempts: 0,
  excused: false,
};

/** A sitting's own arrangement stands in front of the standing one; extra time named in both is the greater of the two. */
export function mergeArrangements(standing: Arrangement, own: Arrangement): Arrangement {
  return {
    extraPercent: Math.max(standing.extraPercent, own.extraPercent),
    extraMinutes: Math.max(standing.extraMinutes, own.extraMinutes),
    opens: own.opens ?? standing.opens,
    closes: own.closes ?? standing.closes,
    extraAttempts: Math.max(standing.extraAttempts, own.extraAttempts),
    excused: standing.excused || own.excused,
  };
}
