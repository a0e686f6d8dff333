import { richFromText, richText } from '../../base/rich';
import { choiceLabel } from '../../question/choiceLabel';
import type { ContentOf } from '../../question/content';
import { noFeedback } from '../../question/feedback';
import { usualMatching } from '../../question/text/acceptedText';
import { readNumber } from '../../question/types/numeric/readNumber';

/** The kinds of item an off-screen exam can hold: questions of these types, of which only how they are answered is kept. */
export const itemTypes = [
  'single-choice',
  'multiple-choice',
  'true-false',
  'numeric',
  'short-text',
  'written',
] as const;
/** One kind of item. */
export type ItemType = (typeof itemTypes)[number];

/** What of an item its kind works with. */
export type ItemShape = {
  /** How many choices, where it has choices: 2 to 20. */
  choices: number;
  /** How they are labelled: a letter to begin with, or `1` for numerals. */
  start: string;
};

/** Content, or why a key cannot be read. */
export type ReadKey<Type extends ItemType> =
  | { ok: true; content: Omit<ContentOf<Type>, 'stem' | 'feedback'> }
  | { ok: false; message: string };

type ItemKind<Type extends ItemType> = {
  /** What it is called where many are set at once. */
  name: string;
  /** Whether it can be marked only with a key, also without one, or only by a person: its key then says by which levels. */
  key: 'required' | 'optional' | 'levels';
  hasChoices: boolean;
  /** Whether more than one label may be right. */
  several: boolean;
  /** How a key of it is filled in on a sheet: in its labels' boxes, as a number in a grid, or not at all. */
  onSheet: 'boxes' | 'number' | null;
  /** The labels to pick the key from, in order; null where it is typed. */
  row: (item: ItemShape) => string[] | null;
  /** Examples of a key, where it is typed. */
  examples: string;
  /** Whether spaces and commas are part of an answer that stands on a line of its own. */
  wholeLine: boolean;
  /** Whether commas without a space may be part of an answer. */
  wholeWord: boolean;
  /** Whether the signs of a word may be the answers of one item each, from this item on. */
  runsTogether: (word: string, item: ItemShape) => boolean;
  /** The content behind it. Without a key it has no right answer. */
  read: (key: string, item: ItemShape) => ReadKey<Type>;
  /** Whether its content has a right answer, or needs none. */
  isKeyed: (content: ContentOf<Type>) => boolean;
  /** The item that a content makes: its shape and its key. */
  write: (content: ContentOf<Type>) => Partial<ItemShape> & { key: string };
};

/** The labels of an item's choices, in order. */
export const choiceRow = ({ choices, start }: ItemShape): string[] =>
  Array.from({ length: choices }, (_, i) => choiceLabel(start, i));

/** `ACD` where every label is one sign; else the part is one label. */
const splitLabels = (part: string, labels: readonly string[]): string[] =>
  part.length > 1 &&
  labels.every((label) => label.length === 1) &&
  !labels.some((label) => label.toLowerCase() === part.toLowerCase())
    ? [...part]
    : [part];

const bad = (message: string): { ok: false; message: string } => ({ ok: false, message });

/** The choices of an item with those right that its key names; or the label it does not have. */
function readChoices(key: string, item: ItemShape) {
  const labels = choiceRow(item);
  const picked = key === '' ? [] : key.split(/[\s,;/]+/).flatMap((part) => splitLabels(part, labels));
  const places = picked.map((one) => labels.findIndex((label) => label.toLowerCase() === one.toLowerCase()));
  const unknown = picked[places.indexOf(-1)];
  if (unknown !== undefined)
    return bad(`“${unknown}” is none of its choices, ${labels[0]} to ${labels[labels.length - 1]}.`);
  const choices = labels.map((label, i) => ({
    id: `c${i}`,
    content: richFromText(label),
    right: places.includes(i),
    pinned: false,
  }));
  return { ok: true as const, right: new Set(places).size, choice: { choices, shuffle: false, labels: 'none' } };
}

const ofChoices = {
  key: 'required' as const,
  onSheet: 'boxes' as const,
  hasChoices: true,
  row: choiceRow,
  examples: '',
  wholeLine: false,
  wholeWord: false,
  isKeyed: ({ choices }: Pick<ContentOf<'single-choice'>, 'choices'>): boolean =>
    choices.some((choice) => choice.right),
  write: ({ choices }: Pick<ContentOf<'single-choice'>, 'choices'>) => {
    const labels = choices.map((choice) => richText(choice.content));
    const key = labels.filter((_, i) => choices[i]?.right).join(', ');
    return { choices: labels.length, start: labels[0] ?? 'A', key };
  },
};

const typed = { onSheet: null, hasChoices: false, several: false, row: () => null, runsTogether: () => false };

/** Every kind of item. */
export const itemKinds: { [Type in ItemType]: ItemKind<Type> } = {
  'single-choice': {
    ...ofChoices,
    name: 'one right choice',
    several: false,
    // Of ten choices or more that are numbered, two digits are one label.
    runsTogether: (word, { start, choices }) => !(start === '1' && choices >= 10 && /^\d\d$/.test(word)),
    read(key, item) {
      const read = readChoices(key, item);
      if (!read.ok) return read;
      if (read.right > 1) return bad('It has one right choice, and the key names several.');
      return { ok: true, content: { type: 'single-choice', ...read.choice } };
    },
  },
  'multiple-choice': {
    ...ofChoices,
    name: 'several right choices',
    several: true,
    runsTogether: () => false,
    read(key, item) {
      const read = readChoices(key, item);
      if (!read.ok) return read;
      return { ok: true, content: { type: 'multiple-choice', ...read.choice, rule: 'wrong-cancels-right' } };
    },
  },
  'true-false': {
    name: 'true or false',
    key: 'required',
    onSheet: 'boxes',
    hasChoices: false,
    several: false,
    row: () => ['T', 'F'],
    examples: '',
    wholeLine: false,
    wholeWord: false,
    runsTogether: (word) => !/^(true|false)$/i.test(word),
    read(key) {
      const answer = key === '' ? undefined : /^(t|true)$/i.test(key) ? true : /^(f|false)$/i.test(key) ? false : null;
      if (answer === null) return bad('The key of an item that is true or false is T or F.');
      // Without a key the answer is missing, which the schema of questions refuses.
      return { ok: true, content: { type: 'true-false', answer: answer as boolean } };
    },
    isKeyed: ({ answer }) => typeof answer === 'boolean',
    write: ({ answer }) => ({ key: answer === undefined ? '' : answer ? 'T' : 'F' }),
  },
  numeric: {
    ...typed,
    onSheet: 'number',
    name: 'a number',
    key: 'required',
    examples: '12.5 ± 0.5',
    wholeLine: false,
    wholeWord: true,
    read: readNumericKey,
    isKeyed: ({ accepted }) => accepted.length > 0,
    write({ accepted: [one] }) {
      if (!one) return { key: '' };
      const { kind, amount } = one.tolerance;
      const tolerance =
        amount === 0 ? '' : kind === 'relative' ? ` ± ${Number((amount * 100).toPrecision(12))} %` : ` ± ${amount}`;
      return { key: `${one.value}${tolerance}` };
    },
  },
  'short-text': {
    ...typed,
    name: 'a short text',
    key: 'optional',
    examples: 'accepted | accepted; empty: by hand',
    wholeLine: true,
    wholeWord: false,
    read(key) {
      const accepted = key
        .split('|')
        .map((text) => text.trim())
        .filter(Boolean)
        .map((text) => ({ text, credit: 1 }));
      if (accepted.some(({ text }) => text.length > 200)) return bad('An accepted answer has at most 200 characters.');
      return { ok: true, content: { type: 'short-text', accepted, matching: usualMatching } };
    },
    isKeyed: () => true,
    write: ({ accepted }) => ({ key: accepted.map((one) => one.text).join(' | ') }),
  },
  written: {
    ...typed,
    name: 'a free response, marked by hand',
    key: 'levels',
    examples: 'by hand; levels: 0, 1, 2',
    wholeLine: true,
    wholeWord: false,
    read: readLevels,
    isKeyed: () => true,
    write: ({ rubric }) => ({
      key: rubric ? (rubric.criteria[0]?.levels.map(({ name }) => name).join(', ') ?? '') : '',
    }),
  },
};

const onPaper = {
  type: 'written' as const,
  modelAnswer: { type: 'doc' as const, content: [] },
  words: { least: null, most: null },
  onPaper: true as const,
};

/** The levels by which a person marks it, from nothing to all of its points: numbers in the proportion in which they count. */
function readLevels(key: string): ReadKey<'written'> {
  if (key === '') return { ok: true, content: onPaper };
  const names = key.split(/[\s,;/]+/).filter(Boolean);
  const values = names.map((name) => (/^\d{1,3}(?:\.\d)?$/.test(name) && name.length <= 4 ? Number(name) : Number.NaN));
  if (values.some(Number.isNaN))
    return bad('A free response is marked by hand: it has no key. Its levels are numbers, such as 0, 1, 2.');
  const most = Math.max(...values);
  if (values.length < 2 || values.length > 10) return bad('A free response has two to ten levels.');
  if (values.some((value, i) => i > 0 && value <= (values[i - 1] as number)))
    return bad('Levels rise, from the lowest to the one that earns all the points.');
  const levels = values.map((value, i) => ({ id: `l${i}`, name: names[i] as string, share: value / most }));
  const criterion = { id: 'level', name: 'Level', weight: 1, levels };
  return { ok: true, content: { ...onPaper, rubric: { criteria: [criterion] } } };
}

/** A value with, behind ±, the amount or the share by which an answer may differ from it. */
function readNumericKey(key: string): ReadKey<'numeric'> {
  const [value = '', tolerance, ...rest] = key.split(/±|\+\/?-/).map((part) => part.trim());
  const share = tolerance?.endsWith('%') ?? false;
  const amount = tolerance === undefined ? 0 : readNumber(share ? tolerance.slice(0, -1) : tolerance);
  if (key !== '' && !readNumber(value).ok) return bad('This is not read as a number. Examples: 12, 1.5, 12.5 ± 0.5.');
  if (rest.length || (typeof amount !== 'number' && !(amount.ok && amount.value >= 0)))
    return bad('The tolerance is not read as a number. Examples: 12.5 ± 0.5, 200 ± 2 %.');
  const size = typeof amount === 'number' ? amount : amount.ok ? amount.value : 0;
  if (share && Number(value.replace(',', '.')) === 0) return bad('A share of 0 is 0: give the tolerance as an amount.');
  const accepted = {
    value: value.trim(),
    tolerance: share
      ? ({ kind: 'relative', amount: size / 100 } as const)
      : ({ kind: 'absolute', amount: size } as const),
    credit: 1,
  };
  return { ok: true, content: { type: 'numeric', accepted: key ? [accepted] : [] } };
}

/** What every item is the question of. */
export const itemFields = (label: string) => ({ stem: richFromText(`Item ${label}`), feedback: noFeedback });
