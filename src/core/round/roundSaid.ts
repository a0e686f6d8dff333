import { durationText } from '../base/time';
import type { RoundLearning, RoundRules, WayIn } from './roundRules';

/** Who comes in, as the end of a sentence: "People come in …". */
export const wayInSaid: Readonly<Record<WayIn, string>> = {
  'sign-in': 'by signing in',
  number: 'by a student number on the roster',
  name: 'by typing a name',
  nameless: 'without a name',
};

/** When people learn how they did, as the end of a sentence: "They learn whether they were right …". */
export const learningSaid: Readonly<Record<RoundLearning, string>> = {
  each: 'after each question',
  last: 'after their last one',
  stop: 'when it is stopped',
  never: 'not at all',
};

/** What a round counts for, as a sentence of its own. */
export const countsSaid: Readonly<Record<RoundRules['counts'], string>> = {
  score: 'It counts by score.',
  'taking-part': 'It counts in full for taking part.',
  no: 'It does not count.',
};

/** How a round is held, a sentence each. */
export function roundSaid(rules: RoundRules): string[] {
  const pace =
    rules.pace === 'led'
      ? `Led, one question after the other${rules.seconds === null ? '' : `, ${durationText(rules.seconds * 1_000)} each`}.`
      : `Everybody at their own pace, ${rules.onward ? 'onward only' : 'in any order'}.`;
  const learning =
    rules.learning === 'never'
      ? 'They do not learn whether they were right.'
      : rules.pace === 'led' && rules.learning === 'each'
        ? 'They learn whether they were right as you show it.'
        : `They learn whether they were right ${learningSaid[rules.learning]}.`;
  return [
    pace,
    `People come in ${wayInSaid[rules.comingIn]}.`,
    learning,
    rules.score ? 'They see their own score.' : 'They do not see a score.',
    countsSaid[rules.counts],
  ];
}
