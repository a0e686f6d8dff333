import { describe, expect, it } from 'vitest';
import { type HeldSheet, looked, mostLooks, type SeenSheet } from './frames';

const play = (doubts: readonly (number | null)[]): number | 'waits' => {
  let held: HeldSheet<SeenSheet> | undefined;
  for (const one of doubts) {
    const now = looked(held, { code: 'W1', doubts: one });
    if ('take' in now) return now.take.doubts as number;
    held = now.held;
  }
  return 'waits';
};

describe('a sheet before the camera', () => {
  it.each([
    [[0], 'waits'],
    [[0, 0], 0],
    [[3, 0], 0],
    [[0, 5], 0],
    [[2, 3, 2], 'waits'],
    [[3, 1, 2, 4], 1],
    [[null, 0, null, 0], 0],
    [[null, null, null, null, null], 'waits'],
  ] as const)('%j: %s', (doubts, taken) => {
    expect(play(doubts)).toBe(taken);
  });

  it('is taken after as many looks, however bad they are', () => {
    expect(play(Array.from({ length: mostLooks }, () => 9))).toBe(9);
  });
});
