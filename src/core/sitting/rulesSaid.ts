import { instantFromLocal } from '../base/localTime';
import { durationText, type Instant, inZone, minute, momentText } from '../base/time';
import { counted } from '../base/words';
import { attemptCountingNames, type BetweenAttempts, type FurtherRules, type SittingRules } from './rules';

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
    ...furtherSaid(rules),
  ];
}

/** A share in percent. @example percentSaid(0.25) // '25 %' */
export const percentSaid = (share: number): string => `${Math.round(share * 1000) / 10} %`;

/** @example betweenSaid({ kind: 'wait', minutes: [60] }) // '1 h between attempts' */
export function betweenSaid(between: BetweenAttempts): string {
  if (between.kind === 'none') return 'one attempt right after another';
  if (between.kind === 'let-through') return 'each further attempt when the instructor lets it through';
  const waits = between.minutes.map((one) => durationText(one * minute));
  return waits.length === 1
    ? `${waits[0]} between attempts`
    : `a wait of ${waits.map((wait, i) => `${wait} before attempt ${i + 2}${i === waits.length - 1 ? ' and later ones' : ''}`).join(', ')}`;
}

/**
 * One sentence for each of the further rules that is set.
 *
 * @param to its student, or whoever gives it
 */
export function furtherSaid(
  rules: FurtherRules & { attemptsAllowed: number | null; timeLimit: number | null; closes: number | null },
  to: 'student' | 'staff' = 'staff',
): string[] {
  const several = rules.attemptsAllowed !== 1;
  const ends = rules.timeLimit !== null || rules.closes !== null;
  const said: (string | false)[] = [
    ends &&
      (rules.expiry.kind === 'hand-in'
        ? 'When the time is over, what was entered is handed in by itself.'
        : `When the time is over, nothing more can be entered; it counts only if it is handed in within ${durationText(rules.expiry.minutes * minute)}.`),
    several && rules.between.kind !== 'none' && sentence(betweenSaid(rules.between)),
    several &&
      rules.nextPaper === 'same' &&
      'A further attempt goes on with the same paper and the answers given so far.',
    rules.onwardOnly &&
      `${to === 'student' ? 'You' : 'Students'} cannot go back to a question ${to === 'student' ? 'you' : 'they'} have left${rules.minutesPerQuestion === null ? '' : `; there are ${durationText(rules.minutesPerQuestion * minute)} for each question`}.`,
    ...learningSaid(rules),
    rules.entryCode !== '' && 'An entry code has to be typed to start.',
    rules.networks.length > 0 && `It can be taken only from ${rules.networks.join(', ')}.`,
    rules.shutDays.length > 0 && `It cannot be started on ${rules.shutDays.map((day) => shutDayText(day)).join(', ')}.`,
  ];
  return said.filter((sentence) => sentence !== false);
}

/** A shut day as it is said. @example shutDayText('2026-11-28') // 'Sat 28 Nov 2026' */
export function shutDayText(day: string): string {
  const noon = instantFromLocal(`${day}T12:00`, 'UTC');
  return noon === null ? day : inZone(noon, 'UTC', 'EEE d MMM yyyy');
}

const sentence = (words: string): string => `${words[0]?.toUpperCase()}${words.slice(1)}.`;

function learningSaid({ learning, tries, missedAgain }: FurtherRules): string[] {
  if (learning === 'by-plan' && !tries) return [];
  if (learning === 'on-hand-in') return ['On hand-in students learn what was right and wrong.'];
  const most = tries?.most ?? 1;
  const cost =
    tries && most > 1
      ? tries.cost === 0
        ? ', at no cost'
        : `, each further try costing ${percentSaid(tries.cost)} of the credit`
      : '';
  return [
    learning === 'as-they-go'
      ? `Each question can be checked as students go, and tried ${most === 1 ? 'once' : counted(most, 'time')}${cost}.`
      : `Each question can be checked, and tried ${most === 1 ? 'once' : counted(most, 'time')}${cost}.`,
    ...(missedAgain
      ? [
          `Up to ${counted(missedAgain.most, 'missed question')} ${missedAgain.most === 1 ? 'comes' : 'come'} again at the end, for ${percentSaid(missedAgain.credit)} of the credit.`,
        ]
      : []),
  ];
}
