import type { Problem } from '../base/result';
import { type Instant, minute } from '../base/time';
import type { SittingRules } from './rules';

/** What is wrong with the rules of a sitting that is to be scheduled, at the field where it is mended. */
export function sittingCheck(rules: SittingRules, now: Instant): Problem[] {
  const problems: Problem[] = [];
  const wrong = (field: string, message: string) => problems.push({ code: 'bad-input', field, message });
  const { opens, lastStart, due, closes, timeLimit } = rules;
  if (closes !== null && closes <= now) wrong('closes', 'The sitting would close in the past.');
  if (opens !== null && closes !== null && opens >= closes) wrong('closes', 'The sitting closes before it opens.');
  if (lastStart !== null && opens !== null && lastStart <= opens)
    wrong('lastStart', 'The last start lies before the opening.');
  if (lastStart !== null && closes !== null && lastStart > closes)
    wrong('lastStart', 'The last start lies after the closing.');
  if (due !== null && closes !== null && due > closes) wrong('due', 'Due cannot lie after the closing.');
  if (due !== null && opens !== null && due < opens) wrong('due', 'Due lies before the opening.');
  if (timeLimit !== null && timeLimit < minute) wrong('timeLimit', 'A time limit is at least one minute.');
  if (
    timeLimit !== null &&
    opens !== null &&
    closes !== null &&
    closes > opens &&
    closes - opens < timeLimit &&
    !rules.fullTimeOnceStarted
  )
    wrong('timeLimit', 'The time limit does not fit between opening and closing.');
  if (rules.attemptsAllowed !== null && rules.attemptsAllowed < 1)
    wrong('attemptsAllowed', 'Allow at least one attempt.');
  return problems;
}
