import { expect, it } from 'vitest';
import { adjustmentSaid, whyPoints } from './whyPoints';

it('a student reads why an answer has other points than its key or marker gave, with the reason', () => {
  expect(whyPoints({ kind: 'automatic', reason: 'Misprint' }, 'new-key')).toBe(
    'The key of this question was mended, and your answer was marked anew by it. Why: Misprint.',
  );
  expect(whyPoints({ kind: 'automatic', reason: 'Two are right!' }, 'everyone')).toBe(
    'Everyone has full points for this question. Why: Two are right!',
  );
  expect(whyPoints({ kind: 'left-out', reason: '' }, 'left-out')).toBe('This question does not count for anyone.');
  expect(whyPoints({ kind: 'adjusted', reason: 'after your appeal' }, null)).toBe(
    'Your points were set by hand: after your appeal.',
  );
  expect(whyPoints({ kind: 'automatic', reason: '' }, 'unchanged')).toBe(
    'The key of this question was mended; your points stay as they were.',
  );
  expect(whyPoints({ kind: 'adjusted', reason: '' }, 'unchanged')).toBe('Your points were set by hand.');
  for (const kind of ['automatic', 'hand', 'settled'] as const)
    expect(whyPoints({ kind, reason: 'a note' }, null)).toBeNull();
});

it('what was added to a whole paper or taken from it is said with its reason', () => {
  expect(adjustmentSaid(-1.5, 'Late')).toBe('1.5 points were taken from the whole paper: Late.');
  expect(adjustmentSaid(1, '')).toBe('1 point was added to the whole paper.');
  expect(adjustmentSaid(0, 'nothing any more')).toBeNull();
});
