const letters = '[a-tA-T](?:\\s*[,&/+]\\s*[a-tA-T](?![a-z]))*';
const entry = new RegExp(`(\\d{1,4})\\s*[.):=\\]–-]?\\s*(${letters}|true|false)(?=$|[\\s,;.|]|\\d)`, 'giu');
const verdict = new RegExp(`^(?:${letters}|true|false)\\.?$`, 'iu');
const prefix =
  /^(?:(?:the\s+)?(?:correct\s+|right\s+)?answers|(?:answer\s*)?keys?|key\s+to[^:]*|solutions)\s*[:=–-]?\s*/iu;

/** A line that says that keys follow. */
export const keyHeading =
  /^(?:(?:the\s+)?(?:correct\s+|right\s+)?answers|answer\s*(?:key|sheet|list)|keys?|key\s+to\s.*|solutions)\s*:?$/iu;

/** The key of one question, by its number. */
export type KeyEntry = { number: number; key: string };

/**
 * The keys of a line that holds nothing else, such as `1. B  2. A` or `Answers: 1b, 2c, 3a`.
 *
 * @param least how many there have to be
 */
export function keysInLine(text: string, least: number): KeyEntry[] | null {
  const said = text.replace(prefix, '');
  const found = [...said.matchAll(entry)].map((match) => ({ number: Number(match[1]), key: match[2] as string }));
  if (found.length < least) return null;
  const rest = said.replace(entry, '').replace(/[\s,;.|()]/g, '');
  if (rest !== '') return null;
  return found.every((one, i) => i === 0 || one.number > (found[i - 1]?.number ?? 0)) ? found : null;
}

/** Whether the words behind a number are a key by their form: a letter, several of them, true or false. */
export const isVerdict = (text: string): boolean => verdict.test(text.trim());

/** Keys in two lines: the numbers, and below them the letters. */
export function keysBelow(numbers: string, below: string): KeyEntry[] | null {
  const first = numbers.split(/[\s|;,]+/).filter(Boolean);
  const second = below.split(/[\s|;,]+/).filter(Boolean);
  if (first.length < 2 || first.length !== second.length) return null;
  if (!first.every((one) => /^\d{1,4}[.)]?$/.test(one)) || !second.every(isVerdict)) return null;
  return first.map((one, i) => ({ number: Number.parseInt(one, 10), key: second[i] as string }));
}

/** A key of letters that names its question again, such as `4b`; null for anything else. */
export function keyWithNumber(text: string): KeyEntry | null {
  const found = text.length > 40 ? null : /^(\d{1,4})\s*[.):=-]?\s*([a-t](?:\s*[,&/]\s*[a-t])*)$/i.exec(text);
  return found && { number: Number(found[1]), key: found[2] as string };
}
