import { describe, expect, it } from 'vitest';
import { linesLeft } from './leftOver';
import { linesOf } from './line';
import { readDocument } from './readDocument';

const left = (text: string, takes: (content: unknown, i: number) => boolean) => {
  const { roles, items } = readDocument(linesOf(text));
  const lines = text.split('\n');
  return linesLeft(
    roles,
    items.map((item, i) => takes(item.content, i)),
  )
    .map((at) => lines[at])
    .join('\n');
};

const text = '1. Good?\na) yes\n*b) no\n\n2. Broken\na) x\nb) y\n3. Also good\nAnswer: 4\n4. Broken too\na) x\nb) y';

describe('what is left of a text', () => {
  it('is the lines of the questions that were not taken, whole and in order', () => {
    expect(left(text, (content) => content !== null)).toBe('2. Broken\na) x\nb) y\n4. Broken too\na) x\nb) y');
  });

  it('is nothing when everything was taken, and all of it when nothing was', () => {
    expect(left(text, () => true)).toBe('');
    expect(left(text, () => false)).toBe(text);
  });

  it('is what was not read, and the list of keys as long as one of its questions stays', () => {
    const keyed = 'Part A\n\n1. Red?\na) port\nb) starboard\n2. Green?\na) port\nb) starboard\n\nKey\n1. A\n2. B';
    expect(left(keyed, () => true)).toBe('Part A');
    expect(left(keyed, (_, i) => i === 0)).toBe('Part A\n\n2. Green?\na) port\nb) starboard\n\nKey\n1. A\n2. B');
  });
});
