import { pointsText } from '../base/rounding';
import { counted, ended, listed, pointsSaid } from '../base/words';
import { adjustmentSaid } from './whyPoints';

type Told = { earned: number; possible: number; band: string | null };

/** What became of a score between two publishings, all of it as it was told at either. */
export type ScoreChange = {
  before: Told & { until: string };
  now: Told;
  /** The attempts that count now, by number, where others counted before; empty where they are the same. */
  otherAttempts: readonly number[];
  /** Questions whose points have changed, by number on the paper; null points where the question did not count. */
  questions: readonly { number: number; from: number | null; to: number | null; why: string | null }[];
  /** What was added to or taken from whole papers, where that has changed. */
  papers: readonly { from: number; to: number; reason: string }[];
};

const points = ({ earned, possible }: Told) => `${pointsText(earned)} of ${pointsText(possible)}`;
const same = (a: number, b: number) => Math.abs(a - b) < 1e-9;

/**
 * What has changed since a student was last told their result, and why, in one sentence each.
 *
 * @param byQuestion whether the student sees what single questions brought; without it no question is named
 * @example scoreChangeSaid({ before: { earned: 4, possible: 10, band: null, until: 'Mon 2 Nov' }, now: { earned: 5, possible: 10, band: null }, otherAttempts: [], questions: [{ number: 2, from: 0, to: 1, why: null }], papers: [] }, true) // ['Your score was 4 of 10 until Mon 2 Nov; now it is 5 of 10.', 'Question 2: 1 point instead of 0. It was marked again.']
 */
export function scoreChangeSaid(change: ScoreChange, byQuestion: boolean): string[] {
  const { before, now } = change;
  const said: string[] = [];
  const moved = !same(before.earned, now.earned) || !same(before.possible, now.possible);
  if (moved) said.push(`Your score was ${points(before)} until ${before.until}; now it is ${points(now)}.`);
  if (change.otherAttempts.length)
    said.push(
      change.otherAttempts.length === 1
        ? `Your attempt ${change.otherAttempts[0]} counts now.`
        : `Your attempts ${listed(change.otherAttempts.map(String))} count now.`,
    );
  if (change.questions.length) {
    if (byQuestion) said.push(...change.questions.map(questionSaid));
    else {
      const reasons = [...new Set(change.questions.flatMap(({ why }) => why ?? []))];
      said.push(
        `${counted(change.questions.length, 'of your answers was', 'of your answers were')} marked again.`,
        ...reasons.map(ended),
      );
    }
  }
  for (const { to, reason } of change.papers)
    said.push(adjustmentSaid(to, reason) ?? 'What was added to or taken from the whole paper no longer is.');
  if (before.band !== now.band) said.push(bandSaid(change, moved));
  return said;
}

function questionSaid({ number, from, to, why }: ScoreChange['questions'][number]): string {
  if (to === null) return why ? `Question ${number}: ${ended(why)}` : `Question ${number} does not count any more.`;
  const reason = why ? ended(why) : 'It was marked again.';
  if (from === null) return `Question ${number} counts now, with ${pointsSaid(to)}. ${reason}`;
  return `Question ${number}: ${pointsSaid(to)} instead of ${pointsText(from)}. ${reason}`;
}

function bandSaid({ before, now }: ScoreChange, moved: boolean): string {
  const because = moved ? '' : ', because the bands have changed';
  if (now.band === null) return `The band “${before.band}” is no longer given${because}.`;
  if (before.band === null) return `It is called “${now.band}” now${because}.`;
  return `It was called “${before.band}” and is “${now.band}” now${because}.`;
}
