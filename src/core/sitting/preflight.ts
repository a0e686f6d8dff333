import { durationText, type Instant, minute, momentText } from '../base/time';
import { counted } from '../base/words';
import { type Leak, type LeakTaken, leakKey, leakTaken } from '../release/leakCheck';
import type { Fact, ReleasePlan } from '../release/plan';
import { inARow, planProblems } from '../release/planSaid';
import { lastStartFor } from './clock';
import { readNetwork } from './networks';
import { noArrangement, type SittingRules } from './rules';
import { firstOpenDay } from './shutDays';

/** A warning of the preflight that somebody has read and takes the responsibility for. */
export type Acknowledged = {
  key: string;
  by: string;
  name: string;
  at: Instant;
  /** What is shown although it gives keys away, where that is what was taken on. */
  leak?: LeakTaken;
};

/** Something that stands in the way of a sitting (an error), or that somebody has to take upon themselves (a warning). */
export type PreflightFinding = {
  /** The same for the same thing, so that an acknowledgement stays with it; a leak that grows is another one. */
  key: string;
  kind: 'error' | 'warning';
  /** The rule where it is mended. */
  field?: string;
  message: string;
  /** What is told too early, where it is that. */
  leak?: LeakTaken;
};

/** What another sitting promises its students and would hold back, because the same questions are still being written here. */
export type HeldElsewhere = { sittingId: string; title: string; facts: Fact[]; until: Instant };

/** All that a preflight looks at. */
export type PreflightFacts = {
  rules: SittingRules;
  zone: string;
  /** How many students it is given to; null for whoever comes by the link. */
  students: number | null;
  /** What keeps the exam's papers from being drawn. */
  planProblems: readonly string[];
  /** How many questions of a paper are marked by hand, at least and at most, and how many markers are assigned. */
  byHand: { least: number; most: number };
  markers: number;
  scored: boolean;
  releasePlan: ReleasePlan;
  leaks: readonly Leak[];
  /** The students who could never start, because their own opening lies behind their last start. */
  neverStart: readonly string[];
  /** How many minutes a paper is expected to take; null where nothing is known. */
  expectedMinutes: number | null;
  /** What other sittings promise and would hold back because of this one, in words. */
  heldElsewhere: readonly HeldElsewhere[];
  /** Whether it has been scheduled: once it is open, its window is not judged by what is left of it. */
  scheduled: boolean;
};

/** What has to be looked at before a sitting is scheduled: errors block, warnings are acknowledged by name. */
export function preflight(facts: PreflightFacts, now: Instant): PreflightFinding[] {
  const { rules, zone } = facts;
  const found: PreflightFinding[] = [];
  const error = (key: string, message: string, field?: string) =>
    found.push({ key, kind: 'error', message, ...(field ? { field } : {}) });
  const warn = (key: string, message: string, field?: string) =>
    found.push({ key, kind: 'warning', message, ...(field ? { field } : {}) });

  moments(rules, now, error, warn);
  window(rules, zone, facts.scheduled ? Math.min(now, rules.opens ?? now) : now, error, warn);
  if (facts.students === 0) error('nobody', 'Nobody is given this sitting yet.', 'who');
  if (facts.students === null && rules.attemptsAllowed !== null)
    error(
      'link-limits-attempts',
      'Whoever comes by the link only types a name, so that attempts cannot be counted: allow any number, or give it to people who sign in.',
      'attemptsAllowed',
    );
  for (const name of facts.neverStart)
    error(
      `never-starts:${name}`,
      `${name} could never start: their own opening lies after their last start.`,
      'lastStart',
    );
  expectation(facts, warn);
  for (const { sittingId, title, facts: held, until } of facts.heldElsewhere)
    warn(
      `holds-back:${sittingId}:${held.join()}:${Number.isFinite(until) ? until : 'ever'}`,
      `Students of “${title}” no longer see ${inARow(held.map((fact) => keysSaid[fact] ?? fact))} as they were promised: it is held back ${Number.isFinite(until) ? `until ${momentText(until, zone)}` : 'without end'}, because the same questions may be written here until then.`,
      'closes',
    );
  for (const [i, network] of rules.networks.entries())
    if (!readNetwork(network))
      error(`network-${i}`, `“${network}” is not a network range such as 10.1.0.0/16.`, 'networks');
  for (const message of facts.planProblems) error(`exam:${message}`, message, 'exam');

  for (const problem of planProblems(facts.releasePlan, rules, zone))
    (problem.kind === 'error' ? error : warn)(`release:${problem.message}`, problem.message, 'release');
  if (facts.scored && !facts.releasePlan.score?.length && rules.learning === 'by-plan')
    warn('score-never-shown', 'No moment is set at which students see their score.', 'release');
  if (facts.scored && facts.byHand.most > 0 && facts.markers === 0)
    warn(
      'nobody-marks',
      `${facts.byHand.least === facts.byHand.most ? 'Every paper has' : 'A paper has at most'} ${counted(facts.byHand.most, 'answer')} to be marked by hand, and no marker is assigned: they wait for the instructors.`,
      'markers',
    );
  for (const leak of facts.leaks)
    found.push({
      key: leakKey(leak),
      kind: 'warning',
      message: leakSaid(leak, zone),
      field: 'learning',
      leak: leakTaken(leak),
    });
  return found;
}

/** A paper that is expected to take much longer than there is time for. */
const farAbove = 1.25;

function expectation({ rules, expectedMinutes }: PreflightFacts, warn: Say): void {
  if (rules.timeLimit === null || expectedMinutes === null) return;
  const limit = rules.timeLimit / minute;
  if (expectedMinutes > limit * farAbove)
    warn(
      'expected-above-limit',
      `A paper is expected to take about ${Math.round(expectedMinutes)} min, and there are ${durationText(rules.timeLimit)}.`,
      'timeLimitMinutes',
    );
}

type Say = (key: string, message: string, field?: string) => void;

/** The moments in their order, and none of them too late. */
function moments({ opens, lastStart, due, closes }: SittingRules, now: Instant, error: Say, warn: Say): void {
  if (closes !== null && closes <= now) error('closes-past', 'It would close in the past.', 'closes');
  if (opens !== null && closes !== null && opens >= closes)
    error('closes-first', 'It closes before it opens.', 'closes');
  if (lastStart !== null && opens !== null && lastStart <= opens)
    error('last-start-first', 'The last start lies before the opening.', 'lastStart');
  if (lastStart !== null && closes !== null && lastStart > closes)
    error('last-start-late', 'The last start lies after the closing.', 'lastStart');
  if (lastStart !== null && closes === null && lastStart <= now)
    error('last-start-past', 'The last start lies in the past.', 'lastStart');
  if (due !== null && closes !== null && due > closes) error('due-late', 'Due cannot lie after the closing.', 'due');
  if (due !== null && opens !== null && due < opens) error('due-first', 'Due lies before the opening.', 'due');
  if (closes === null && lastStart === null)
    warn('never-closes', 'It never closes: it can be started for ever, and it is never over for everyone.', 'closes');
}

/**
 * Whether the time limit fits, and whether any day is left on which it can be started.
 *
 * @param now from when the window counts, at the earliest: an opening in the past opens nothing any more
 */
function window(rules: SittingRules, zone: string, now: Instant, error: Say, warn: Say): void {
  const { opens, closes, timeLimit } = rules;
  if (timeLimit !== null && timeLimit < 60_000)
    error('limit-short', 'A time limit is at least one minute.', 'timeLimitMinutes');
  if (rules.minutesPerQuestion !== null && !rules.onwardOnly)
    error('question-time-anywhere', 'Time for each question needs the way onward only.', 'minutesPerQuestion');
  if (rules.missedAgain && rules.learning !== 'as-they-go')
    error(
      'again-unseen',
      'Missed questions can come again only where students learn as they go what they missed.',
      'missedAgain',
    );
  if (rules.missedAgain && rules.onwardOnly)
    error('again-onward', 'Missed questions cannot come again where the way is onward only.', 'missedAgain');
  if (closes === null) return;
  const begins = Math.max(opens ?? now, now);
  if (closes > begins && firstOpenDay(begins, rules.shutDays, zone) >= closes)
    error('always-shut', 'Every day between the opening and the closing is shut.', 'shutDays');
  if (timeLimit === null || rules.fullTimeOnceStarted || closes <= begins) return;
  const lastStart = lastStartFor(rules, noArrangement);
  if (closes - begins < timeLimit)
    error(
      'limit-window',
      `The time limit of ${durationText(timeLimit)} does not fit between opening and closing.`,
      'timeLimitMinutes',
    );
  else if (lastStart !== null && lastStart < closes && closes - lastStart < timeLimit)
    warn(
      'limit-after-last-start',
      `Whoever starts at the last start has ${durationText(closes - lastStart)} of the ${durationText(timeLimit)}, since it closes then.`,
      'lastStart',
    );
}

const keysSaid: Partial<Record<Fact, string>> = {
  'right-or-wrong': 'what is right and wrong',
  'right-answers': 'the right answers',
  feedback: 'the feedback',
};

/**
 * A leak in words: what is shown where and to whom while others may still be writing the same questions.
 *
 * @param takenOnBy who has taken that on by name, so that it is not held back; null where nobody has
 */
export function leakSaid(leak: Leak, zone: string, takenOnBy: string | null = null): string {
  const until = Number.isFinite(leak.latest) ? `until ${momentText(leak.latest, zone)}` : 'without end';
  const who = leak.names.length ? ` (${leak.names.join(', ')})` : '';
  const where = leak.own
    ? `others in this sitting may still be writing ${until}${who}`
    : `${counted(leak.shared, 'of these questions', 'of these questions')} can stand on papers of “${leak.title}”, where students may be writing ${until}${who}`;
  const first = leak.early[0]?.from ?? Number.NEGATIVE_INFINITY;
  const from = Number.isFinite(first) ? ` from ${momentText(first, zone)}` : '';
  return `Students see ${inARow(leak.early.map(({ fact }) => keysSaid[fact] ?? fact))}${from}, while ${where}. ${takenOnBy === null ? 'Otherwise it is held back until then.' : `${takenOnBy} has accepted that: it is not held back.`}`;
}

/** The warnings that nobody has taken upon themselves yet. */
export const unacknowledged = (
  findings: readonly PreflightFinding[],
  acknowledged: readonly Acknowledged[],
): PreflightFinding[] =>
  findings.filter(({ kind, key }) => kind === 'warning' && !acknowledged.some((one) => one.key === key));
