import type { Brought } from '../../bank/bringIn/brought';
import { richText } from '../../base/rich';
import type { QuestionContent } from '../../question/content';

/**
 * A document as somebody typed it, and the questions that its author meant.
 *
 * Questions are written short: `one: stem | choice | *right choice`, `many: …`, `true: statement`, `false: statement`,
 * `number: stem = 75 ± 1 m`, `text: stem = accepted; accepted`, `gaps: stem with ____ = a; b`, `written: stem`. Lines of a
 * stem or choice are divided by ` / `.
 */
export type Layout = {
  name: string;
  source:
    | { kind: 'text'; text: string }
    | { kind: 'html'; html: string }
    | { kind: 'csv'; bytes: Uint8Array }
    | { kind: 'sheet'; rows: string[][] };
  questions: string[];
  /** Lines, from 1, of which nothing is to be made: they stay, coloured. */
  unread?: number[];
};

export const text = (name: string, typed: string, ...questions: string[]): Layout => ({
  name,
  source: { kind: 'text', text: typed.replace(/^\n/, '') },
  questions,
});
export const html = (name: string, pasted: string, ...questions: string[]): Layout => ({
  name,
  source: { kind: 'html', html: pasted },
  questions,
});
export const sheet = (name: string, rows: string[][], ...questions: string[]): Layout => ({
  name,
  source: { kind: 'sheet', rows },
  questions,
});

/** A CSV file in the encoding of a system; only signs of Windows-1252 are used. */
export const csv = (
  name: string,
  typed: string,
  encoding: 'utf-8' | 'windows-1252' | 'utf-16',
  ...questions: string[]
): Layout => ({ name, source: { kind: 'csv', bytes: encoded(typed, encoding) }, questions });

function encoded(typed: string, encoding: 'utf-8' | 'windows-1252' | 'utf-16'): Uint8Array {
  if (encoding === 'utf-8') return new TextEncoder().encode(typed);
  if (encoding === 'utf-16')
    return new Uint8Array([
      0xff,
      0xfe,
      ...[...typed].flatMap((sign) => [sign.charCodeAt(0) & 255, sign.charCodeAt(0) >> 8]),
    ]);
  const special: Record<string, number> = { '€': 0x80, '–': 0x96, '’': 0x92, '“': 0x93, '”': 0x94, '…': 0x85 };
  return new Uint8Array([...typed].map((sign) => special[sign] ?? sign.charCodeAt(0)));
}

const flat = (rich: Parameters<typeof richText>[0]) => richText(rich).replace(/\n/g, ' / ');

/** A question in the short writing of {@link Layout}. */
export function saidShort(content: QuestionContent): string {
  const stem = flat(content.stem);
  switch (content.type) {
    case 'single-choice':
    case 'multiple-choice':
      return [
        `${content.type === 'single-choice' ? 'one' : 'many'}: ${stem}`,
        ...content.choices.map((choice) => `${choice.right ? '*' : ''}${flat(choice.content)}`),
      ].join(' | ');
    case 'true-false':
      return `${content.answer}: ${stem}`;
    case 'numeric':
      return `number: ${stem} = ${content.accepted
        .map(({ value, tolerance }) =>
          [
            value,
            tolerance.amount > 0 &&
              `± ${tolerance.kind === 'relative' ? `${tolerance.amount * 100} %` : tolerance.amount}`,
          ]
            .filter(Boolean)
            .join(' '),
        )
        .join('; ')}${content.units ? ` ${content.units.list[0]?.name}` : ''}`;
    case 'short-text':
      return `text: ${stem} = ${content.accepted.map((one) => one.text).join('; ')}`;
    case 'gap-fill':
      return `gaps: ${stem} = ${content.gaps
        .map((gap) =>
          gap.kind === 'text'
            ? gap.accepted.map((one) => one.text).join('|')
            : gap.kind === 'number'
              ? gap.accepted.map((one) => one.value).join('|')
              : '?',
        )
        .join('; ')}`;
    case 'written':
      return `written: ${stem}`;
    default:
      return `${content.type}: ${stem}`;
  }
}

/** How the questions of one layout were read: wholly rightly, with something to decide first, or wrongly without a word. */
export type Judged = { right: number; asked: string[]; silent: string[]; total: number };

/**
 * Judges what was read by what was meant. A question that was missed is asked about only where lines are left unread.
 *
 * @param unread how many lines are shown as not read
 */
export function judge(layout: Layout, items: readonly Brought[], unread: number): Judged {
  const wanted = [...layout.questions];
  const judged: Judged = { right: 0, asked: [], silent: [], total: wanted.length };
  let unsure = 0;
  for (const item of items) {
    const isAsked = item.problems.some((one) => one.severity !== 'warning');
    const said = item.content ? saidShort(item.content) : `nothing: ${item.title}`;
    const at = wanted.indexOf(said);
    if (at >= 0) wanted.splice(at, 1);
    if (isAsked) {
      judged.asked.push(`${said} (${item.problems.map((one) => one.message).join(' ')})`);
      if (at < 0) unsure += 1;
    } else if (at >= 0) judged.right += 1;
    else judged.silent.push(`made of nothing meant: ${said}`);
  }
  // What is missing shows only where something is asked or unread.
  for (const missing of wanted) {
    if (unsure > 0 || unread > (layout.unread?.length ?? 0)) {
      unsure -= 1;
      if (unsure < 0) judged.asked.push(`unread: ${missing}`);
    } else judged.silent.push(`missing: ${missing}`);
  }
  return judged;
}
