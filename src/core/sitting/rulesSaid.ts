import { durationText, type Instant, momentText } from '../base/time';
import { attemptCountingNames, type SittingRules } from './rules';

/** The rules of a sitting in words, for someone who reads them through: one sentence for each that is set. */
export function rulesSaid(rules: SittingRules, zone: string): string[] {
  const at = (moment: Instant | null, none: string) => (moment === null ? none : momentText(moment, zone));
  return [
    `Opens ${at(rules.opens, 'at no fixed time')}, closes ${at(rules.closes, 'at no fixed time')} (${zone}).`,
    ...(rules.lastStart === null ? [] : [`Can be started until ${at(rules.lastStart, '')}.`]),
    ...(rules.due === null ? [] : [`Is due ${at(rules.due, '')}.`]),
    rules.timeLimit === null
      ? 'No time limit.'
      : `${durationText(rules.timeLimit)} from the start${rules.fullTimeOnceStarted ? ', also past the closing' : ''}.`,
    rules.attemptsAllowed === 1
      ? 'One attempt.'
      : `${rules.attemptsAllowed === null ? 'Any number of' : rules.attemptsAllowed} attempts, ${attemptCountingNames[rules.attemptCounts]}.`,
  ];
}
