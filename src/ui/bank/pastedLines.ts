import type { Line, Run } from '@/core/bank/bringIn/readDocument';

const blocks = new Set(['P', 'DIV', 'LI', 'H1', 'H2', 'H3', 'H4', 'TR', 'PRE', 'BLOCKQUOTE']);

/**
 * What a word processor put on the clipboard, as paragraphs with their list labels and with what stands out. The markup
 * is only read, never shown.
 */
export function pastedLines(html: string): Line[] {
  const page = new DOMParser().parseFromString(html, 'text/html');
  const lines: Line[] = [];
  let open: Line | null = null;
  const begin = (label?: string) => {
    open = label ? { label, runs: [] } : { runs: [] };
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
    if (!(node instanceof HTMLElement) || ['STYLE', 'SCRIPT', 'HEAD', 'TITLE'].includes(node.tagName)) return;
    if (node.tagName === 'BR') {
      begin();
      return;
    }
    const style = node.style;
    const heavy = style.fontWeight === 'bold' || Number(style.fontWeight) >= 600;
    const next = {
      bold:
        style.fontWeight === 'normal' || style.fontWeight === '400'
          ? false
          : look.bold || heavy || node.tagName === 'B' || node.tagName === 'STRONG',
      underline: look.underline || node.tagName === 'U' || style.textDecoration.includes('underline'),
      marked:
        look.marked ||
        node.tagName === 'MARK' ||
        /yellow|lime|aqua|#ff0|rgb\(255, 255, 0\)/i.test(style.background + style.backgroundColor),
    };
    if (blocks.has(node.tagName)) begin(node.tagName === 'LI' ? labelOf(node) : undefined);
    for (const child of node.childNodes) walk(child, next);
    if (blocks.has(node.tagName)) open = null;
  };
  walk(page.body, { bold: false, underline: false, marked: false });
  return lines.filter((line) => line.runs.some((run) => run.text.trim() !== ''));
}

/** The number or letter that an ordered list gives an item. */
function labelOf(item: HTMLElement): string | undefined {
  const list = item.parentElement;
  if (list?.tagName !== 'OL') return undefined;
  const at =
    [...list.children].filter((one) => one.tagName === 'LI').indexOf(item) + (Number(list.getAttribute('start')) || 1);
  const kind = list.getAttribute('type') ?? (/alpha|latin/.test(list.style.listStyleType) ? 'a' : '1');
  return /^a$/i.test(kind) ? `${String.fromCharCode(96 + at)})` : `${at}.`;
}
