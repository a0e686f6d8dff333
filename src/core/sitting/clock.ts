import { type Duration, day, type Instant, minute } from '../base/time';
import type { Arrangement, SittingRules } from './rules';
import { inTimeToSave, saveAllowance } from './saveAllowance';
import { firstOpenDay, lastOpenDay } from './shutDays';

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

/**
 * When a student may start at the earliest: their own moment where one is arranged; null where it is open from the start.
 */
export const opensFor = (rules: SittingRules, arrangement: Arrangement): Instant | null =>
  arrangement.opens ?? rules.opens;

/** The student's own last start; whoever has a closing of their own may start until then. */
export const lastStartFor = (rules: SittingRules, arrangement: Arrangement): Instant | null =>
  arrangement.lastStart ?? (arrangement.closes === null ? rules.lastStart : null);

/** The student's own due; with a closing of one's own and no due of one's own, work is in time until that closing. */
export const dueFor = (rules: SittingRules, arrangement: Arrangement): Instant | null =>
  arrangement.due ?? (rules.due === null ? null : (arrangement.closes ?? rules.due));

/** The moment from which nobody can start any more: min(last start, closes′); null where there is none. */
function startEnds(rules: SittingRules, arrangement: Arrangement): Instant | null {
  const ends = [lastStartFor(rules, arrangement), closesFor(rules, arrangement)].filter((end) => end !== null);
  return ends.length ? Math.min(...ends) : null;
}

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
  return deadlineBy({ limit, closes, fullTime: rules.fullTimeOnceStarted }, startedAt, added);
}

/**
 * The same from what a student's own limit and closing are.
 *
 * @returns null when the attempt may run for ever
 */
export function deadlineBy(
  { limit, closes, fullTime }: { limit: Duration | null; closes: Instant | null; fullTime: boolean },
  startedAt: Instant,
  added: Duration,
): Instant | null {
  const byLimit = limit === null ? null : startedAt + limit;
  if (byLimit !== null && (fullTime || closes === null)) return byLimit + added;
  if (closes === null) return null;
  return (byLimit === null ? closes : Math.min(byLimit, closes)) + added;
}

/** For how long after its deadline an attempt may still be handed in by its student, without changing anything. */
const graceOf = ({ expiry }: SittingRules): Duration => (expiry.kind === 'grace' ? expiry.minutes * minute : 0);

/**
 * Whether the clock has ended the attempt: its deadline, the grace where there is one, and the allowance have passed. It is
 * then stamped with its deadline, whenever anyone gets round to it.
 */
export const hasExpired = (rules: SittingRules, deadline: Instant | null, now: Instant): boolean =>
  deadline !== null && now > deadline + graceOf(rules) + saveAllowance;

/** What has happened so far between one student and one sitting. Voided attempts are left out by the caller. */
export type AttemptsSoFar = {
  running: { startedAt: Instant; added: Duration } | null;
  used: number;
  /** When the last of them ended. */
  lastEnded: Instant | null;
};

/** What has happened before the first attempt. */
export const noAttempts: AttemptsSoFar = { running: null, used: 0, lastEnded: null };

/** An attempt as far as it decides what a student may do next. */
export type AttemptFacts = { state: string; startedAt: Instant; endedAt: Instant | null; added: Duration };

/** What has happened so far, from the attempts of one student in one sitting; voided ones never count. */
export function soFarOf(attempts: readonly AttemptFacts[]): AttemptsSoFar {
  const own = attempts.filter((one) => one.state !== 'voided');
  if (own.length === 0) return noAttempts;
  const running = own.find((one) => one.state === 'running');
  const ends = own.flatMap((one) => one.endedAt ?? []);
  return {
    running: running ? { startedAt: running.startedAt, added: running.added } : null,
    used: own.length,
    lastEnded: ends.length ? Math.max(...ends) : null,
  };
}

/** Why an attempt may not start now. */
export type WhyNot =
  | 'running'
  | 'excused'
  | 'no-attempt-left'
  | 'not-let-through'
  | 'closed'
  | 'last-start-over'
  /** The first moment at which it could start lies after the last one. */
  | 'no-time-left'
  | 'not-open-yet'
  | 'shut-today'
  | 'wait';

/** Whether an attempt may start now: with which deadline and limit, or why not. */
export type MayStart =
  | { may: true; deadline: Instant | null; limit: Duration | null }
  | {
      may: false;
      why: WhyNot;
      /** For what passes by itself, the first moment at which it may start; for what is over, when it ended. */
      at: Instant | null;
    };

/** The wait before the next attempt, from the hand-in of the last. */
function waitBefore({ between }: SittingRules, next: number): Duration {
  if (between.kind !== 'wait' || next < 2) return 0;
  return (between.minutes[next - 2] ?? between.minutes.at(-1) ?? 0) * minute;
}

/**
 * may start: opens ≤ now < min(last start, closes′), attempts left, waits over, let through where the instructor does that,
 * not on a shut day, not excused, none running.
 */
export function mayStart(
  rules: SittingRules,
  zone: string,
  arrangement: Arrangement,
  soFar: AttemptsSoFar,
  now: Instant,
): MayStart {
  const not = (why: WhyNot, at: Instant | null = null): MayStart => ({ may: false, why, at });
  const next = soFar.used + 1;
  if (soFar.running) return not('running');
  if (arrangement.excused) return not('excused');
  if (attemptsLeft(rules, arrangement, soFar.used) === 0) return not('no-attempt-left');
  const closes = closesFor(rules, arrangement);
  const lastStart = lastStartFor(rules, arrangement);
  if (closes !== null && now >= closes) return not('closed', closes);
  if (lastStart !== null && now >= lastStart) return not('last-start-over', lastStart);
  if (rules.between.kind === 'let-through' && next > 1 && arrangement.letThrough < next) return not('not-let-through');

  const opens = opensFor(rules, arrangement) ?? Number.NEGATIVE_INFINITY;
  const waited = (soFar.lastEnded ?? Number.NEGATIVE_INFINITY) + waitBefore(rules, next);
  const first = firstOpenDay(Math.max(now, opens, waited), rules.shutDays, zone);
  const end = startEnds(rules, arrangement);
  if (end !== null && first >= end) return not('no-time-left', first);
  if (first > now) return not(now < opens ? 'not-open-yet' : now < waited ? 'wait' : 'shut-today', first);
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

/** A running attempt as the clock sees it. */
type RunningClock = {
  deadline: Instant | null;
  /** Until when its student may still hand it in; the deadline itself where there is no grace. */
  handInUntil: Instant | null;
  /** Whether answers are still taken. */
  writing: boolean;
  /** Whether the clock has ended it. */
  over: boolean;
  /** What becomes of it once the clock ends it. */
  becomes: 'handed-in' | 'not-handed-in';
};

/** Where one student stands with one sitting at one moment. */
type Clock = {
  start: MayStart;
  running: RunningClock | null;
  /** The latest moment at which this student may still be writing; −∞ for never again, ∞ for ever. */
  latest: Instant;
};

/**
 * The clock of a sitting for one student: whether an attempt may start and if not why, when a running one ends and what
 * then becomes of it, and how late they may still be writing.
 *
 * @param zone the course's, by whose calendar days are shut
 */
export function clockFor(
  rules: SittingRules,
  zone: string,
  arrangement: Arrangement,
  soFar: AttemptsSoFar,
  now: Instant,
): Clock {
  return {
    start: mayStart(rules, zone, arrangement, soFar, now),
    running: soFar.running && runningClock(rules, arrangement, soFar.running, now),
    latest: latestWriting(rules, zone, arrangement, soFar, now),
  };
}

/**
 * What the clock of a running attempt shows: how long is left, in what phase of the end it is, and what comes next.
 */
export function runningClock(
  rules: SittingRules,
  arrangement: Arrangement,
  running: { startedAt: Instant; added: Duration },
  now: Instant,
): RunningClock {
  const deadline = attemptDeadline(rules, arrangement, running.startedAt, running.added);
  return {
    deadline,
    handInUntil: deadline === null ? null : deadline + graceOf(rules),
    writing: inTimeToSave(deadline, now),
    over: hasExpired(rules, deadline, now),
    becomes: rules.expiry.kind === 'grace' ? 'not-handed-in' : 'handed-in',
  };
}

/**
 * The latest moment at which a student may still be writing: the deadline of the running attempt, or that of one started at
 * the last possible moment from now on.
 *
 * @returns −∞ when they cannot write any more, ∞ when nothing ends it
 */
export function latestWriting(
  rules: SittingRules,
  zone: string,
  arrangement: Arrangement,
  soFar: AttemptsSoFar,
  now: Instant,
): Instant {
  const ends: Instant[] = [];
  const { running } = soFar;
  if (running)
    ends.push(attemptDeadline(rules, arrangement, running.startedAt, running.added) ?? Number.POSITIVE_INFINITY);
  if (!arrangement.excused && attemptsLeft(rules, arrangement, soFar.used) !== 0) {
    const end = startEnds(rules, arrangement);
    if (end === null) ends.push(Number.POSITIVE_INFINITY);
    else {
      const lastOne = lastOpenDay(end, rules.shutDays, zone);
      const opens = opensFor(rules, arrangement) ?? Number.NEGATIVE_INFINITY;
      if (lastOne > Math.max(now, opens))
        ends.push(attemptDeadline(rules, arrangement, lastOne, 0) ?? Number.POSITIVE_INFINITY);
    }
  }
  return Math.max(Number.NEGATIVE_INFINITY, ...ends);
}

/**
 * The moment from which no attempt of a student runs and none can be started: with the last hand-in where no attempt is
 * left, else when nobody can start any more. It lies ahead while an attempt can still be started.
 *
 * @returns null while one runs, and where nothing ends it
 */
export function doneAt(rules: SittingRules, arrangement: Arrangement, soFar: AttemptsSoFar): Instant | null {
  if (soFar.running) return null;
  if (arrangement.excused || attemptsLeft(rules, arrangement, soFar.used) === 0) return soFar.lastEnded;
  const end = startEnds(rules, arrangement);
  return end === null ? null : Math.max(end, soFar.lastEnded ?? Number.NEGATIVE_INFINITY);
}

/**
 * When a sitting is over for everyone: the latest that anyone it is given to may still be writing or has been, and not
 * before it closes.
 *
 * @returns null when it never is
 */
export function overForEveryone(
  rules: SittingRules,
  zone: string,
  students: readonly { arrangement: Arrangement; soFar: AttemptsSoFar }[],
  now: Instant,
): Instant | null {
  if (rules.closes === null) return null;
  const latest = Math.max(
    rules.closes,
    ...students.map(({ arrangement, soFar }) =>
      Math.max(latestWriting(rules, zone, arrangement, soFar, now), soFar.lastEnded ?? Number.NEGATIVE_INFINITY),
    ),
  );
  return Number.isFinite(latest) ? latest : null;
}

/** Started days of 24 h between due and the hand-in; 0 when in time. */
export function daysLate(rules: SittingRules, arrangement: Arrangement, handedInAt: Instant): number {
  const due = dueFor(rules, arrangement);
  return due === null || handedInAt <= due ? 0 : Math.ceil((handedInAt - due) / day);
}
