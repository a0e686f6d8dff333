import { XMLParser } from 'fast-xml-parser';
import type { Line, Run } from '@/core/bank/bringIn/readDocument';
import { ok, type Result, refused } from '@/core/base/result';
import { unpack, xmlText } from './unpack';

type Node = { [tag: string]: Node[] | string | Record<string, string> | undefined };

const parser = new XMLParser({
  preserveOrder: true,
  ignoreAttributes: false,
  attributeNamePrefix: '',
  trimValues: false,
  parseTagValue: false,
  processEntities: true,
});

const tagOf = (node: Node): string => Object.keys(node).find((name) => name !== ':@') ?? '';
const inner = (node: Node): Node[] => {
  const content = node[tagOf(node)];
  return Array.isArray(content) ? content : [];
};
const attribute = (node: Node | undefined, name: string): string | undefined =>
  (node?.[':@'] as Record<string, string> | undefined)?.[name];
const child = (nodes: Node[], tag: string): Node | undefined => nodes.find((node) => tagOf(node) === tag);
const within = (nodes: Node[], ...path: string[]): Node | undefined => {
  const [tag, ...rest] = path;
  const found = tag === undefined ? undefined : child(nodes, tag);
  return !found || rest.length === 0 ? found : within(inner(found), ...rest);
};

/** The paragraphs of a word processor document (Office Open XML), with the labels that its lists give them. */
export function readDocx(bytes: Uint8Array): Result<Line[]> {
  const parts = unpack(bytes, (name) => name === 'word/document.xml' || name === 'word/numbering.xml');
  if (!parts.ok) return parts;
  const main = parts.value.get('word/document.xml');
  if (!main) return refused('other-kind', 'This is no word processor document (.docx).');
  const text = xmlText(main);
  if (!text.ok) return text;
  const lists = parts.value.get('word/numbering.xml');
  const numbering = lists ? xmlText(lists) : null;
  if (numbering && !numbering.ok) return numbering;
  try {
    const formats = numbering ? listFormats(parser.parse(numbering.value) as Node[]) : new Map<string, ListLevel>();
    const document = parser.parse(text.value) as Node[];
    const body = within(document, 'w:document', 'w:body');
    if (!body) return refused('bad-input', 'This document holds no text.');
    return ok(paragraphs(inner(body), formats));
  } catch {
    return refused('bad-input', 'This document is damaged: its text cannot be read.');
  }
}

type ListLevel = { format: string; start: number; pattern: string };

/** How each level of each list is numbered, by `list/level`. */
function listFormats(document: Node[]): Map<string, ListLevel> {
  const all = inner(child(document, 'w:numbering') ?? {});
  const abstract = new Map<string, Map<string, ListLevel>>();
  for (const node of all.filter((one) => tagOf(one) === 'w:abstractNum')) {
    const levels = new Map<string, ListLevel>();
    for (const level of inner(node).filter((one) => tagOf(one) === 'w:lvl'))
      levels.set(attribute(level, 'w:ilvl') ?? '0', {
        format: attribute(child(inner(level), 'w:numFmt'), 'w:val') ?? 'decimal',
        start: Number(attribute(child(inner(level), 'w:start'), 'w:val') ?? 1),
        pattern: attribute(child(inner(level), 'w:lvlText'), 'w:val') ?? '%1.',
      });
    abstract.set(attribute(node, 'w:abstractNumId') ?? '', levels);
  }
  const formats = new Map<string, ListLevel>();
  for (const node of all.filter((one) => tagOf(one) === 'w:num')) {
    const levels = abstract.get(attribute(child(inner(node), 'w:abstractNumId'), 'w:val') ?? '');
    for (const [level, format] of levels ?? []) formats.set(`${attribute(node, 'w:numId')}/${level}`, format);
  }
  return formats;
}

function paragraphs(nodes: Node[], formats: Map<string, ListLevel>): Line[] {
  const lines: Line[] = [];
  const counters: Counters = new Map();
  const visit = (all: Node[]) => {
    for (const node of all) {
      const tag = tagOf(node);
      if (tag === 'w:p') lines.push(...paragraph(inner(node), formats, counters));
      else if (['w:tbl', 'w:tr', 'w:tc', 'w:sdt', 'w:sdtContent'].includes(tag)) visit(inner(node));
    }
  };
  visit(nodes);
  return lines;
}

/** How far each level of each list has counted, by the list's id. */
type Counters = Map<string, Map<number, number>>;

function paragraph(nodes: Node[], formats: Map<string, ListLevel>, counters: Counters): Line[] {
  const list = within(nodes, 'w:pPr', 'w:numPr');
  const id = list && attribute(child(inner(list), 'w:numId'), 'w:val');
  const level = list ? (attribute(child(inner(list), 'w:ilvl'), 'w:val') ?? '0') : '0';
  let label: string | undefined;
  if (id && id !== '0') {
    const format = formats.get(`${id}/${level}`) ?? { format: 'decimal', start: 1, pattern: '%1.' };
    const own = counters.get(id) ?? new Map<number, number>();
    counters.set(id, own);
    const at = Number(level);
    const count = (own.get(at) ?? format.start - 1) + 1;
    own.set(at, count);
    // A list begins anew below the next item of the one around it.
    for (const below of [...own.keys()]) if (below > at) own.delete(below);
    label = labelOf(format, count, at);
  }
  const rows: Run[][] = [[]];
  const visit = (all: Node[]) => {
    for (const node of all) {
      const tag = tagOf(node);
      if (tag === 'w:r') {
        const look = inner(child(inner(node), 'w:rPr') ?? {});
        const on = (name: string) => {
          const found = child(look, name);
          return found !== undefined && !['0', 'false', 'none'].includes(attribute(found, 'w:val') ?? '');
        };
        const style = { bold: on('w:b'), underline: on('w:u'), marked: on('w:highlight') };
        for (const part of inner(node)) {
          const kind = tagOf(part);
          const row = rows[rows.length - 1] as Run[];
          if (kind === 'w:t') row.push({ text: textIn(part), ...style });
          else if (kind === 'w:tab') row.push({ text: ' ', ...style });
          else if (kind === 'w:br') rows.push([]);
        }
      } else if (['w:hyperlink', 'w:ins', 'w:smartTag', 'w:sdt', 'w:sdtContent'].includes(tag)) visit(inner(node));
    }
  };
  visit(nodes);
  return rows.map((runs, i) => (i === 0 && label ? { label, runs } : { runs }));
}

const textIn = (node: Node): string =>
  inner(node)
    .map((part) => (typeof part['#text'] === 'string' ? (part['#text'] as string) : ''))
    .join('');

function labelOf({ format, pattern }: ListLevel, count: number, level: number): string | undefined {
  const letter = String.fromCharCode(97 + ((count - 1) % 26));
  const said =
    format === 'lowerLetter'
      ? letter
      : format === 'upperLetter'
        ? letter.toUpperCase()
        : format === 'decimal'
          ? String(count)
          : null;
  return said === null ? undefined : pattern.replace(`%${level + 1}`, said).replace(/%\d/g, '');
}
