import { expect, it } from 'vitest';
import { delayAfter } from './signInDelay';

it('the wait before another try grows from nothing to a minute', () => {
  expect(Array.from({ length: 12 }, (_, failures) => delayAfter(failures) / 1_000)).toEqual([
    0, 0, 0, 0, 1, 2, 4, 8, 16, 32, 60, 60,
  ]);
  expect(delayAfter(5_000)).toBe(60_000);
});
