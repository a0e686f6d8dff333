import { mathLine } from '../core/base/mathLine';
import { type Rich, type RichBlock, type RichInline, type RichMark, richText } from '../core/base/rich';
import type { PrintedPicture } from '../core/print/printOrder';
import { formulaOf } from './formula';
import type { Look, PrintBlock, PrintInline } from './printNodes';

const widestPicture = 400;
const highestPicture = 260;

/** What rich content needs to become part of a page. */
export type Setting = { pictures: Readonly<Record<string, PrintedPicture>>; gap?: (id: string) => string };

/** Rich content on a printed page: paragraphs, lists, tables, code, pictures and mathematics. */
export const richNodes = (rich: Rich, setting: Setting, look: Look = {}): PrintBlock[] =>
  rich.content.flatMap((block) =>
    block.type === 'paragraph' ? paragraphs(block.content ?? [], setting, look) : blockOf(block, setting, look),
  );

/** A paragraph, parted where a formula has lines of its own. */
function paragraphs(inlines: readonly RichInline[], setting: Setting, look: Look): PrintBlock[] {
  const blocks: PrintBlock[] = [];
  let line: PrintInline[] = [];
  const end = () => {
    if (line.length) blocks.push({ k: 'p', c: line, ...look });
    line = [];
  };
  for (const inline of inlines) {
    const f = inline.type === 'math' && inline.attrs.display ? formulaOf(inline.attrs.tex, true) : null;
    if (f && inline.type === 'math') {
      end();
      blocks.push({ k: 'display', f, alt: mathLine(inline.attrs.tex) });
    } else line.push(inlineOf(inline, setting));
  }
  end();
  return blocks.length ? blocks : [{ k: 'p', c: [], ...look }];
}

function blockOf(block: Exclude<RichBlock, { type: 'paragraph' }>, setting: Setting, look: Look): PrintBlock {
  const inner = (content: RichBlock[], more: Look = {}) =>
    richNodes({ type: 'doc', content }, setting, { ...look, ...more });
  switch (block.type) {
    case 'codeBlock': {
      const lines = (block.content ?? [])
        .map((one) => one.text)
        .join('')
        .split('\n');
      const c = lines.flatMap((s, i): PrintInline[] => [
        ...(i ? [{ k: 'br' as const }] : []),
        // Spaces at the beginning of a line and in a row are part of code.
        { k: 't', s: s.replaceAll(' ', '\u00a0'), marks: ['code'] },
      ]);
      return { k: 'p', c, ...look };
    }
    case 'media':
      return pictureOf(block.attrs, setting, look);
    case 'table': {
      const rows = block.content.map((row) =>
        row.content.map((cell) => inner(cell.content, cell.type === 'tableHeader' ? { strong: true } : {})),
      );
      const hasHead = block.content[0]?.content.every((cell) => cell.type === 'tableHeader') ?? false;
      const columns = Math.max(1, ...rows.map((row) => row.length));
      const filled = rows.map((row) => [...row, ...Array.from({ length: columns - row.length }, () => [])]);
      return {
        k: 'table',
        widths: Array.from({ length: columns }, () => 0),
        head: hasHead ? (filled[0] ?? []) : [],
        rows: hasHead ? filled.slice(1) : filled,
        right: [],
        grid: true,
      };
    }
    case 'bulletList':
    case 'orderedList':
      return { k: 'list', ordered: block.type === 'orderedList', c: block.content.map((item) => inner(item.content)) };
  }
}

function pictureOf(
  { hash, alt, kind }: { hash: string; alt: string; kind: string },
  { pictures }: Setting,
  look: Look,
): PrintBlock {
  const picture = pictures[hash];
  if (!picture) return { k: 'p', c: [{ k: 't', s: `[${alt || kind}]` }], ...look, quiet: true };
  const scale = Math.min(1, widestPicture / picture.width, highestPicture / picture.height);
  return { k: 'picture', hash, alt: alt || kind, width: picture.width * scale, height: picture.height * scale };
}

const marksOf: Readonly<Record<RichMark['type'], 'bold' | 'italic' | 'underline' | 'code' | 'super' | 'sub'>> = {
  bold: 'bold',
  italic: 'italic',
  underline: 'underline',
  link: 'underline',
  code: 'code',
  superscript: 'super',
  subscript: 'sub',
};

function inlineOf(inline: RichInline, { gap = () => '________' }: Setting): PrintInline {
  switch (inline.type) {
    case 'hardBreak':
      return { k: 'br' };
    case 'gap':
      return { k: 't', s: gap(inline.attrs.id) };
    case 'variable':
      return { k: 't', s: '…' };
    case 'math': {
      const { tex } = inline.attrs;
      const f = formulaOf(tex, false);
      return f ? { k: 'formula', f, alt: mathLine(tex) } : { k: 't', s: tex, marks: ['code'] };
    }
    case 'text':
      return {
        k: 't',
        s: inline.text,
        ...(inline.marks?.length ? { marks: inline.marks.map((one) => marksOf[one.type]) } : {}),
      };
  }
}

/** Rich content within a line: blocks follow one another, and what stands only on lines of its own is named. */
export const richInLine = (rich: Rich, setting: Setting): PrintInline[] =>
  rich.content.flatMap((block, i): PrintInline[] => [
    ...(i ? [{ k: 't' as const, s: ' ' }] : []),
    ...(block.type === 'paragraph'
      ? (block.content ?? []).map((one) => inlineOf(one, setting))
      : [{ k: 't' as const, s: richText({ type: 'doc', content: [block] }) }]),
  ]);
