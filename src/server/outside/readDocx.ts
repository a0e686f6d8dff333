import type { Line, Run } from '@/core/bank/bringIn/line';
import { ok, type Result, refused } from '@/core/base/result';
import { NotRead, readXml, type XmlTag } from './readXml';
import { unpack } from './unpack';

/** The most paragraphs of one document. */
const mostParagraphs = 100_000;

/** The paragraphs of a word processor document (Office Open XML), with the labels that its lists give them. */
export function readDocx(bytes: Uint8Array): Result<Line[]> {
  const parts = unpack(bytes, (name) => name === 'word/document.xml' || name === 'word/numbering.xml');
  if (!parts.ok) return parts;
  const text = parts.value.get('word/document.xml');
  if (!text) return refused('other-kind', 'This is no word processor document (.docx).');
  const lists = parts.value.get('word/numbering.xml');
  try {
    return ok(paragraphs(text, lists ? listFormats(lists) : new Map()));
  } catch (why) {
    if (why instanceof NotRead) return refused('bad-input', why.message);
    throw why;
  }
}

type ListLevel = { format: string; start: number; pattern: string };
const usualLevel = (): ListLevel => ({ format: 'decimal', start: 1, pattern: '%1.' });

/** How each level of each list is numbered, by `list/level`. */
function listFormats(xml: Uint8Array): Map<string, ListLevel> {
  const abstract = new Map<string, Map<string, ListLevel>>();
  const lists = new Map<string, string>();
  let levels = new Map<string, ListLevel>();
  let level = usualLevel();
  let list = '';
  readXml(xml, {
    open({ name, attributes: { abstractNumId, ilvl, numId, val } }) {
      if (name === 'abstractNum') {
        levels = new Map();
        abstract.set(abstractNumId ?? '', levels);
      } else if (name === 'lvl') {
        level = usualLevel();
        levels.set(ilvl ?? '0', level);
      } else if (name === 'numFmt') level.format = val ?? level.format;
      else if (name === 'start') level.start = Number(val ?? 1) || 0;
      else if (name === 'lvlText') level.pattern = (val ?? '').slice(0, 40);
      else if (name === 'num') list = numId ?? '';
      else if (name === 'abstractNumId') lists.set(list, val ?? '');
    },
    close() {},
  });
  const formats = new Map<string, ListLevel>();
  for (const [id, from] of lists)
    for (const [at, format] of abstract.get(from) ?? []) formats.set(`${id}/${at}`, format);
  return formats;
}

/** What an element is read as, by what stands around it; everything else is passed over with all that is in it. */
const places = {
  begin: { document: 'whole' },
  whole: { body: 'flow' },
  flow: { p: 'paragraph', tbl: 'flow', tr: 'flow', tc: 'flow', sdt: 'flow', sdtContent: 'flow' },
  paragraph: {
    pPr: 'settings',
    r: 'run',
    hyperlink: 'inline',
    ins: 'inline',
    smartTag: 'inline',
    sdt: 'inline',
    sdtContent: 'inline',
  },
  inline: { r: 'run', hyperlink: 'inline', ins: 'inline', smartTag: 'inline', sdt: 'inline', sdtContent: 'inline' },
  settings: { numPr: 'list' },
  list: { numId: 'list-id', ilvl: 'list-level' },
  run: { rPr: 'look', t: 'text', tab: 'tab', br: 'break' },
  look: { b: 'bold', u: 'underline', highlight: 'marked' },
} satisfies Record<string, Record<string, string>>;

/** How far each level of each list has counted, by the list's id. */
type Counters = Map<string, Map<number, number>>;

function paragraphs(xml: Uint8Array, formats: Map<string, ListLevel>): Line[] {
  const lines: Line[] = [];
  const counters: Counters = new Map();
  const around: string[] = ['begin'];
  let rows: Run[][] = [[]];
  let listId = '';
  let listLevel = '0';
  let look: Omit<Run, 'text'> = {};
  let said: string[] = [];
  let foundBody = false;
  const row = () => rows[rows.length - 1] as Run[];
  /** The words of a run look alike, whatever stands first in it: how they look, or they. */
  const written: Run[] = [];
  const on = ({ attributes: { val = '' } }: XmlTag) => !['0', 'false', 'none'].includes(val);
  const write = (text: string) => {
    const run = { text };
    written.push(run);
    row().push(run);
  };
  readXml(xml, {
    open(tag) {
      const within = around[around.length - 1] as string;
      const inside = within in places ? (places[within as keyof typeof places] as Record<string, string>) : {};
      const place = Object.hasOwn(inside, tag.name) ? (inside[tag.name] as string) : 'passed over';
      around.push(place);
      if (place === 'flow' && tag.name === 'body') foundBody = true;
      else if (place === 'paragraph') [rows, listId, listLevel] = [[[]], '', '0'];
      else if (place === 'run') [look, written.length] = [{ bold: false, underline: false, marked: false }, 0];
      else if (place === 'list-id') listId = tag.attributes.val ?? '';
      else if (place === 'list-level') listLevel = tag.attributes.val ?? '0';
      else if (place === 'text') said = [];
      else if (place === 'tab') write(' ');
      else if (place === 'break') rows.push([]);
      else if (place === 'bold' || place === 'underline' || place === 'marked') look = { ...look, [place]: on(tag) };
    },
    text(text) {
      if (around[around.length - 1] === 'text') said.push(text);
    },
    close() {
      const place = around.pop();
      if (place === 'text') write(said.join(''));
      else if (place === 'run') for (const run of written) Object.assign(run, look);
      else if (place === 'paragraph') {
        const label = listId && listId !== '0' ? labelled(formats, counters, listId, listLevel) : undefined;
        for (const [i, runs] of rows.entries())
          lines.push({ ...(i === 0 && label ? { label } : {}), runs, whole: true });
        if (lines.length > mostParagraphs)
          throw new NotRead(`This document has more than ${mostParagraphs} paragraphs; bring it in in parts.`);
      }
    },
  });
  if (!foundBody) throw new NotRead('This document holds no text.');
  return lines;
}

const romans = ['i', 'ii', 'iii', 'iv', 'v', 'vi', 'vii', 'viii', 'ix', 'x'];

/** The label of the next paragraph of a list. */
function labelled(
  formats: Map<string, ListLevel>,
  counters: Counters,
  listId: string,
  level: string,
): string | undefined {
  const format = formats.get(`${listId}/${level}`) ?? usualLevel();
  const own = counters.get(listId) ?? new Map<number, number>();
  counters.set(listId, own);
  const at = Number(level);
  const count = (own.get(at) ?? format.start - 1) + 1;
  own.set(at, count);
  // A list begins anew below the next item of the one around it.
  for (const below of [...own.keys()]) if (below > at) own.delete(below);
  return labelOf(format, count, at);
}

function labelOf({ format, pattern }: ListLevel, count: number, level: number): string | undefined {
  if (format === 'bullet') return '•';
  if (/roman$/i.test(format))
    return pattern.replace(`%${level + 1}`, romans[count - 1] ?? String(count)).replace(/%\d/g, '');
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
