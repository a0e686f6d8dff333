// @vitest-environment jsdom
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type Rich, type RichInline, readRich } from '@/core/base/rich';
import { fillWith, readFrom } from './formedDom';

function element(markup: string): HTMLElement {
  const field = document.createElement('div');
  field.innerHTML = markup;
  return field;
}
const read = (markup: string) => readFrom(element(markup));
const text = (words: string, ...marks: string[]): RichInline =>
  (marks.length
    ? { type: 'text', text: words, marks: marks.map((type) => ({ type })) }
    : { type: 'text', text: words }) as RichInline;
const paragraph = (...content: RichInline[]) =>
  content.length ? { type: 'paragraph', content } : { type: 'paragraph' };
const doc = (...content: unknown[]) => ({ type: 'doc', content });

const words = fc.stringMatching(/^[a-z<>&"' ]{1,12}$/).filter((one) => one.trim() === one && one !== '');
const inline = fc
  .record({ words, marks: fc.uniqueArray(fc.constantFrom('bold', 'italic', 'underline', 'code'), { maxLength: 2 }) })
  .map((one) => text(one.words, ...one.marks));
/** Runs that differ from their neighbours, as a browser would keep them. */
const line = fc
  .array(inline, { minLength: 1, maxLength: 4 })
  .map((runs) => runs.flatMap((run, i) => (i ? [{ type: 'hardBreak' } as RichInline, run] : [run])));
const block = fc.oneof(
  line.map((content) => paragraph(...content)),
  fc.constant(paragraph()),
  fc
    .record({
      kind: fc.constantFrom('bulletList', 'orderedList'),
      items: fc.array(line, { minLength: 1, maxLength: 3 }),
    })
    .map(({ kind, items }) => ({
      type: kind,
      content: items.map((content) => ({ type: 'listItem', content: [paragraph(...content)] })),
    })),
);

describe('a field for a formed answer', () => {
  it('gives back what was put into it, whatever the words', () => {
    fc.assert(
      fc.property(fc.array(block, { maxLength: 5 }), (blocks) => {
        const rich = doc(...blocks) as Rich;
        const field = document.createElement('div');
        fillWith(field, rich);
        const back = readFrom(field);
        expect(JSON.parse(JSON.stringify(back), sortedMarks)).toEqual(JSON.parse(JSON.stringify(rich), sortedMarks));
        expect(readRich(back)).not.toBeNull();
      }),
    );
  });

  it('reads the markup of every browser: bare text, divisions, line breaks, empty lines', () => {
    expect(read('one<div>two</div><div><br></div><p>three<br>four</p>')).toEqual(
      doc(
        paragraph(text('one')),
        paragraph(text('two')),
        paragraph(),
        paragraph(text('three'), { type: 'hardBreak' }, text('four')),
      ),
    );
    expect(read('a&nbsp;b<br>c')).toEqual(doc(paragraph(text('a b')), paragraph(text('c'))));
    expect(read('')).toEqual(doc());
  });

  it('keeps form by its meaning, once, whichever element says it', () => {
    expect(read('<div><strong>a<b>b</b></strong><em>c</em><sub>2</sub><sup>3</sup></div>')).toEqual(
      doc(
        paragraph(
          text('a', 'bold'),
          text('b', 'bold'),
          text('c', 'italic'),
          text('2', 'subscript'),
          text('3', 'superscript'),
        ),
      ),
    );
  });

  it('finds lists inside divisions, and keeps what the format does not know as text', () => {
    expect(read('<div><ul><li>one</li><li></li></ol></div><h1>big</h1><a href="javascript:alert(1)">link</a>')).toEqual(
      doc(
        {
          type: 'bulletList',
          content: [
            { type: 'listItem', content: [paragraph(text('one'))] },
            { type: 'listItem', content: [paragraph()] },
          ],
        },
        paragraph(text('big'), text('link')),
      ),
    );
  });
});

const sortedMarks = (name: string, value: unknown) =>
  name === 'marks' ? [...(value as { type: string }[])].sort((a, b) => (a.type < b.type ? -1 : 1)) : value;
