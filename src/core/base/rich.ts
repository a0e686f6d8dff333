/**
 * The rich-content format: a small tree of nodes, kept as JSON. It is the one definition for stems, choices, feedback,
 * passages and instructions. Nothing outside this list can be stored, so nothing outside it can reach a page; markup
 * is never kept as text. Frozen versions hold this format for years: nodes may be added, never changed in meaning.
 */
export type RichMark =
  | { type: 'bold' | 'italic' | 'code' | 'subscript' | 'superscript' | 'underline' }
  | { type: 'link'; attrs: { href: string } };

/** What stands within a line of rich content. */
export type RichInline =
  | { type: 'text'; text: string; marks?: RichMark[] }
  | { type: 'hardBreak' }
  /** Mathematics in TeX. `html` is what the server typeset from it for showing; it is never read from outside. */
  | { type: 'math'; attrs: { tex: string; display: boolean; html?: string } }
  /** The place of a variable's value; `decimals` null shows it as it is. */
  | { type: 'variable'; attrs: { id: string; decimals: number | null } }
  /** The place of a gap in a running text. */
  | { type: 'gap'; attrs: { id: string } };

/** A picture, sound or video of the data folder, named by the hash of its content. */
export type RichMedia = {
  type: 'media';
  attrs: { hash: string; kind: MediaKind; alt: string; width: number | null; height: number | null };
};
/** The kinds of media that rich content can hold. */
export type MediaKind = 'picture' | 'sound' | 'video';

/** What stands on lines of its own. */
export type RichBlock =
  | RichMedia
  | { type: 'paragraph'; content?: RichInline[] }
  | { type: 'bulletList' | 'orderedList'; content: RichItem[] }
  | { type: 'codeBlock'; content?: { type: 'text'; text: string }[] }
  | { type: 'table'; content: RichRow[] };

type RichItem = { type: 'listItem'; content: RichBlock[] };
type RichRow = { type: 'tableRow'; content: RichCell[] };
type RichCell = { type: 'tableCell' | 'tableHeader'; content: RichBlock[] };

/** Rich content as it is stored: sanitised, and within the limits that {@link readRich} holds. */
export type Rich = { type: 'doc'; content: RichBlock[] };

/** The greatest depth of nodes and the most characters that one piece of rich content may hold. */
export const richLimits = { depth: 12, characters: 100_000, nodes: 5_000 };

/** Rich content that holds nothing. */
export const emptyRich: Rich = { type: 'doc', content: [] };

/** Plain text as rich content: a paragraph for each line. */
export function richFromText(text: string): Rich {
  const lines = text.split(/\r?\n/);
  return {
    type: 'doc',
    content: lines.map((line) =>
      line ? { type: 'paragraph', content: [{ type: 'text', text: line }] } : { type: 'paragraph' },
    ),
  };
}

type AnyNode = RichBlock | RichItem | RichRow | RichCell | RichInline;

function textOf(node: AnyNode): string {
  if (node.type === 'text') return node.text;
  if (node.type === 'hardBreak') return '\n';
  if (node.type === 'math') return node.attrs.tex;
  if (node.type === 'variable') return '\u2026';
  if (node.type === 'gap') return '____';
  if (node.type === 'media') return node.attrs.alt ? `[${node.attrs.alt}]` : `[${node.attrs.kind}]`;
  const inner = (node.content ?? []) as AnyNode[];
  const between = node.type === 'paragraph' || node.type === 'codeBlock' ? '' : node.type === 'tableRow' ? '\t' : '\n';
  return inner.map(textOf).join(between);
}

/** The words of rich content without any form, blocks on lines of their own. */
export const richText = (rich: Rich): string => rich.content.map(textOf).join('\n').trim();

/**
 * Whether rich content holds nothing that a person could see: no words and no media.
 *
 * @example isEmptyRich(richFromText("  ")) // true
 */
export const isEmptyRich = (rich: Rich): boolean => richText(rich) === '';

/** Every node of rich content, from the outside in, in reading order. */
export function* richNodes(rich: Rich): Generator<AnyNode> {
  const waiting: AnyNode[] = [...rich.content].reverse();
  for (let node = waiting.pop(); node; node = waiting.pop()) {
    yield node;
    if ('content' in node && node.content) waiting.push(...([...node.content].reverse() as AnyNode[]));
  }
}

/**
 * A copy in which each inline node has been replaced by what the function gives for it. Content in which nothing changes
 * is given back as it is.
 */
export function mapInline(rich: Rich, change: (inline: RichInline) => RichInline): Rich {
  const walk = <Node extends AnyNode>(node: Node): Node => {
    if (!('content' in node) || !node.content) return isInline(node) ? (change(node) as Node) : node;
    const before = node.content as AnyNode[];
    const after = before.map(walk);
    return after.some((one, i) => one !== before[i]) ? { ...node, content: after } : node;
  };
  const content = rich.content.map(walk);
  return content.some((one, i) => one !== rich.content[i]) ? { ...rich, content } : rich;
}

const inlineTypes = new Set(['text', 'hardBreak', 'math', 'variable', 'gap']);
const isInline = (node: AnyNode): node is RichInline => inlineTypes.has(node.type);

const plainMarks = new Set(['bold', 'italic', 'code', 'subscript', 'superscript', 'underline']);
const safeLink = /^(https?:\/\/|mailto:)[^\s<>"']+$/i;
/** Whether a text may lead somewhere as a link: by http, https or mailto, within 2,000 signs. */
export const isSafeLink = (href: string): boolean => href.length <= 2_000 && safeLink.test(href);

/**
 * Reads untrusted JSON as rich content. What the format does not know is refused, not dropped in silence, except the
 * attributes an editor adds to known nodes, which are left out.
 *
 * @returns null when it is not rich content
 */
export function readRich(input: unknown): Rich | null {
  const read = readRichOrFault(input);
  return typeof read === 'string' ? null : read;
}

/** Why something is no rich content: too many characters, too many nodes, or something that the format does not know. */
export type RichFault = 'too-long' | 'too-many-parts' | 'unknown';

/** The same as {@link readRich}, with the reason where it is none. */
export function readRichOrFault(input: unknown): Rich | RichFault {
  const budget = { nodes: richLimits.nodes, characters: richLimits.characters };
  if (!isNode(input) || input.type !== 'doc') return 'unknown';
  const content = readAll(input.content, (child) => readBlock(child, 1, budget));
  if (content) return { type: 'doc', content };
  return budget.characters < 0 ? 'too-long' : budget.nodes < 0 ? 'too-many-parts' : 'unknown';
}

/** A reason in words, for whoever has just put something into a text. */
export const richFaultSaid = (fault: RichFault): string => {
  const why = {
    'too-long': `At most ${richLimits.characters.toLocaleString('en')} characters fit into one text.`,
    'too-many-parts': 'So many lines or cells do not fit into one text.',
    unknown: 'This holds something that cannot be kept here.',
  }[fault];
  return `${why} What was put in last is left out; the text before it is kept.`;
};

type Budget = { nodes: number; characters: number };
type Loose = { type: string; content?: unknown; text?: unknown; marks?: unknown; attrs?: unknown };

const isNode = (input: unknown): input is Loose =>
  typeof input === 'object' && input !== null && typeof (input as Loose).type === 'string';

function readAll<T>(input: unknown, read: (child: unknown) => T | null): T[] | null {
  if (input === undefined) return [];
  if (!Array.isArray(input)) return null;
  const all: T[] = [];
  for (const child of input) {
    const one = read(child);
    if (one === null) return null;
    all.push(one);
  }
  return all;
}

function readBlock(input: unknown, depth: number, budget: Budget): RichBlock | null {
  if (!isNode(input) || depth > richLimits.depth || --budget.nodes < 0) return null;
  switch (input.type) {
    case 'media':
      return readMedia(input.attrs);
    case 'paragraph': {
      const content = readAll(input.content, (child) => readInline(child, budget));
      return content && (content.length ? { type: 'paragraph', content } : { type: 'paragraph' });
    }
    case 'codeBlock': {
      const content = readAll(input.content, (child) => {
        const inline = readInline(child, budget);
        return inline?.type === 'text' ? { type: 'text' as const, text: inline.text } : null;
      });
      return content && { type: 'codeBlock', content };
    }
    case 'bulletList':
    case 'orderedList': {
      const content = readAll(input.content, (child) => {
        const inner = isNode(child) && child.type === 'listItem' ? readBlocks(child.content, depth + 1, budget) : null;
        return inner && { type: 'listItem' as const, content: inner };
      });
      return content && { type: input.type, content };
    }
    case 'table': {
      const content = readAll(input.content, (row) => {
        if (!isNode(row) || row.type !== 'tableRow') return null;
        const cells = readAll(row.content, (cell) => {
          if (!isNode(cell) || (cell.type !== 'tableCell' && cell.type !== 'tableHeader')) return null;
          const inner = readBlocks(cell.content, depth + 2, budget);
          return inner && { type: cell.type as 'tableCell' | 'tableHeader', content: inner };
        });
        return cells && { type: 'tableRow' as const, content: cells };
      });
      return content && { type: 'table', content };
    }
    default:
      return null;
  }
}

const readBlocks = (input: unknown, depth: number, budget: Budget) =>
  readAll(input, (child) => readBlock(child, depth, budget));

function readInline(input: unknown, budget: Budget): RichInline | null {
  if (!isNode(input) || --budget.nodes < 0) return null;
  if (input.type === 'hardBreak') return { type: 'hardBreak' };
  if (input.type === 'math' || input.type === 'variable' || input.type === 'gap') return readChip(input, budget);
  if (input.type !== 'text' || typeof input.text !== 'string' || input.text === '') return null;
  budget.characters -= input.text.length;
  if (budget.characters < 0) return null;
  const marks = readAll(input.marks, readMark);
  if (!marks) return null;
  return marks.length ? { type: 'text', text: input.text, marks } : { type: 'text', text: input.text };
}

const chipId = /^[a-z0-9]{1,20}$/;

function readChip(input: Loose, budget: Budget): RichInline | null {
  const attrs = (input.attrs ?? {}) as { id?: unknown; tex?: unknown; display?: unknown; decimals?: unknown };
  if (input.type === 'math') {
    if (typeof attrs.tex !== 'string' || attrs.tex.trim() === '' || attrs.tex.length > 4_000) return null;
    budget.characters -= attrs.tex.length;
    return budget.characters < 0 ? null : { type: 'math', attrs: { tex: attrs.tex, display: attrs.display === true } };
  }
  if (typeof attrs.id !== 'string' || !chipId.test(attrs.id)) return null;
  if (input.type === 'gap') return { type: 'gap', attrs: { id: attrs.id } };
  const { decimals } = attrs;
  const whole = typeof decimals === 'number' && Number.isInteger(decimals) && decimals >= 0 && decimals <= 9;
  return { type: 'variable', attrs: { id: attrs.id, decimals: whole ? decimals : null } };
}

function readMedia(input: unknown): RichMedia | null {
  const attrs = (input ?? {}) as Record<string, unknown>;
  const { hash, kind, alt } = attrs;
  if (typeof hash !== 'string' || !/^[0-9a-f]{64}$/.test(hash)) return null;
  if (kind !== 'picture' && kind !== 'sound' && kind !== 'video') return null;
  const size = (value: unknown) =>
    typeof value === 'number' && Number.isInteger(value) && value > 0 && value <= 20_000 ? value : null;
  return {
    type: 'media',
    attrs: {
      hash,
      kind,
      alt: typeof alt === 'string' ? alt.slice(0, 1_000) : '',
      width: size(attrs.width),
      height: size(attrs.height),
    },
  };
}

function readMark(input: unknown): RichMark | null {
  if (!isNode(input)) return null;
  if (plainMarks.has(input.type)) return { type: input.type as 'bold' };
  if (input.type !== 'link') return null;
  const href = (input.attrs as { href?: unknown } | undefined)?.href;
  return typeof href === 'string' && isSafeLink(href) ? { type: 'link', attrs: { href } } : null;
}
