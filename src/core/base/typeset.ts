import type { KatexOptions } from 'katex';

/** The renderer of mathematics, passed in so that only those who typeset load it. */
type TexRenderer = { renderToString: (tex: string, options?: KatexOptions) => string };

/**
 * Markup for a formula. Nothing in TeX can reach beyond it: commands that carry links, markup or files are off, and both
 * size and expansion are limited. A formula that cannot be read is shown as it was typed, with the reason.
 */
export function typesetTex(tex: string, display: boolean, renderer: TexRenderer): { html: string; problem?: string } {
  const options: KatexOptions = {
    displayMode: display,
    output: 'htmlAndMathml',
    trust: false,
    strict: 'ignore',
    maxSize: 20,
    maxExpand: 200,
  };
  try {
    return { html: renderer.renderToString(tex, { ...options, throwOnError: true }) };
  } catch (thrown) {
    const message = thrown instanceof Error ? thrown.message.replace(/^KaTeX parse error: /, '') : 'It cannot be read.';
    return { html: `<code>${escaped(tex)}</code>`, problem: message };
  }
}

const escaped = (text: string) => text.replace(/[&<>"']/g, (sign) => `&#${sign.charCodeAt(0)};`);

/** Whether any part of some content is mathematics. */
const holdsMath = (value: unknown): boolean => JSON.stringify(value).includes('"type":"math"');

/**
 * A copy of content in which every formula carries its markup. Content without mathematics is given back as it is.
 *
 * @param value any plain value with rich content somewhere in it
 */
export function typeset<Value>(value: Value, renderer: TexRenderer): Value {
  if (value === undefined || !holdsMath(value)) return value;
  const walk = (part: unknown): unknown => {
    if (Array.isArray(part)) return part.map(walk);
    if (typeof part !== 'object' || part === null) return part;
    const node = part as { type?: unknown; attrs?: { tex?: unknown; display?: unknown } };
    if (node.type === 'math' && typeof node.attrs?.tex === 'string') {
      const display = node.attrs.display === true;
      return {
        type: 'math',
        attrs: { tex: node.attrs.tex, display, html: typesetTex(node.attrs.tex, display, renderer).html },
      };
    }
    return Object.fromEntries(Object.entries(part).map(([name, inner]) => [name, walk(inner)]));
  };
  return walk(value) as Value;
}
