import { type Line, linesOf, lineText, type Run } from '@/core/bank/bringIn/line';

const blocks = new Set(['P', 'DIV', 'LI', 'H1', 'H2', 'H3', 'H4', 'H5', 'H6', 'TR', 'PRE', 'BLOCKQUOTE']);
const passedOver = new Set(['STYLE', 'SCRIPT', 'HEAD', 'TITLE']);

/**
 * What a word processor put on the clipboard, as paragraphs with their list labels and with what stands out. The markup
 * is only read, never shown. Cells of a row stand beside one another, divided by tabs; a picture leaves a line of its own.
 */
export function pastedLines(html: string): Line[] {
  const page = new DOMParser().parseFromString(html, 'text/html');
  const lines: Line[] = [];
  let open: Line | null = null;
  const begin = (label?: string) => {
    open = label ? { label, runs: [], whole: true } : { runs: [], whole: true };
    lines.push(open);
  };
  const say = (run: Run) => {
    if (!open) begin();
    open?.runs.push(run);
  };
  const walk = (node: Node, look: Omit<Run, 'text'>): void => {
    if (node.nodeType === 3) {
      const text = (node.textContent ?? '').replace(/[\t\n\r ]+/g, ' ');
      if (text !== '' && (text !== ' ' || open?.runs.length)) say({ text, ...look });
      return;
    }
    if (!(node instanceof HTMLElement) || passedOver.has(node.tagName)) return;
    if (node.tagName === 'BR') {
      begin();
      return;
    }
    if (node.tagName === 'IMG') {
      begin();
      say({ text: pictureHere(node.getAttribute('alt')) });
      open = null;
      return;
    }
    const isCell = node.tagName === 'TD' || node.tagName === 'TH';
    if (isCell && open && (open as Line).runs.length > 0) say({ text: '\t' });
    // The first paragraph of an item carries the item's label.
    const isLabelled = open !== null && (open as Line).label !== undefined && (open as Line).runs.length === 0;
    const isBlock = blocks.has(node.tagName);
    if (isBlock && !(isLabelled && node.tagName !== 'LI')) begin(node.tagName === 'LI' ? labelOf(node) : undefined);
    const next = lookOf(node, look);
    for (const child of node.childNodes) walk(child, next);
    if (isBlock) open = null;
  };
  walk(page.body, { bold: false, underline: false, marked: false });
  return lines.filter((line) => line.runs.some((run) => run.text.trim() !== ''));
}

/** What stands in a text where a picture stood. */
const pictureHere = (alt: string | null) => (alt?.trim() ? `[picture: ${alt.trim().slice(0, 80)}]` : '[picture]');

function lookOf(node: HTMLElement, look: Omit<Run, 'text'>): Omit<Run, 'text'> {
  const { style } = node;
  const isLight = style.fontWeight === 'normal' || style.fontWeight === '400';
  const isHeavy = style.fontWeight === 'bold' || Number(style.fontWeight) >= 600;
  const isBack = /yellow|lime|aqua|#ff0|rgb\(255, 255, 0\)/i.test(style.background + style.backgroundColor);
  return {
    bold: !isLight && Boolean(look.bold || isHeavy || node.tagName === 'B' || node.tagName === 'STRONG'),
    underline: Boolean(look.underline || node.tagName === 'U' || style.textDecoration.includes('underline')),
    marked: Boolean(look.marked || node.tagName === 'MARK' || isBack || isRedOrGreen(style.color)),
  };
}

/** Whether a colour is plainly red or green, as people write right answers in. */
function isRedOrGreen(colour: string): boolean {
  if (/^(red|green|lime|darkred|darkgreen|crimson)$/i.test(colour)) return true;
  const parts = /^rgb\((\d+), (\d+), (\d+)\)$/.exec(colour)?.slice(1).map(Number);
  if (!parts) return false;
  const [red = 0, green = 0, blue = 0] = parts;
  return Math.max(red, green) - blue > 90 && Math.abs(red - green) > 90;
}

/** The number or letter that an ordered list gives an item. */
function labelOf(item: HTMLElement): string | undefined {
  const list = item.parentElement;
  if (list?.tagName === 'UL') return '•';
  if (list?.tagName !== 'OL') return undefined;
  const at =
    [...list.children].filter((one) => one.tagName === 'LI').indexOf(item) + (Number(list.getAttribute('start')) || 1);
  const style = list.style.listStyleType || item.style.listStyleType;
  const kind = /alpha|latin/.test(style) ? 'a' : (list.getAttribute('type') ?? '1');
  return /^a$/i.test(kind) ? `${String.fromCharCode(96 + at)})` : `${at}.`;
}

/** The largest table on the clipboard, cell by cell; null where there is none with two rows and two columns. */
export function pastedTable(html: string): string[][] | null {
  const page = new DOMParser().parseFromString(html, 'text/html');
  const tables = [...page.querySelectorAll('table')].filter((table) => !table.querySelector('table'));
  const rows = tables
    .map((table) =>
      [...table.rows].map((row) => [...row.cells].map((cell) => (cell.textContent ?? '').replace(/\s+/g, ' ').trim())),
    )
    .sort((a, b) => b.length - a.length)[0];
  return rows && rows.length > 1 && Math.max(...rows.map((row) => row.length)) > 1 ? rows : null;
}

const isSame = (one: Line | undefined, other: Line | undefined): boolean =>
  one !== undefined && other !== undefined && lineText(one).trim() === lineText(other).trim();

/**
 * A text that was typed into, as lines: those above and below what was typed keep what stands out in them; what was typed
 * itself has no form.
 */
export function retypedLines(before: readonly Line[], text: string): Line[] {
  const now = linesOf(text);
  const most = Math.min(before.length, now.length);
  let start = 0;
  while (start < most && isSame(before[start], now[start])) start++;
  let end = 0;
  while (end < most - start && isSame(before[before.length - 1 - end], now[now.length - 1 - end])) end++;
  return [
    ...before.slice(0, start),
    ...now.slice(start, now.length - end),
    ...before.slice(before.length - end, before.length),
  ];
}

/**
 * Lines that are pasted among others: each keeps its form.
 *
 * @param before the text above the place, and `after` the text below it
 * @returns null where they are pasted into the middle of a line: they become plain words then
 */
export function insertedLines(
  lines: readonly Line[],
  before: string,
  pasted: readonly Line[],
  after: string,
): Line[] | null {
  const isWhole = (before === '' || before.endsWith('\n') || after === '') && (after === '' || after.startsWith('\n'));
  if (!isWhole || pasted.length === 0) return null;
  const above = retypedLines(lines, before.replace(/\n$/, ''));
  const below = retypedLines(lines, after.replace(/^\n/, ''));
  return [...(before === '' ? [] : above), ...pasted, ...(after === '' ? [] : below)];
}
