import katex from 'katex';
import { describe, expect, it } from 'vitest';
import { mapInline, readRich, richNodes, richText } from './rich';
import { typeset, typesetTex } from './typeset';

const math = (tex: string, more: object = {}) => ({ type: 'math', attrs: { tex, display: false, ...more } });
const doc = (...content: object[]) => ({ type: 'doc', content: [{ type: 'paragraph', content }] });

describe('mathematics', () => {
  it('is typeset with markup and with MathML for who hears it', () => {
    const { html, problem } = typesetTex('\\frac{D}{V}', false, katex);
    expect(html).toContain('class="katex"');
    expect(html).toContain('<mfrac>');
    expect(problem).toBeUndefined();
  });

  it('that cannot be read is shown as typed, harmless, with the reason', () => {
    const { html, problem } = typesetTex('\\frac{<script>alert(1)</script>', false, katex);
    expect(html).not.toContain('<script');
    expect(html.startsWith('<code>')).toBe(true);
    expect(problem).toBeTruthy();
  });

  it.each([
    '\\href{javascript:alert(1)}{x}',
    '\\url{javascript:alert(1)}',
    '\\htmlData{x=1}{y}',
    '\\htmlStyle{color:red}{y}',
    '\\includegraphics{https://x.example/a.png}',
  ])('reaches nothing outside itself: %s', (tex) => {
    const { html } = typesetTex(tex, false, katex);
    expect(html).not.toMatch(/href=|src=|data-x|style="color:red"/);
  });

  it('that would unfold without end is stopped', () => {
    const { problem } = typesetTex('\\def\\a{\\a\\a}\\a', false, katex);
    expect(problem).toContain('Too many expansions');
  });

  it('keeps other content as it is, and never takes markup from outside', () => {
    const plain = { stem: doc({ type: 'text', text: 'x' }) };
    expect(typeset(plain, katex)).toBe(plain);
    const stored = readRich(doc(math('x^2', { html: '<img src=x onerror=alert(1)>' })));
    expect(JSON.stringify(stored)).not.toContain('html');
    expect(JSON.stringify(typeset({ stem: stored }, katex))).toContain('katex');
  });
});

describe('chips and files in rich content', () => {
  const hash = 'a'.repeat(64);
  it('are read by their ids and nothing else', () => {
    const rich = readRich({
      type: 'doc',
      content: [
        {
          type: 'paragraph',
          content: [
            { type: 'gap', attrs: { id: 'g1', onclick: 'x' } },
            { type: 'variable', attrs: { id: 'v0', decimals: 2.5 } },
          ],
        },
        { type: 'media', attrs: { hash, kind: 'picture', alt: 'a buoy', width: 10, height: -1, src: 'javascript:x' } },
      ],
    });
    expect(rich).toEqual({
      type: 'doc',
      content: [
        {
          type: 'paragraph',
          content: [
            { type: 'gap', attrs: { id: 'g1' } },
            { type: 'variable', attrs: { id: 'v0', decimals: null } },
          ],
        },
        { type: 'media', attrs: { hash, kind: 'picture', alt: 'a buoy', width: 10, height: null } },
      ],
    });
    expect(rich && richText(rich)).toBe('____…\n[a buoy]');
    expect(rich && [...richNodes(rich)].map((node) => node.type)).toEqual(['paragraph', 'gap', 'variable', 'media']);
  });

  it.each([
    { type: 'media', attrs: { hash: '../x', kind: 'picture' } },
    { type: 'media', attrs: { hash, kind: 'page' } },
    { type: 'image', attrs: { src: 'data:text/html,x' } },
    { type: 'paragraph', content: [{ type: 'gap', attrs: { id: 'G 1' } }] },
    { type: 'paragraph', content: [{ type: 'math', attrs: { tex: ' ' } }] },
    { type: 'paragraph', content: [{ type: 'math', attrs: { tex: 'x'.repeat(5_000) } }] },
    {
      type: 'paragraph',
      content: [{ type: 'text', text: 'x', marks: [{ type: 'link', attrs: { href: 'data:text/html,x' } }] }],
    },
    { type: 'html', content: [{ type: 'text', text: '<script>' }] },
  ])('are refused otherwise: %j', (block) => {
    expect(readRich({ type: 'doc', content: [block] })).toBe(null);
  });

  it('are replaced in place, what does not change kept as it is', () => {
    const rich = readRich(doc({ type: 'text', text: 'a' }, { type: 'gap', attrs: { id: 'g' } }));
    if (!rich) throw new Error('It should be read');
    expect(mapInline(rich, (inline) => inline)).toBe(rich);
    expect(richText(mapInline(rich, (inline) => (inline.type === 'gap' ? { type: 'text', text: '!' } : inline)))).toBe(
      'a!',
    );
  });
});
