import katex from 'katex';
import { SaxesParser } from 'saxes';

/**
 * A formula as plain data: what the typesetter is told to build, and nothing it could run. One kind for each way in
 * which presentation MathML puts its parts together (MathML Core, W3C, section 3).
 */
export type Formula =
  | { k: 'row'; c: Formula[] }
  /** One sign, set by its own class: a variable, a relation, an operator. */
  | { k: 'sign'; s: string }
  /** Upright words or figures. */
  | { k: 'words'; s: string }
  /** The name of a function. */
  | { k: 'name'; s: string }
  | { k: 'face'; face: Face; c: Formula }
  /** `line` is false where two rows stand over one another without a bar. */
  | { k: 'over'; a: Formula; b: Formula; line: boolean }
  | { k: 'root'; c: Formula; index?: Formula }
  /** What stands beside its base, or with `limits` above and below it. */
  | { k: 'attach'; c: Formula; t?: Formula; b?: Formula; limits: boolean }
  | { k: 'accent'; c: Formula; s: string }
  | { k: 'line'; c: Formula; at: Line }
  /** Brackets as high as what they hold. */
  | { k: 'brackets'; c: Formula[] }
  /** Cells with the side of the column on which they stand. */
  | { k: 'grid'; rows: Formula[][]; sides: ('left' | 'center' | 'right')[] }
  | { k: 'space'; em: number }
  | { k: 'style'; display: boolean; c: Formula }
  | { k: 'hidden'; c: Formula }
  | { k: 'struck'; c: Formula }
  | { k: 'boxed'; c: Formula };

type Face = 'upright' | 'bold' | 'double-struck' | 'script' | 'fraktur' | 'sans' | 'mono' | 'italic';
type Line = 'over' | 'under' | 'brace-over' | 'brace-under';

type Element = { name: string; attributes: Record<string, string>; children: Element[]; text: string };

/** Formulas nested deeper than this are printed as they were typed: the typesetter has a depth of its own. */
const deepest = 24;

/** A formula that is printed as it was typed. */
class NotPrinted extends Error {}

/** Formulas that were read: the papers of a class draw the same ones over and over. */
const known = new Map<string, Formula | null>();
const mostKnown = 5_000;

/**
 * Reads a formula for print. It is read by the same reader as for the screen, with the same limits, so that what can be
 * seen can be printed; and what comes out is data, so that nothing typed reaches the typesetter as a program.
 *
 * @returns null where it cannot be read
 * @example formulaOf('x', false) // { k: 'row', c: [{ k: 'sign', s: 'x' }] }
 */
export function formulaOf(tex: string, display: boolean): Formula | null {
  const key = `${display}/${tex}`;
  let formula = known.get(key);
  if (formula === undefined) {
    if (known.size >= mostKnown) known.clear();
    formula = read(tex, display);
    known.set(key, formula);
  }
  return formula;
}

function read(tex: string, display: boolean): Formula | null {
  try {
    const markup = katex.renderToString(tex, {
      displayMode: display,
      output: 'mathml',
      throwOnError: true,
      trust: false,
      strict: 'ignore',
      maxSize: 20,
      maxExpand: 200,
    });
    return build(treeOf(markup), 0);
  } catch {
    return null;
  }
}

function treeOf(markup: string): Element {
  const root: Element = { name: '', attributes: {}, children: [], text: '' };
  const open = [root];
  const parser = new SaxesParser();
  parser.on('error', (wrong) => {
    throw wrong;
  });
  parser.on('opentag', ({ name, attributes }) => {
    const element = { name, attributes: attributes as Record<string, string>, children: [], text: '' };
    open.at(-1)?.children.push(element);
    open.push(element);
  });
  parser.on('text', (text) => {
    const element = open.at(-1);
    if (element) element.text += text;
  });
  parser.on('closetag', () => void open.pop());
  parser.write(markup.replaceAll('&nbsp;', '\u00a0')).close();
  return root;
}

/** The zero-wide signs by which MathML says what stands between, such as “function of”. */
const unseen = /^[\u200b\u2060-\u2064]*$/;
const inEm = (length = ''): number => {
  const value = Number.parseFloat(length) || 0;
  return length.endsWith('px') ? value / 16 : length.endsWith('pt') ? value / 12 : value;
};

function build(element: Element, depth: number): Formula {
  if (depth > deepest) throw new NotPrinted();
  const { name, attributes, children, text } = element;
  const at = (i: number): Formula =>
    build(children[i] ?? { name: 'mrow', attributes: {}, children: [], text: '' }, depth + 1);
  switch (name) {
    case 'semantics':
      return at(0);
    case '':
    case 'span':
    case 'math':
    case 'mrow':
    case 'mpadded':
      return rowOf(children, depth);
    case 'mstyle':
      return attributes.displaystyle === undefined
        ? rowOf(children, depth)
        : { k: 'style', display: attributes.displaystyle === 'true', c: rowOf(children, depth) };
    case 'mi':
    case 'mn':
    case 'mtext':
    case 'ms':
    case 'mo':
      return leaf(element);
    case 'mspace':
      return { k: 'space', em: inEm(attributes.width) };
    case 'mfrac':
      return { k: 'over', a: at(0), b: at(1), line: inEm(attributes.linethickness ?? '1') !== 0 };
    case 'msqrt':
      return { k: 'root', c: rowOf(children, depth) };
    case 'mroot':
      return { k: 'root', c: at(0), index: at(1) };
    case 'msub':
      return { k: 'attach', c: at(0), b: at(1), limits: false };
    case 'msup':
      return { k: 'attach', c: at(0), t: at(1), limits: false };
    case 'msubsup':
      return { k: 'attach', c: at(0), b: at(1), t: at(2), limits: false };
    case 'munder':
      return lined(children, depth, 'under') ?? { k: 'attach', c: at(0), b: at(1), limits: true };
    case 'mover':
      return (
        lined(children, depth, 'over') ?? accented(children, depth) ?? { k: 'attach', c: at(0), t: at(1), limits: true }
      );
    case 'munderover':
      return { k: 'attach', c: at(0), b: at(1), t: at(2), limits: true };
    case 'mtable':
      return gridOf(element, depth);
    case 'mphantom':
      return { k: 'hidden', c: rowOf(children, depth) };
    case 'menclose':
      return { k: attributes.notation?.includes('strike') ? 'struck' : 'boxed', c: rowOf(children, depth) };
    default:
      throw new NotPrinted(`${name} ${text}`);
  }
}

const faces: Readonly<Record<string, Face[]>> = {
  normal: ['upright'],
  bold: ['upright', 'bold'],
  'bold-italic': ['bold'],
  'double-struck': ['double-struck'],
  script: ['script'],
  fraktur: ['fraktur'],
  'sans-serif': ['sans'],
  monospace: ['mono'],
  italic: ['italic'],
};

function leaf({ name, attributes, text }: Element): Formula {
  const sign = text.trim();
  if (name === 'mtext' || name === 'ms') return { k: 'words', s: text };
  if (unseen.test(sign)) return { k: 'row', c: [] };
  const one = [...sign].length === 1;
  const variant = attributes.mathvariant;
  let formula: Formula;
  if (name === 'mi' && !one) formula = { k: 'name', s: sign };
  else if (name === 'mn' && !one) formula = { k: 'words', s: sign };
  else if (one) formula = { k: 'sign', s: sign };
  else formula = { k: 'words', s: sign };
  for (const face of (variant && faces[variant]) || []) formula = { k: 'face', face, c: formula };
  return formula;
}

const isFence = ({ name, attributes }: Element): boolean => name === 'mo' && attributes.fence === 'true';

function rowOf(children: readonly Element[], depth: number): Formula {
  const c = children.map((child) => build(child, depth + 1));
  const [first, last] = [children[0], children.at(-1)];
  if (children.length > 1 && first && last && (isFence(first) || isFence(last))) return { k: 'brackets', c };
  return c.length === 1 ? (c[0] as Formula) : { k: 'row', c };
}

const signOf = (element: Element | undefined): string => (element?.name === 'mo' ? element.text.trim() : '');

/** Lines and braces over or under what they belong to, by the sign that stands for them. */
const lines: Readonly<Record<'over' | 'under', Readonly<Record<string, Line>>>> = {
  over: { '‾': 'over', '¯': 'over', ˉ: 'over', '⏞': 'brace-over' },
  under: { '‾': 'under', _: 'under', '‗': 'under', '̲': 'under', '⏟': 'brace-under' },
};

function lined(children: readonly Element[], depth: number, side: 'over' | 'under'): Formula | null {
  const mark = children[1];
  const line = lines[side][signOf(mark)];
  const short = mark?.attributes.stretchy === 'false';
  return line && children[0] && !short ? { k: 'line', c: build(children[0], depth + 1), at: line } : null;
}

/** Signs that stand over a letter, each with the one by which it is combined. */
const accents: Readonly<Record<string, string>> = {
  '^': '\u0302',
  ˆ: '\u0302',
  '~': '\u0303',
  '˜': '\u0303',
  ˉ: '\u0304',
  '¯': '\u0304',
  '˙': '\u0307',
  '¨': '\u0308',
  '⃛': '\u20db',
  ˇ: '\u030c',
  '˘': '\u0306',
  ˊ: '\u0301',
  ˋ: '\u0300',
  '˚': '\u030a',
  '→': '\u20d7',
  '⃗': '\u20d7',
};

function accented(children: readonly Element[], depth: number): Formula | null {
  const sign = accents[signOf(children[1])];
  return sign && children[0] ? { k: 'accent', c: build(children[0], depth + 1), s: sign } : null;
}

function gridOf({ attributes, children }: Element, depth: number): Formula {
  const rows = children.map((row) => row.children.map((cell) => rowOf(cell.children, depth + 1)));
  const columns = Math.max(0, ...rows.map((row) => row.length));
  const sides = (attributes.columnalign ?? '').split(/\s+/);
  return {
    k: 'grid',
    rows: rows.map((row) => [
      ...row,
      ...Array.from({ length: columns - row.length }, () => ({ k: 'row' as const, c: [] })),
    ]),
    sides: Array.from({ length: columns }, (_, i) => {
      const side = sides[Math.min(i, sides.length - 1)];
      return side === 'left' || side === 'right' ? side : 'center';
    }),
  };
}
