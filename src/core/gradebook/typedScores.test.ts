import { describe, expect, it } from 'vitest';
import { aboveWorth, readScore } from './typedScores';

describe('a score as it is typed', () => {
  it.each([
    ['7', 7],
    [' 7,5 ', 7.5],
    ['+7.25', 7.25],
    ['.5', 0.5],
    ['7.', 7],
    ['0', 0],
  ])('%j is %d points', (text, points) => {
    expect(readScore(text)).toEqual({ kind: 'points', points });
  });

  it('is nothing, or is refused with what is wrong', () => {
    expect(readScore('  ')).toEqual({ kind: 'empty' });
    expect(readScore('=7+1')).toMatchObject({ kind: 'wrong', message: expect.stringContaining('formula') });
    for (const below of ['-1', '−1', '– 2'])
      expect(readScore(below)).toEqual({ kind: 'wrong', message: 'Points cannot be negative.' });
    for (const text of ['seven', '7 of 10', '1.5.2', '1e3', '12345678', 'x'.repeat(99)])
      expect(readScore(text)).toMatchObject({
        kind: 'wrong',
        message: expect.stringMatching(/^“.{1,40}” is no number\.$/),
      });
  });

  it('above the worth of its column is asked about', () => {
    expect(aboveWorth(789, 10)).toBe('789 is more than the 10 that this column is worth.');
    expect(aboveWorth(10, 10)).toBeNull();
    expect(aboveWorth(null, 10)).toBeNull();
  });
});
