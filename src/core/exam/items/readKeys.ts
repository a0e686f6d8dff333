import { type Item, itemContent } from './item';
import { itemKinds } from './kinds';

/** What a key that was typed or pasted says, by place from 0; or what of it cannot be read, in words. */
type ReadKeys = { keys: Map<number, string>; problems: string[] };

const mostProblems = 20;

/** A line such as `12 C` or `2a: port`: what stands before its first space or sign, and what follows. */
function nameAndKey(line: string): { name: string; key: string } | null {
  const end = line.slice(1).search(/[.:)=\s]/) + 1;
  const key = end > 0 ? line.slice(end).replace(/^\s*[.:)=]?\s*/, '') : '';
  return key ? { name: line.slice(0, end), key } : null;
}

/**
 * Reads a key. Either every line names an item and its answer (`12 C`, `2a: port | larboard`), or the answers follow one
 * another from an item on: one for each item with space, commas or lines between them, or run together where each is one
 * sign (`ABDCA BCDDA`). A `-` passes an item over.
 *
 * @param from the place from which answers that follow one another are given, from 0
 */
export function readKeys(text: string, items: readonly Item[], from: number): ReadKeys {
  const lines = text
    .split(/\r?\n/)
    .map((line) => line.trim())
    .filter(Boolean);
  const placeOf = new Map(items.map((item, i) => [item.label.toLowerCase(), i]));
  const named = lines.map((line) => {
    const found = nameAndKey(line);
    const at = found && placeOf.get(found.name.toLowerCase());
    return found && at !== undefined ? { at: at as number, key: found.key } : null;
  });
  const answers = lines.length > 0 && named.every((one) => one !== null) ? named : inOrder(lines, items, from);
  const keys = new Map<number, string>();
  const problems: string[] = [];
  const problem = (message: string) => {
    if (problems.length < mostProblems) problems.push(message);
    else if (problems.length === mostProblems) problems.push('There are more problems further on.');
  };
  if (lines.length === 0) problem('Type or paste the right answers.');
  for (const { at, key } of answers) {
    const item = items[at];
    if (!item) {
      problem(`The key goes on after the last item: “${key}” belongs to none.`);
      break;
    }
    if (key === '-') continue;
    if (keys.has(at)) problem(`Item ${item.label} is named twice.`);
    const read = itemContent({ ...item, key });
    if (read.ok) keys.set(at, key);
    else problem(`Item ${item.label}: ${read.message}`);
  }
  return { keys, problems };
}

/** Answers that follow one another. Items marked by hand have none and are passed over. */
function inOrder(lines: readonly string[], items: readonly Item[], from: number): { at: number; key: string }[] {
  const answers: { at: number; key: string }[] = [];
  let at = from;
  const give = (key: string) => {
    while (isPassedOver(items[at])) at += 1;
    answers.push({ at, key });
    at += 1;
  };
  for (const line of lines) {
    const next = items[at];
    // A short text may hold spaces and commas: a line of its own is one answer.
    if (next && itemKinds[next.type].wholeLine && lines.length > 1) {
      give(line);
      continue;
    }
    const tidy = line
      .replace(/\s+/g, ' ')
      .replace(/ ?(?:±|\+\/?-) ?/g, '±')
      .replaceAll(' %', '%');
    for (const word of tidy.split(/[\s;]+|,\s+/).filter(Boolean)) {
      // A comma without a space may be a decimal one.
      const item = items[at];
      const whole = item && itemKinds[item.type].wholeWord && itemContent({ ...item, key: word }).ok;
      for (const part of whole ? [word] : word.split(',').filter(Boolean))
        if (runTogether(part, items, at)) for (const sign of part) give(sign);
        else give(part);
    }
  }
  return answers;
}

/** Whether the signs of a word are answers of one item each: all of those items are answered with one sign. */
function runTogether(word: string, items: readonly Item[], at: number): boolean {
  if (word.length < 2 || !/^[A-Za-z1-9-]+$/.test(word)) return false;
  const first = items.slice(at).find((item) => !isPassedOver(item));
  return first !== undefined && itemKinds[first.type].runsTogether(word, first);
}

/** Items marked by hand have no answer in a key. */
const isPassedOver = (item: Item | undefined): boolean => item !== undefined && itemKinds[item.type].key === 'levels';
