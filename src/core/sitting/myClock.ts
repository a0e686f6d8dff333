import { type Duration, durationText, type Instant, minute, nearText } from '../base/time';
import { closesFor, deadlineBy, dueFor, lastStartFor, limitFor, opensFor } from './clock';
import type { Arrangement, SittingRules } from './rules';

/** The times of one student in one sitting, with everything that is arranged for them; nothing else of the rules. */
export type OwnTimes = {
  opens: Instant | null;
  lastStart: Instant | null;
  due: Instant | null;
  closes: Instant | null;
  limit: Duration | null;
  /** Whether the limit holds extra time. */
  extraTime: boolean;
  fullTime: boolean;
  /** For how long after the end it may still be handed in, and counts only then; null where it is handed in by itself. */
  grace: Duration | null;
};

/** The times of one student, from the rules and what is arranged for them. */
export function ownTimes(rules: SittingRules, arrangement: Arrangement): OwnTimes {
  const limit = limitFor(rules, arrangement);
  return {
    opens: opensFor(rules, arrangement),
    lastStart: lastStartFor(rules, arrangement),
    due: dueFor(rules, arrangement),
    closes: closesFor(rules, arrangement),
    limit,
    extraTime: limit !== rules.timeLimit,
    fullTime: rules.fullTimeOnceStarted,
    grace: rules.expiry.kind === 'grace' ? rules.expiry.minutes * minute : null,
  };
}

/** What lies between a student and an attempt, as far as their clock says it. */
export type ClockState =
  | { kind: 'may-start' }
  /** @property at the first moment at which it can start, where it is known */
  | { kind: 'not-yet'; at: Instant | null }
  | { kind: 'running'; deadline: Instant | null; handInUntil: Instant | null }
  | { kind: 'over' };

/** The times of one student in words. */
export type MyClock = {
  /** The window: from when, until when, late after when. */
  window: string;
  /** What a start now would bring, or how long a running attempt has; empty where neither is. */
  now: string;
  /** The next moment at which more changes than how much is left; null where nothing does. */
  changesAt: Instant | null;
};

const sentence = (words: readonly string[]): string => {
  const text = words.join('; ');
  return text === '' ? '' : `${text[0]?.toUpperCase()}${text.slice(1)}.`;
};

/**
 * The sentence of all times of one student: used wherever times are told, so that all places say the same.
 *
 * @param now null for words that are read at another time, as a message is: days are named, and nothing is counted down
 * @param to its student, or whoever looks after them
 * Such as “Start by 12:00; late after 13:00; ends 14:00.” and “If you start now you have 27 min, until 12:57.”
 */
export function myClock(
  times: OwnTimes,
  state: ClockState,
  zone: string,
  now: Instant | null,
  to: 'student' | 'staff' = 'student',
): MyClock {
  const at = (moment: Instant) => nearText(moment, zone, now);
  const isPast = (moment: Instant | null) => now !== null && moment !== null && moment <= now;
  const { opens, lastStart, due, closes } = times;
  const isBegun = state.kind === 'running';
  const startEnds = lastStart !== null && (closes === null || lastStart < closes) ? lastStart : null;
  const lateAfter = due !== null && due !== closes ? due : null;
  const said = [
    !isBegun && opens !== null && (isPast(opens) ? '' : `opens ${at(opens)}`),
    !isBegun &&
      startEnds !== null &&
      (isPast(startEnds) ? `could be started until ${at(startEnds)}` : `start by ${at(startEnds)}`),
    lateAfter !== null && (isPast(lateAfter) ? `late since ${at(lateAfter)}` : `late after ${at(lateAfter)}`),
    !isBegun && closes !== null && (isPast(closes) ? `ended ${at(closes)}` : `ends ${at(closes)}`),
  ].filter((words): words is string => typeof words === 'string' && words !== '');
  const moments = [opens, startEnds, lateAfter, closes, state.kind === 'not-yet' ? state.at : null];
  if (state.kind === 'running') moments.push(state.deadline, state.handInUntil);
  const ahead = moments.filter((moment): moment is Instant => moment !== null && (now === null || moment > now));
  const window =
    sentence(said) ||
    (isBegun ? '' : closes === null && opens === null ? 'It is open, and stays open.' : 'It stays open.');
  return {
    window,
    now: nowSaid(times, state, zone, now, to),
    changesAt: ahead.length ? Math.min(...ahead) : null,
  };
}

/** A whole number of minutes where there are minutes, so that the sentence does not change with every second. */
const about = (left: Duration): string =>
  durationText(left >= minute ? Math.floor(left / minute) * minute : Math.max(0, left));

function nowSaid(
  times: OwnTimes,
  state: ClockState,
  zone: string,
  now: Instant | null,
  to: 'student' | 'staff',
): string {
  const you = to === 'student' ? 'you have' : 'they have';
  const You = to === 'student' ? 'You have' : 'They have';
  const { limit, extraTime, grace } = times;
  const more = extraTime ? ', extra time included' : '';
  const graceSaid = grace === null ? '' : ` Then ${durationText(grace)} to hand in, without which it does not count.`;
  if (state.kind === 'running') {
    if (state.deadline === null) return 'There is no time limit.';
    const left =
      now === null ? '' : `: ${now >= state.deadline ? 'the time is over' : `${about(state.deadline - now)} left`}`;
    return `${You} until ${nearText(state.deadline, zone, now)}${left}.${graceSaid}`;
  }
  if (state.kind === 'over') return '';
  if (state.kind === 'may-start' && now !== null) {
    const end = deadlineBy(times, now, 0);
    if (end === null) return 'There is no time limit.';
    const got = end - now;
    const cut = limit !== null && got < limit ? ` of the full ${durationText(limit)}` : limit === null ? '' : more;
    return `If ${to === 'student' ? 'you start' : 'they start'} now ${you} ${about(got)}${cut}, until ${nearText(end, zone, now)}.${graceSaid}`;
  }
  if (limit === null) return `There is no time limit.${graceSaid}`;
  const past = times.fullTime && times.closes !== null ? ', also past the end' : '';
  return `${You} ${durationText(limit)} from the start${more}${past}.${graceSaid}`;
}
