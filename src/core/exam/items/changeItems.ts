import { z } from 'zod';
import { ok, type Problem, type Result, refused } from '../../base/result';
import { oneOrMany } from '../../base/words';
import { choiceLimits } from '../../question/choices';
import { type Item, itemContent, longestItemLabel, mostItems } from './item';
import { choiceRow, itemKinds, itemTypes } from './kinds';
import { readKeys } from './readKeys';

const place = z
  .number({ message: 'Give the number of an item.' })
  .int('A whole number.')
  .min(1, 'Items are counted from 1.')
  .max(mostItems, `At most ${mostItems} items.`);
const label = z
  .string()
  .trim()
  .min(1, 'An item needs a label.')
  .max(longestItemLabel, `At most ${longestItemLabel} characters.`);
const points = z
  .number({ message: 'Give the points as a number.' })
  .gt(0, 'Points must be more than 0.')
  .max(1_000, 'At most 1000 points for an item.');
const choices = z
  .number({ message: 'Say how many choices.' })
  .int('A whole number of choices.')
  .min(choiceLimits.fewest, 'An item needs at least two choices.')
  .max(choiceLimits.most, 'At most 20 choices.');
const start = z.string().regex(/^([A-Za-z]|1)$/, 'A letter to begin with, or 1.');
const range = { from: place, to: place };

/** One thing done to the items of an off-screen exam. Places count from 1. */
export const itemChange = z.discriminatedUnion('do', [
  /** Items that are not there yet are made, with their numbers as labels. */
  z.object({ do: z.literal('set'), ...range, type: z.enum(itemTypes), choices, start, points }),
  /** Labels a row of items: prefix and a number that counts up from `first`. */
  z.object({
    do: z.literal('label'),
    ...range,
    prefix: z.string().max(longestItemLabel - 4, 'A prefix has at most 16 characters.'),
    first: z.number({ message: 'Give the number to begin with.' }).int().min(0).max(99_999),
  }),
  /** Gives a key that was typed or pasted, from an item on. */
  z.object({ do: z.literal('keys'), from: place, text: z.string().max(200_000, 'At most 200,000 characters.') }),
  z.object({ do: z.literal('take-out'), ...range }),
  /** Makes room: so many new items like the one at the place, before it. */
  z.object({ do: z.literal('insert'), at: place, count: place }),
  /** What was typed into the rows of single items. */
  z.object({
    do: z.literal('each'),
    changes: z
      .array(
        z.object({
          at: place,
          label: label.optional(),
          key: z.string().max(2_000).optional(),
          points: points.optional(),
        }),
      )
      .min(1)
      .max(mostItems),
  }),
]);

/** One change to the items of an off-screen exam. */
export type ItemChange = z.output<typeof itemChange>;

/** The items of an off-screen exam after a change, or why it cannot be made; then none is changed. */
export function changeItems(items: readonly Item[], change: ItemChange): Result<Item[]> {
  const changed = changedItems(items, change);
  if (!changed.ok) return changed;
  if (changed.value.length > mostItems)
    return refused('bad-input', `An off-screen exam holds at most ${mostItems} items.`, 'count');
  const twice = firstTwice(changed.value);
  if (twice !== null)
    return refused('bad-input', `Two items would carry the label ${twice}. Give one of them another.`, 'label');
  return changed;
}

function changedItems(items: readonly Item[], change: ItemChange): Result<Item[]> {
  if ('to' in change && change.to < change.from)
    return refused('bad-input', 'The last item stands before the first.', 'to');
  const last = items.length;
  const known = (at: number, field: string) =>
    at > last
      ? refused('bad-input', last === 0 ? 'There are no items yet.' : `There are only ${last} items.`, field)
      : null;
  switch (change.do) {
    case 'set':
      return setItems(items, change);
    case 'keys': {
      const gone = known(change.from, 'from');
      if (gone) return gone;
      const read = readKeys(change.text, items, change.from - 1);
      if (read.problems.length)
        return {
          ok: false,
          problems: read.problems.map((message): Problem => ({ code: 'bad-input', message, field: 'text' })),
        };
      return ok(items.map((item, i) => ({ ...item, key: read.keys.get(i) ?? item.key })));
    }
    case 'label': {
      const gone = known(change.to, 'to');
      if (gone) return gone;
      return ok(
        items.map((item, i) =>
          i + 1 < change.from || i + 1 > change.to
            ? item
            : { ...item, label: `${change.prefix.trim()}${change.first + i + 1 - change.from}` },
        ),
      );
    }
    case 'take-out': {
      const gone = known(change.to, 'to');
      return gone ?? ok(numbered(items, [...items.slice(0, change.from - 1), ...items.slice(change.to)]));
    }
    case 'insert': {
      const like = items[change.at - 1];
      if (!like) return known(change.at, 'at') ?? refused('bad-input', 'There is no such item.', 'at');
      const fresh = Array.from({ length: change.count }, () => ({ ...like, questionId: '', key: '', label: '' }));
      return ok(numbered(items, [...items.slice(0, change.at - 1), ...fresh, ...items.slice(change.at - 1)]));
    }
    case 'each': {
      const next = [...items];
      for (const { at, label, key, points } of change.changes) {
        const item = next[at - 1];
        if (!item) return known(at, 'at') ?? refused('bad-input', 'There is no such item.', 'at');
        const own = {
          ...item,
          label: label ?? item.label,
          key: key?.trim() ?? item.key,
          points: points ?? item.points,
        };
        const read = itemContent(own);
        if (!read.ok) return refused('bad-input', `Item ${own.label}: ${read.message}`, `items.${at}`);
        next[at - 1] = own;
      }
      return ok(next);
    }
  }
}

function setItems(items: readonly Item[], change: Extract<ItemChange, { do: 'set' }>): Result<Item[]> {
  const last = items.length;
  if (change.from > last + 1)
    return refused('bad-input', `There are only ${last} items: the next is ${last + 1}.`, 'from');
  const { type, points } = change;
  const shape = { type, points, choices: change.choices, start: change.start };
  const made = Array.from({ length: Math.max(0, change.to - last) }, (_, i) => ({
    ...shape,
    questionId: '',
    key: '',
    label: String(last + i + 1),
  }));
  const taken = new Set(items.map((item) => item.label));
  const set = items.map((item, i) => {
    if (i + 1 < change.from || i + 1 > change.to) return item;
    // A question keeps its type for good: an item of another type is another question.
    const next = { ...item, ...shape, questionId: item.type === type ? item.questionId : '' };
    const moved = itemKinds[type].hasChoices && itemKinds[item.type].hasChoices ? keyMoved(item, next) : item.key;
    const read = itemContent({ ...next, key: moved });
    return { ...next, key: read.ok ? moved : '' };
  });
  return ok([...set, ...made.map((item) => ({ ...item, label: freeLabel(item.label, taken) }))]);
}

/** A key names places: under other labels it is written otherwise, and with a place that is gone it is gone. */
function keyMoved(before: Item, after: Item): string {
  const read = itemContent(before);
  if (!read.ok || !('choices' in read.content)) return '';
  const places = read.content.choices.flatMap((choice, i) => (choice.right ? [i] : []));
  const row = choiceRow(after);
  return places.some((one) => one >= row.length) ? '' : places.map((one) => row[one]).join(', ');
}

function freeLabel(wanted: string, taken: Set<string>): string {
  let label = wanted;
  for (let n = 2; taken.has(label); n++) label = `${wanted}-${n}`;
  taken.add(label);
  return label;
}

/** Items that are called by their numbers are called by their new numbers; those with a label of their own keep it. */
function numbered(before: readonly Item[], after: Item[]): Item[] {
  const plain = new Set(before.filter((item, i) => item.label === String(i + 1)));
  const own = new Set(after.filter((item) => item.label !== '' && !plain.has(item)).map((item) => item.label));
  return after.map((item, i) =>
    item.label === '' || plain.has(item) ? { ...item, label: freeLabel(String(i + 1), own) } : item,
  );
}

function firstTwice(items: readonly Item[]): string | null {
  const seen = new Set<string>();
  for (const { label } of items) {
    if (seen.has(label)) return label;
    seen.add(label);
  }
  return null;
}

/** What a change would take away, in words, for a decision before it is made; null where nothing is lost. */
export function lossOf(items: readonly Item[], change: ItemChange): string | null {
  const after = changeItems(items, change);
  if (!after.ok) return null;
  const keyed = (list: readonly Item[]) => list.filter((item) => item.key !== '').length;
  if (change.do === 'take-out') {
    const gone = items.slice(change.from - 1, change.to);
    const keys = keyed(gone);
    const them = oneOrMany(gone.length, 'it', 'them');
    return `${many(gone.length, 'item goes', 'items go')}${keys ? `, ${many(keys, 'right answer', 'right answers')} with ${them}` : ''}. Papers that hold ${them} keep ${them}.`;
  }
  const changed = items.filter((item, i) => item.key !== '' && after.value[i]?.key !== item.key);
  if (change.do === 'set') {
    const lost = items.filter((item, i) => item.key !== '' && after.value[i]?.key === '').length;
    return lost ? `${many(lost, 'right answer does', 'right answers do')} not fit any more and would be gone.` : null;
  }
  if (change.do !== 'keys' || changed.length === 0) return null;
  return `${many(changed.length, 'right answer is', 'right answers are')} replaced by another.`;
}

const many = (count: number, one: string, more: string) => (count === 1 ? `One ${one}` : `${count} ${more}`);
