import { type Random, randomName, shuffled } from '../base/random';

/** One item of a list as a paper shows it: the random key that the browser learns, and the id it stands for. */
export type ShownItem = { key: string; id: string };

/**
 * What one paper fixed about a question: the order of its choices (or prompts, items), the order of each further list
 * (options of a gap or of a matching), and the values of its variables. Stored with the paper, never derived again. The
 * keys are random per paper, so that they tell nothing.
 */
export type Presentation = {
  choices?: ShownItem[];
  lists?: Record<string, ShownItem[]>;
  values?: Record<string, number>;
  /** How choices are labelled on this paper; absent: from A on. */
  labels?: string;
};

/** What an exam says about the look of its questions. */
export type PaperSetting = { choices?: 'as-written'; labels?: string };

/** Lays items out in an order: shuffled where allowed, pinned ones staying in their places. */
export function layOut(
  items: readonly { id: string; pinned?: boolean }[],
  shuffle: boolean,
  random: Random,
): ShownItem[] {
  const order = shuffled(
    items.filter((item) => shuffle && !item.pinned),
    random,
  );
  const used = new Set<string>();
  return items.map((item) => {
    const shown = shuffle && !item.pinned ? (order.shift() ?? item) : item;
    let key = randomName(random, 6);
    while (used.has(key)) key = randomName(random, 6);
    used.add(key);
    return { key, id: shown.id };
  });
}

/** The id that a key stands for on a paper, or undefined for a key that is not on it. */
export const idOf = (shown: readonly ShownItem[] | undefined, key: string | undefined): string | undefined =>
  shown?.find((item) => item.key === key)?.id;

/** The key under which a paper shows an id; empty when it does not. */
export const keyOf = (shown: readonly ShownItem[] | undefined, id: string | undefined): string =>
  shown?.find((item) => item.id === id)?.key ?? '';
