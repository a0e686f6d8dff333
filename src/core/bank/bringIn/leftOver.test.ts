import { describe, expect, it } from 'vitest';
import { leftOver } from './leftOver';
import { readDocument } from './readDocument';

const text = '1. Good?\na) yes\n*b) no\n\n2. Broken\na) x\nb) y\n3. Also good\nAnswer: 4\n4. Broken too\na) x\nb) y';

describe('what is left of a text', () => {
  it('is the lines of the questions that were not taken, whole and in order', () => {
    const items = readDocument(text.split('\n').map((line) => ({ runs: [{ text: line }] }))).map((item) => ({
      at: item.at,
      taken: item.content !== null,
    }));
    expect(items.map((item) => item.taken)).toEqual([true, false, true, false]);
    expect(leftOver(text, items)).toBe('2. Broken\na) x\nb) y\n4. Broken too\na) x\nb) y');
  });

  it('is nothing once everything was taken, and everything while nothing was', () => {
    expect(
      leftOver('1. a\n2. b', [
        { at: 1, taken: true },
        { at: 2, taken: true },
      ]),
    ).toBe('');
    expect(
      leftOver('1. a\n2. b', [
        { at: 1, taken: false },
        { at: 2, taken: false },
      ]),
    ).toBe('1. a\n2. b');
  });
});
