import { durationText, type Instant, minute, momentText } from '../base/time';
import { counted } from '../base/words';
import {
  deadFacts,
  type Fact,
  factNames,
  facts,
  type ReleaseEnd,
  type ReleaseMoment,
  type ReleasePlan,
  type ReleaseWindow,
  type SelfPublish,
} from './plan';

/** When a fact begins to be shown, in words. @example beginSaid({ kind: 'after-closing', days: 2 }, zone) // '2 days after the closing' */
export function beginSaid(moment: ReleaseMoment, zone: string): string {
  switch (moment.kind) {
    case 'as-they-go':
      return 'as they go';
    case 'on-hand-in':
      return 'on hand-in';
    case 'after-attempt':
      return `after attempt ${moment.number}`;
    case 'after-last-attempt':
      return 'after the last attempt';
    case 'over-for-everyone':
      return 'when it is over for everyone';
    case 'at':
      return momentText(moment.at, zone);
    case 'after-closing':
      return moment.days === 0 ? 'at the closing' : `${counted(moment.days, 'day')} after the closing`;
    case 'on-publishing':
      return 'on publishing';
  }
}

/**
 * When a fact ceases to be shown, in words.
 * @param zone of the course, in which moments are said
 */
export function endSaid(end: ReleaseEnd, zone: string): string {
  switch (end.kind) {
    case 'at-closing':
      return 'until the closing';
    case 'at':
      return `until ${momentText(end.at, zone)}`;
    case 'after-days':
      return `for ${counted(end.days, 'day')}`;
    case 'once':
      return `once, for ${durationText(end.minutes * minute)}`;
  }
}

/** A window in words. @example windowSaid({ begins: { kind: 'on-hand-in' }, ends: { kind: 'at-closing' } }, zone) // 'on hand-in, until the closing' */
export const windowSaid = ({ begins, ends }: ReleaseWindow, zone: string): string =>
  ends ? `${beginSaid(begins, zone)}, ${endSaid(ends, zone)}` : beginSaid(begins, zone);

/** Words in a row. @example inARow(['a', 'b', 'c']) // 'a, b and c' */
export const inARow = (words: readonly string[]): string =>
  words.length < 2 ? (words[0] ?? '') : `${words.slice(0, -1).join(', ')} and ${words.at(-1)}`;

const lower = (name: string) => `${name[0]?.toLowerCase()}${name.slice(1)}`;

/**
 * A release plan in sentences: facts with the same windows stand together.
 *
 * @param withNever whether it also says what is never shown
 */
export function planSaid(plan: ReleasePlan, zone: string, withNever = true): string[] {
  const groups = new Map<string, Fact[]>();
  for (const fact of facts) {
    const windows = plan[fact] ?? [];
    if (windows.length === 0) continue;
    const said = windows.map((window) => windowSaid(window, zone)).join('; again ');
    groups.set(said, [...(groups.get(said) ?? []), fact]);
  }
  const sentences = [...groups].map(([said, own]) => {
    const names = own.map((fact, i) => (i === 0 ? factNames[fact] : lower(factNames[fact])));
    return `${inARow(names)}: ${said}.`;
  });
  const never = facts.filter((fact) => !plan[fact]?.length);
  if (sentences.length === 0) return ['Students are shown nothing.'];
  return withNever && never.length
    ? [...sentences, `Never: ${inARow(never.map((fact) => lower(factNames[fact])))}.`]
    : sentences;
}

/** How results come to be published. */
export function selfPublishSaid({ kind, notBefore }: SelfPublish, zone: string): string {
  const from = notBefore === null ? '' : `, not before ${momentText(notBefore, zone)}`;
  if (kind === 'each') return `Each result publishes itself as soon as it is completely marked${from}.`;
  if (kind === 'all')
    return `All results publish themselves once the sitting is over for everyone and the last one is marked${from}.`;
  return 'Results are published by an instructor.';
}

/** Something about a plan: an error keeps it from being stored, a warning is only said. */
export type PlanProblem = { kind: 'error' | 'warning'; fact: Fact; message: string };

/** What is wrong with a plan: windows that can never open, that end before they begin, and facts that stay hidden. */
export function planProblems(
  plan: ReleasePlan,
  rules: { closes: Instant | null; attemptsAllowed: number | null },
  zone: string,
): PlanProblem[] {
  const found: PlanProblem[] = [];
  for (const fact of facts)
    for (const window of plan[fact] ?? []) {
      const error = (message: string) => found.push({ kind: 'error', fact, message: `${factNames[fact]}: ${message}` });
      const { begins, ends } = window;
      if (begins.kind === 'over-for-everyone' && rules.closes === null)
        error('a sitting that never closes is never over for everyone.');
      if (begins.kind === 'after-closing' && rules.closes === null) error('this sitting never closes.');
      if (ends?.kind === 'at-closing' && rules.closes === null)
        error('it would end at the closing, and there is none.');
      if (begins.kind === 'after-attempt' && rules.attemptsAllowed !== null && begins.number > rules.attemptsAllowed)
        error(`there is no attempt ${begins.number}: ${counted(rules.attemptsAllowed, 'attempt')} may be made.`);
      if (ends?.kind === 'at' && begins.kind === 'at' && ends.at <= begins.at)
        error(`it ends ${momentText(ends.at, zone)}, before it has begun.`);
      if (
        ends?.kind === 'at-closing' &&
        (begins.kind === 'over-for-everyone' ||
          begins.kind === 'after-closing' ||
          (begins.kind === 'at' && rules.closes !== null && begins.at >= rules.closes))
      )
        error('it ends at the closing, before it begins.');
    }
  for (const fact of deadFacts(plan))
    found.push({
      kind: 'warning',
      fact,
      message: `${factNames[fact]}: shown only together with the questions, and these are never shown.`,
    });
  return found;
}

/** The moments of a plan that lie on the calendar, for the timeline of a sitting: the same for everyone. */
export function planMoments(
  plan: ReleasePlan,
  { closes }: { closes: Instant | null },
  overAt: Instant | null,
): { at: Instant; label: string }[] {
  const labels = new Map<Instant, string[]>();
  const add = (at: Instant | null, label: string) => {
    if (at !== null && Number.isFinite(at)) labels.set(at, [...new Set([...(labels.get(at) ?? []), label])]);
  };
  for (const fact of facts)
    for (const { begins, ends } of plan[fact] ?? []) {
      const name = shortNames[fact];
      if (begins.kind === 'at') add(begins.at, name);
      if (begins.kind === 'after-closing' && closes !== null) add(closes + begins.days * 86_400_000, name);
      if (begins.kind === 'over-for-everyone') add(overAt, name);
      if (ends?.kind === 'at') add(ends.at, `${name} hidden`);
    }
  return [...labels].sort(([a], [b]) => a - b).map(([at, names]) => ({ at, label: said(names) }));
}

/** Names for the timeline, where there is little room. */
const shortNames: Record<Fact, string> = {
  score: 'score',
  questions: 'questions',
  'own-answers': 'own answers',
  'right-or-wrong': 'right or wrong',
  'right-answers': 'right answers',
  feedback: 'feedback',
  comments: 'comments',
};

const said = (names: string[]) => (names.length > 3 ? `${names[0]} and ${names.length - 1} more shown` : inARow(names));
