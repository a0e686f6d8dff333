import { type Duration, day, type Instant, minute, second } from '../base/time';
import type { Arrangement, SittingRules } from './rules';

/** A save that was on its way when time ran out is still taken for so long. */
export const saveAllowance: Duration = 3 * second;

/** limit′ = limit·(1 + percent) + minutes; null where there is no limit. */
export function limitFor(rules: SittingRules, arrangement: Arrangement): Duration | null {
  if (rules.timeLimit === null) return null;
  return rules.timeLimit * (1 + arrangement.extraPercent / 100) + arrangement.extraMinutes * minute;
}

/** closes′ = the student's own closing if set, else closes + (limit′ − limit). */
export function closesFor(rules: SittingRules, arrangement: Arrangement): Instant | null {
  if (arrangement.closes !== null) return arrangement.closes;
  if (rules.closes === null) return null;
  const limit = limitFor(rules, arrangement);
  return limit === null || rules.timeLimit === null ? rules.closes : rules.closes + (limit - rules.timeLimit);
}

export const opensFor = (rules: SittingRules, arrangement: Arrangement): Instant | null =>
  arrangement.opens ?? rules.opens;

/**
 * deadline = min(start + limit′, closes′) + minutes added by the invigilator; with "full time once started":
 * start + limit′ + added.
 *
 * @returns null when the attempt may run for ever
 */
export function attemptDeadline(
  rules: SittingRules,
  arrangement: Arrangement,
  startedAt: Instant,
  added: Duration,
): Instant | null {
  const limit = limitFor(rules, arrangement);
  const closes = closesFor(rules, arrangement);
  const byLimit = limit === null ? null : startedAt + limit;
  if (byLimit !== null && (rules.fullTimeOnceStarted || closes === null)) return byLimit + added;
  if (closes === null) return null;
  return (byLimit === null ? closes : Math.min(byLimit, closes)) + added;
}

/** Whether a save that arrives now is in time: until the deadline and the allowance, inclusive. */
export const inTimeToSave = (deadline: Instant | null, now: Instant): boolean =>
  deadline === null || now <= deadline + saveAllowance;

/** Whether the clock has ended the attempt. It is then stamped with its deadline, whenever anyone gets round to it. */
export const hasExpired = (deadline: Instant | null, now: Instant): boolean =>
  deadline !== null && now > deadline + saveAllowance;

/** What has happened so far between one student and one sitting. Voided attempts are left out by the caller. */
export type AttemptsSoFar = { running: boolean; used: number };

export type MayStart =
  | { may: true; deadline: Instant | null; limit: Duration | null }
  | {
      may: false;
      why: 'not-open-yet' | 'last-start-over' | 'closed' | 'no-attempt-left' | 'running' | 'excused';
      at?: Instant;
    };

/** may start: opens ≤ now < min(lastStart, closes′), attempts left, none running. */
export function mayStart(rules: SittingRules, arrangement: Arrangement, soFar: AttemptsSoFar, now: Instant): MayStart {
  const opens = opensFor(rules, arrangement);
  const closes = closesFor(rules, arrangement);
  if (soFar.running) return { may: false, why: 'running' };
  if (arrangement.excused) return { may: false, why: 'excused' };
  if (attemptsLeft(rules, arrangement, soFar.used) === 0) return { may: false, why: 'no-attempt-left' };
  if (opens !== null && now < opens) return { may: false, why: 'not-open-yet', at: opens };
  if (closes !== null && now >= closes) return { may: false, why: 'closed', at: closes };
  if (rules.lastStart !== null && now >= rules.lastStart)
    return { may: false, why: 'last-start-over', at: rules.lastStart };
  return {
    may: true,
    deadline: attemptDeadline(rules, arrangement, now, 0),
    limit: limitFor(rules, arrangement),
  };
}

/** How many more attempts a student has; null is unlimited. */
export function attemptsLeft(rules: SittingRules, arrangement: Arrangement, used: number): number | null {
  if (rules.attemptsAllowed === null) return null;
  return Math.max(0, rules.attemptsAllowed + arrangement.extraAttempts - used);
}

/** Started days of 24 h between due and the hand-in; 0 when in time. */
export function daysLate(rules: SittingRules, handedInAt: Instant): number {
  if (rules.due === null || handedInAt <= rules.due) return 0;
  return Math.ceil((handedInAt - rules.due) / day);
}

/**
 * The latest moment at which one student may still be writing: the deadline of a running attempt, or that of one started
 * at the last possible moment. null: for ever.
 */
export function lastWriting(
  rules: SittingRules,
  arrangement: Arrangement,
  running: { startedAt: Instant; added: Duration } | null,
  mayStartAgain: boolean,
): Instant | null {
  const ends: (Instant | null)[] = [];
  if (running) ends.push(attemptDeadline(rules, arrangement, running.startedAt, running.added));
  if (mayStartAgain) {
    const closes = closesFor(rules, arrangement);
    const candidates = [closes, rules.lastStart].filter((moment) => moment !== null);
    ends.push(candidates.length === 0 ? null : attemptDeadline(rules, arrangement, Math.min(...candidates), 0));
  }
  if (ends.includes(null)) return null;
  return Math.max(Number.NEGATIVE_INFINITY, ...(ends as Instant[]));
}
