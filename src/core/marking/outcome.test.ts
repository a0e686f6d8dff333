import { describe, expect, it } from 'vitest';
import { outcomeOf, outcomeShown } from './outcome';

describe('how an answer did', () => {
  it('is right with all its points, wrong with none, and partly right between', () => {
    expect([2, 1.99, 0.01, 0].map((points) => outcomeOf(points, 2))).toEqual(['right', 'partly', 'partly', 'wrong']);
  });

  it('is not said where the points are for something else: everybody has them, or nobody', () => {
    const mark = (kind: 'automatic' | 'adjusted' | 'left-out', points: number) => ({ kind, points });
    expect(outcomeShown(null, 2, null)).toBe('waiting');
    expect(outcomeShown(mark('left-out', 0), 2, 'left-out')).toBe('left-out');
    expect(outcomeShown(mark('automatic', 2), 2, 'everyone')).toBe('given');
    expect(outcomeShown(mark('automatic', 2), 2, 'either-key')).toBe('right');
    expect(outcomeShown(mark('automatic', 0), 2, 'unchanged')).toBe('wrong');
    // Set by hand after it: by what was given then.
    expect(outcomeShown(mark('adjusted', 1), 2, 'everyone')).toBe('partly');
  });
});
