import { richFromText, richText } from '../../base/rich';
import { choiceLabel } from '../../question/choiceLabel';
import type { QuestionContent } from '../../question/content';
import { noFeedback } from '../../question/feedback';
import { usualMatching } from '../../question/text/acceptedText';
import { readNumber } from '../../question/types/numeric/readNumber';

/** What kinds of item an off-screen exam can hold: its questions stand on paper, an item holds only how it is answered. */
export const itemTypes = [
  'single-choice',
  'multiple-choice',
  'true-false',
  'numeric',
  'short-text',
  'written',
] as const;
export type ItemType = (typeof itemTypes)[number];

/** What a kind of item is called where many are set at once. */
export const itemTypeNames: Record<ItemType, string> = {
  'single-choice': 'one right choice',
  'multiple-choice': 'several right choices',
  'true-false': 'true or false',
  numeric: 'a number',
  'short-text': 'a short text',
  written: 'a free response, marked by hand',
};

/** The most items an off-screen exam can hold. */
export const mostItems = 2_000;
export const longestItemLabel = 20;

/** An item of an off-screen exam as its composer works with it. */
export type Item = {
  /** The question that stands behind it; empty while it is not stored. */
  questionId: string;
  /** What stands beside the question on paper: 12, 2a, B3. */
  label: string;
  type: ItemType;
  /** How many choices, where it has choices: 2 to 20. */
  choices: number;
  /** How they are labelled: a letter to begin with, or `1` for numerals. */
  start: string;
  /**
   * The right answer as it is written in a key: `C`; `A, C`; `T` or `F`; `12.5`, `12.5 ± 0.5`, `12.5 ± 2 %`; accepted texts
   * with `|` between them. Empty while it is not known; always empty for a free response, and empty for a short text that is
   * marked by hand.
   */
  key: string;
  points: number;
};

export const hasChoices = (type: ItemType): boolean => type === 'single-choice' || type === 'multiple-choice';

/** Whether an item can be marked by rule only once it has a key. */
export const needsKey = (type: ItemType): boolean => type !== 'written' && type !== 'short-text';

type ReadKey = { ok: true; content: QuestionContent } | { ok: false; message: string };

/**
 * The content of the question behind an item. Without a key it is content all the same, but none that may stand on a paper:
 * it has no right answer, and {@link isKeyed} says so.
 *
 * @returns why the key cannot be read, where it cannot
 */
export function itemContent(item: Pick<Item, 'label' | 'type' | 'choices' | 'start' | 'key'>): ReadKey {
  const common = { stem: richFromText(`Item ${item.label}`), feedback: noFeedback };
  const key = item.key.trim();
  const bad = (message: string): ReadKey => ({ ok: false, message });
  switch (item.type) {
    case 'single-choice':
    case 'multiple-choice': {
      const labels = choiceRow(item);
      const picked = key === '' ? [] : key.split(/[\s,;/]+/).flatMap((part) => splitLabels(part, labels));
      const places = picked.map((one) => labels.findIndex((label) => label.toLowerCase() === one.toLowerCase()));
      const unknown = picked[places.indexOf(-1)];
      if (unknown !== undefined)
        return bad(`“${unknown}” is none of its choices, ${labels[0]} to ${labels[labels.length - 1]}.`);
      if (item.type === 'single-choice' && new Set(places).size > 1)
        return bad('It has one right choice, and the key names several.');
      const choices = labels.map((label, i) => ({
        id: `c${i}`,
        content: richFromText(label),
        right: places.includes(i),
        pinned: false,
      }));
      const choice = { ...common, choices, shuffle: false, labels: 'none' };
      return {
        ok: true,
        content:
          item.type === 'single-choice'
            ? { type: item.type, ...choice }
            : { type: item.type, ...choice, rule: 'wrong-cancels-right' },
      };
    }
    case 'true-false': {
      const answer = key === '' ? undefined : /^(t|true)$/i.test(key) ? true : /^(f|false)$/i.test(key) ? false : null;
      if (answer === null) return bad('The key of an item that is true or false is T or F.');
      // Without a key the answer is missing, which the schema of questions refuses.
      return { ok: true, content: { type: 'true-false', ...common, answer: answer as boolean } };
    }
    case 'numeric': {
      const [value = '', tolerance, ...rest] = key.split(/\s*(?:±|\+\/?-)\s*/);
      const share = tolerance?.endsWith('%') ?? false;
      const amount = tolerance === undefined ? 0 : readNumber(tolerance.replace(/\s*%$/, ''));
      if (key !== '' && !readNumber(value).ok)
        return bad('This is not read as a number. Examples: 12, 1.5, 12.5 ± 0.5.');
      if (rest.length || (typeof amount !== 'number' && !(amount.ok && amount.value >= 0)))
        return bad('The tolerance is not read as a number. Examples: 12.5 ± 0.5, 200 ± 2 %.');
      const size = typeof amount === 'number' ? amount : amount.ok ? amount.value : 0;
      if (share && Number(value.replace(',', '.')) === 0)
        return bad('A share of 0 is 0: give the tolerance as an amount.');
      return {
        ok: true,
        content: {
          type: 'numeric',
          ...common,
          accepted: key
            ? [
                {
                  value: value.trim(),
                  tolerance: share ? { kind: 'relative', amount: size / 100 } : { kind: 'absolute', amount: size },
                  credit: 1,
                },
              ]
            : [],
        },
      };
    }
    case 'short-text': {
      const accepted = key
        .split('|')
        .map((text) => text.trim())
        .filter(Boolean)
        .map((text) => ({ text, credit: 1 }));
      if (accepted.some(({ text }) => text.length > 200)) return bad('An accepted answer has at most 200 characters.');
      return { ok: true, content: { type: 'short-text', ...common, accepted, matching: usualMatching } };
    }
    case 'written':
      if (key !== '') return bad('A free response is marked by hand: it has no key.');
      return {
        ok: true,
        content: {
          type: 'written',
          ...common,
          modelAnswer: { type: 'doc', content: [] },
          words: { least: null, most: null },
          onPaper: true,
        },
      };
  }
}

/** The labels of an item's choices, in order. */
export const choiceRow = ({ choices, start }: Pick<Item, 'choices' | 'start'>): string[] =>
  Array.from({ length: choices }, (_, i) => choiceLabel(start, i));

/** `ACD` where every label is one sign; else the part is one label. */
const splitLabels = (part: string, labels: readonly string[]): string[] =>
  part.length > 1 &&
  labels.every((label) => label.length === 1) &&
  !labels.some((label) => label.toLowerCase() === part.toLowerCase())
    ? [...part]
    : [part];

/** Whether a stored question of an item can be marked: it has a right answer, or a person marks it. */
export function isKeyed(content: QuestionContent): boolean {
  if (content.type === 'single-choice' || content.type === 'multiple-choice')
    return content.choices.some((choice) => choice.right);
  if (content.type === 'true-false') return typeof content.answer === 'boolean';
  return content.type !== 'numeric' || content.accepted.length > 0;
}

/** The item that a stored question and its place in the exam make; null for content that no item has made. */
export function itemOf(questionId: string, content: QuestionContent, points: number): Item | null {
  const label = richText(content.stem).replace(/^Item /, '');
  const base = { questionId, label, points, choices: 4, start: 'A' };
  switch (content.type) {
    case 'single-choice':
    case 'multiple-choice': {
      const labels = content.choices.map((choice) => richText(choice.content));
      const key = labels.filter((_, i) => content.choices[i]?.right).join(', ');
      return { ...base, type: content.type, choices: labels.length, start: labels[0] ?? 'A', key };
    }
    case 'true-false':
      return { ...base, type: content.type, key: content.answer === undefined ? '' : content.answer ? 'T' : 'F' };
    case 'numeric': {
      const [one] = content.accepted;
      if (!one) return { ...base, type: content.type, key: '' };
      const { kind, amount } = one.tolerance;
      const tolerance =
        amount === 0 ? '' : kind === 'relative' ? ` ± ${Number((amount * 100).toPrecision(12))} %` : ` ± ${amount}`;
      return { ...base, type: content.type, key: `${one.value}${tolerance}` };
    }
    case 'short-text':
      return { ...base, type: content.type, key: content.accepted.map((one) => one.text).join(' | ') };
    case 'written':
      return { ...base, type: content.type, key: '' };
    default:
      return null;
  }
}
