import { richText } from '../../base/rich';
import type { QuestionContent } from '../../question/content';
import { type ItemShape, type ItemType, itemFields, itemKinds, type ReadKey } from './kinds';

/** The most items an off-screen exam can hold. */
export const mostItems = 2_000;
/** The most characters of what an item is called. */
export const longestItemLabel = 20;

/** An item of an off-screen exam as its composer works with it. */
export type Item = ItemShape & {
  /** The question that stands behind it; empty while it is not stored. */
  questionId: string;
  /** What stands beside the question on paper: 12, 2a, B3. */
  label: string;
  type: ItemType;
  /**
   * The right answer as it is written in a key: `C`; `A, C`; `T` or `F`; `12.5`, `12.5 ± 0.5`, `12.5 ± 2 %`; accepted texts
   * with `|` between them. Empty while it is not known, and for a short text that is marked by hand. Of a free response the
   * levels by which it is marked, `0, 1, 2`; empty where it gets any points.
   */
  key: string;
  points: number;
};

type ReadItem = { ok: true; content: QuestionContent } | { ok: false; message: string };

type AnyKind = {
  read: (key: string, item: ItemShape) => ReadKey<ItemType>;
  isKeyed: (content: QuestionContent) => boolean;
  write: (content: QuestionContent) => Partial<ItemShape> & { key: string };
};

/** The kind of item that a question of a type can stand behind, if there is one. */
const kindOf = (type: string): AnyKind | null =>
  Object.hasOwn(itemKinds, type) ? (itemKinds[type as ItemType] as unknown as AnyKind) : null;

/**
 * The content of the question behind an item. Without a key it is content all the same, but none that may stand on a paper:
 * it has no right answer, and {@link isKeyed} says so.
 *
 * @returns why the key cannot be read, where it cannot
 */
export function itemContent(item: Pick<Item, 'label' | 'type' | 'choices' | 'start' | 'key'>): ReadItem {
  const read = (kindOf(item.type) as AnyKind).read(item.key.trim(), item);
  return read.ok ? { ok: true, content: { ...itemFields(item.label), ...read.content } as QuestionContent } : read;
}

/** Whether a stored question of an item can be marked: it has a right answer, or a person marks it. */
export const isKeyed = (content: QuestionContent): boolean => kindOf(content.type)?.isKeyed(content) ?? true;

/** The item that a stored question and its place in the exam make; null for content that no item has made. */
export function itemOf(questionId: string, content: QuestionContent, points: number): Item | null {
  const kind = kindOf(content.type);
  if (!kind) return null;
  const label = richText(content.stem).replace(/^Item /, '');
  return { questionId, label, points, choices: 4, start: 'A', type: content.type as ItemType, ...kind.write(content) };
}
