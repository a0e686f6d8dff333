import { describe, expect, it } from 'vitest';
import { longestWritten, readWritten } from './student';

const doc = (...content: unknown[]) => ({ rich: { type: 'doc', content }, text: 'x' });
const line = (...content: unknown[]) => ({ type: 'paragraph', content });
const words = { type: 'text', text: 'words' };

describe('a written answer', () => {
  it('is words and lists, with the words it holds as its text', () => {
    const list = { type: 'bulletList', content: [{ type: 'listItem', content: [line(words)] }] };
    expect(readWritten(doc(line(words, { type: 'hardBreak' }, words), list))).toMatchObject({
      text: expect.stringContaining('words'),
      rich: { type: 'doc' },
    });
    expect(readWritten({ text: '   ' })).toBeUndefined();
  });

  it('holds nothing that its field cannot make: nothing to be set or fetched for whoever marks it', () => {
    const math = { type: 'math', attrs: { tex: '\\frac{1}{2}', display: false } };
    const picture = {
      type: 'media',
      attrs: { hash: 'a'.repeat(64), kind: 'picture', alt: '', width: 1, height: 1 },
    };
    const within = { type: 'orderedList', content: [{ type: 'listItem', content: [line(words, math)] }] };
    for (const content of [
      line(math),
      picture,
      within,
      { type: 'codeBlock', content: [words] },
      line({ type: 'gap', attrs: { id: 'g' } }),
    ])
      expect(readWritten(doc(line(words), content))).toBeNull();
    expect(readWritten({ text: 'x'.repeat(longestWritten + 1) })).toBeNull();
  });
});
