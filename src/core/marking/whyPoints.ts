import { pointsText } from '../base/rounding';
import { ended } from '../base/words';
import type { MarkKind } from './marks';
import type { RemarkingPolicy } from './remarkingPolicy';

const anewSaid: Record<RemarkingPolicy | 'unchanged', string> = {
  'new-key': 'The key of this question was mended, and your answer was marked anew by it.',
  'either-key':
    'The key of this question was mended: your answer counts by the old key or the new one, whichever gives more.',
  everyone: 'Everyone has full points for this question.',
  'left-out': 'This question does not count for anyone.',
  unchanged: 'The key of this question was mended; your points stay as they were.',
};

/**
 * Why an answer has the points it has, where they are not simply what its key or its marker gave: told to its student.
 *
 * @param anew by which rule it was marked anew, or that marking anew left it as it was; null where the question was not
 * @returns null where there is nothing to explain
 * @example whyPoints({ kind: 'adjusted', reason: 'after your appeal' }, null) // 'Your points were set by hand: after your appeal.'
 */
export function whyPoints(
  { kind, reason }: { kind: MarkKind; reason: string },
  anew: RemarkingPolicy | 'unchanged' | null,
): string | null {
  if (kind === 'adjusted')
    return reason ? `Your points were set by hand: ${ended(reason)}` : 'Your points were set by hand.';
  if (anew === 'unchanged') return anewSaid.unchanged;
  if (anew) return reason ? `${anewSaid[anew]} Why: ${ended(reason)}` : anewSaid[anew];
  return null;
}

/**
 * What was added to or taken from a whole paper, told to its student.
 *
 * @param points below 0 where they are taken away; 0 says nothing
 * @example adjustmentSaid(-1.5, 'handed in late') // '1.5 points were taken from the whole paper: handed in late.'
 */
export function adjustmentSaid(points: number, reason: string): string | null {
  if (points === 0) return null;
  const size = Math.abs(points);
  const were = size === 1 ? 'point was' : 'points were';
  const what = `${pointsText(size)} ${were} ${points > 0 ? 'added to' : 'taken from'} the whole paper`;
  return reason ? `${what}: ${ended(reason)}` : `${what}.`;
}
