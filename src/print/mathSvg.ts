import type { LiteElement, LiteNode } from 'mathjax-full/js/adaptors/lite/Element.js';
import { liteAdaptor } from 'mathjax-full/js/adaptors/liteAdaptor.js';
import { RegisterHTMLHandler } from 'mathjax-full/js/handlers/html.js';
import { AllPackages } from 'mathjax-full/js/input/tex/AllPackages.js';
import { TeX } from 'mathjax-full/js/input/tex.js';
import { mathjax } from 'mathjax-full/js/mathjax.js';
import { SVG } from 'mathjax-full/js/output/svg.js';

/** One shape of a formula, in the units of its view box. */
type MathShape =
  | { kind: 'path'; d: string; transform: string }
  | { kind: 'rect'; x: number; y: number; width: number; height: number; transform: string }
  | { kind: 'text'; text: string; transform: string };

/** A formula as shapes; its measures in em. `depth` is how far it reaches below the line. */
export type MathDrawing = { width: number; height: number; depth: number; viewBox: string; shapes: MathShape[] };

const adaptor = liteAdaptor();
RegisterHTMLHandler(adaptor);
// Links, markup and definitions of one's own are left out: a formula is a formula.
const packages = AllPackages.filter((name) => !['html', 'require', 'autoload', 'noundefined'].includes(name));
const page = mathjax.document('', {
  InputJax: new TeX({ packages, maxMacros: 200 }),
  OutputJax: new SVG({ fontCache: 'none' }),
});

/** How many em one ex is in the fonts of the formulas. */
const exInEm = 0.442;
const inEm = (measure: string | undefined): number => (Number.parseFloat(measure ?? '0') || 0) * exInEm;

/**
 * Draws a formula as shapes, without a browser.
 *
 * @returns null when it cannot be read
 */
export function drawMath(tex: string, display: boolean): MathDrawing | null {
  let root: LiteElement;
  try {
    root = adaptor.firstChild(page.convert(tex, { display })) as LiteElement;
  } catch {
    return null;
  }
  if (adaptor.outerHTML(root).includes('data-mml-node="merror"')) return null;
  const shapes: MathShape[] = [];
  walk(root, '', shapes);
  const depth = /vertical-align:\s*(-?[\d.]+)ex/.exec(adaptor.getAttribute(root, 'style') ?? '');
  return {
    width: inEm(adaptor.getAttribute(root, 'width')),
    height: inEm(adaptor.getAttribute(root, 'height')),
    depth: -inEm(depth?.[1]),
    viewBox: adaptor.getAttribute(root, 'viewBox'),
    shapes,
  };
}

function walk(node: LiteNode, outer: string, shapes: MathShape[]): void {
  const kind = adaptor.kind(node);
  if (kind === '#text' || kind === '#comment') return;
  const element = node as LiteElement;
  const own = adaptor.getAttribute(element, 'transform') ?? '';
  const transform = [outer, own].filter(Boolean).join(' ');
  const number = (name: string) => Number(adaptor.getAttribute(element, name) ?? 0);
  if (kind === 'path') shapes.push({ kind, d: adaptor.getAttribute(element, 'd'), transform });
  else if (kind === 'rect')
    shapes.push({
      kind,
      x: number('x'),
      y: number('y'),
      width: number('width'),
      height: number('height'),
      transform,
    });
  else if (kind === 'text') shapes.push({ kind, text: adaptor.textContent(element), transform });
  else for (const child of adaptor.childNodes(element)) walk(child, transform, shapes);
}
