import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { seededRandom } from '../../base/random';
import type { Result } from '../../base/result';
import { questionContent } from '../../question/content';
import { present, rightResponse, scoreResponse } from '../../question/score';
import { changeItems, type ItemChange, itemChange, lossOf } from './changeItems';
import { type Item, isKeyed, itemContent, itemOf, mostItems } from './item';
import { choiceRow, itemTypes } from './kinds';
import { readKeys } from './readKeys';

const item = (fields: Partial<Item> = {}): Item => ({
  questionId: '',
  label: '1',
  type: 'single-choice',
  choices: 4,
  start: 'A',
  key: '',
  points: 1,
  ...fields,
});

const items = (count: number, fields: Partial<Item> = {}) =>
  Array.from({ length: count }, (_, i) => item({ label: String(i + 1), questionId: `q${i + 1}`, ...fields }));

const set = (from: number, to: number, more: Partial<Extract<ItemChange, { do: 'set' }>> = {}): ItemChange => ({
  do: 'set',
  from,
  to,
  type: 'single-choice',
  choices: 4,
  start: 'A',
  points: 1,
  ...more,
});

const must = (result: Result<Item[]>): Item[] => {
  if (!result.ok) throw new Error(result.problems[0]?.message);
  return result.value;
};
const refusal = (result: Result<unknown>) => (result.ok ? null : result.problems[0]?.message);

describe('the question behind an item', () => {
  test('has the choices of the item as they are labelled on paper, never shuffled', () => {
    const read = itemContent(item({ label: '2a', choices: 5, start: 'F', key: 'h' }));
    expect(read.ok && isKeyed(read.content)).toBe(true);
    if (!read.ok || read.content.type !== 'single-choice') throw new Error('a single choice');
    expect(read.content.shuffle).toBe(false);
    expect(itemOf('q', read.content, 2)).toEqual(
      item({ questionId: 'q', label: '2a', choices: 5, start: 'F', key: 'H', points: 2 }),
    );
  });

  test.each([
    ['single-choice', 'E', '“E” is none of its choices, A to D.'],
    ['single-choice', 'A, B', 'It has one right choice, and the key names several.'],
    ['true-false', 'maybe', 'The key of an item that is true or false is T or F.'],
    ['numeric', 'twelve', 'This is not read as a number. Examples: 12, 1.5, 12.5 ± 0.5.'],
    ['numeric', '12 ± some', 'The tolerance is not read as a number. Examples: 12.5 ± 0.5, 200 ± 2 %.'],
    ['numeric', '0 ± 2 %', 'A share of 0 is 0: give the tolerance as an amount.'],
    ['written', 'C', 'A free response is marked by hand: it has no key. Its levels are numbers, such as 0, 1, 2.'],
    ['written', '3', 'A free response has two to ten levels.'],
    ['written', '0, 2, 1', 'Levels rise, from the lowest to the one that earns all the points.'],
  ] as const)('refuses a key that a %s item cannot have: %s', (type, key, message) => {
    expect(itemContent(item({ type, key }))).toEqual({ ok: false, message });
  });

  test('of a free response holds the levels by which it is marked, in the proportion in which they count', () => {
    const levels = item({ type: 'written', key: '0, 0.5, 2, 4', points: 3 });
    const read = itemContent(levels);
    if (!read.ok || read.content.type !== 'written') return expect.fail('not read');
    expect(questionContent.safeParse(read.content).success).toBe(true);
    expect(read.content.rubric?.criteria[0]?.levels.map((one) => one.share)).toEqual([0, 0.125, 0.5, 1]);
    expect(itemOf('q', read.content, 3)?.key).toBe('0, 0.5, 2, 4');
    // A list of keys passes it over, unless a line names it.
    const others = ['1', '3'].map((label) => item({ label, type: 'true-false' }));
    const items = [others[0] as Item, item({ label: '2', type: 'written' }), others[1] as Item];
    expect([...readKeys('TF', items, 0).keys]).toEqual([
      [0, 'T'],
      [2, 'F'],
    ]);
    expect([...readKeys('1 T\n2 0, 1, 2', items, 0).keys]).toEqual([
      [0, 'T'],
      [1, '0, 1, 2'],
    ]);
  });

  test('without a key it is kept, and no paper can be made of it', () => {
    const keyed = (type: Item['type']) => {
      const read = itemContent(item({ type }));
      return read.ok && isKeyed(read.content);
    };
    const stored = (type: Item['type']) => {
      const read = itemContent(item({ type }));
      return read.ok && questionContent.safeParse(read.content).success;
    };
    expect(itemTypes.map(stored)).toEqual(itemTypes.map(keyed));
    expect(itemTypes.filter((type) => !keyed(type))).toEqual([
      'single-choice',
      'multiple-choice',
      'true-false',
      'numeric',
    ]);
  });

  test('a free response is never empty: it waits for a person though nothing was entered', () => {
    const read = itemContent(item({ type: 'written' }));
    if (!read.ok) throw new Error(read.message);
    expect(scoreResponse(read.content, {}, undefined)).toEqual({ kind: 'by-hand' });
  });

  const anyItem = fc
    .record({
      type: fc.constantFrom(...itemTypes),
      choices: fc.integer({ min: 2, max: 20 }),
      start: fc.constantFrom('A', 'a', 'F', 'k', '1'),
      label: fc.constantFrom('1', '2a', 'B 3', '120'),
      places: fc.uniqueArray(fc.nat(19), { minLength: 1, maxLength: 5 }),
      number: fc.integer({ min: -9999, max: 9999 }),
      tolerance: fc.constantFrom('', ' ± 0.5', ' ± 2 %'),
      truth: fc.boolean(),
    })
    .map(({ places, number, tolerance, truth, ...fields }): Item => {
      const row = choiceRow(fields);
      const picked = [...new Set(places.map((one) => one % fields.choices))]
        .sort((a, b) => a - b)
        .map((one) => row[one] as string);
      const key = {
        'single-choice': picked[0] as string,
        'multiple-choice': picked.join(', '),
        'true-false': truth ? 'T' : 'F',
        numeric: `${number || 7}${tolerance}`,
        'short-text': 'port | larboard',
        written: '',
      }[fields.type];
      return item({ ...fields, questionId: 'q', key });
    });

  test('says the same as the item it was made of, and its own key earns full marks', () => {
    fc.assert(
      fc.property(anyItem, (one) => {
        const read = itemContent(one);
        if (!read.ok) throw new Error(read.message);
        const back = itemOf('q', read.content, one.points);
        expect(back).toEqual(
          ['single-choice', 'multiple-choice'].includes(one.type) ? one : { ...one, choices: 4, start: 'A' },
        );
        if (one.type === 'written') return;
        const presentation = present(read.content, seededRandom('paper', '1'));
        expect(scoreResponse(read.content, presentation, rightResponse(read.content, presentation))).toEqual({
          kind: 'credit',
          credit: 1,
        });
      }),
    );
  });
});

describe('setting items in bulk', () => {
  test('makes those that are not there yet and changes those that are', () => {
    const first = must(changeItems([], set(1, 60)));
    expect(first).toHaveLength(60);
    expect(first[59]).toEqual(item({ label: '60' }));
    const then = must(changeItems(first, set(41, 62, { type: 'numeric', points: 2 })));
    expect(then).toHaveLength(62);
    expect(then.slice(38, 41).map((one) => [one.label, one.type, one.points])).toEqual([
      ['39', 'single-choice', 1],
      ['40', 'single-choice', 1],
      ['41', 'numeric', 2],
    ]);
  });

  test('leaves a key that still fits where it is, under the new labels, and takes away one that does not', () => {
    const keyed = [item({ label: '1', key: 'B' }), item({ label: '2', key: 'D' })];
    expect(must(changeItems(keyed, set(1, 2, { choices: 3, start: '1' }))).map((one) => one.key)).toEqual(['2', '']);
  });

  test('an item of another type is another question; one of the same type stays the same', () => {
    const two = items(2);
    expect(must(changeItems(two, set(1, 1, { choices: 5 }))).map((one) => one.questionId)).toEqual(['q1', 'q2']);
    expect(must(changeItems(two, set(2, 2, { type: 'true-false' }))).map((one) => one.questionId)).toEqual(['q1', '']);
  });

  test.each([
    [set(5, 9), 'There are only 2 items: the next is 3.'],
    [set(2, 1), 'The last item stands before the first.'],
    [{ do: 'take-out', from: 2, to: 3 }, 'There are only 2 items.'],
    [{ do: 'keys', from: 1, text: 'AXQ' }, 'Item 2: “X” is none of its choices, A to D.'],
    [{ do: 'keys', from: 1, text: 'ABC' }, 'The key goes on after the last item: “C” belongs to none.'],
    [{ do: 'keys', from: 1, text: ' ' }, 'Type or paste the right answers.'],
    [{ do: 'each', changes: [{ at: 1, label: '2' }] }, 'Two items would carry the label 2. Give one of them another.'],
    [{ do: 'each', changes: [{ at: 1, key: 'Z' }] }, 'Item 1: “Z” is none of its choices, A to D.'],
    [{ do: 'insert', at: 1, count: mostItems - 1 }, `An off-screen exam holds at most ${mostItems} items.`],
  ] as [ItemChange, string][])('refuses %o and changes nothing', (change, message) => {
    const before = items(2);
    expect(refusal(changeItems(before, change))).toBe(message);
    expect(before).toEqual(items(2));
  });

  test('numbers items anew when some go or come, and leaves labels that someone gave', () => {
    const four = must(changeItems(items(4), { do: 'each', changes: [{ at: 3, label: '2a' }] }));
    const fewer = must(changeItems(four, { do: 'take-out', from: 1, to: 1 }));
    expect(fewer.map((one) => [one.questionId, one.label])).toEqual([
      ['q2', '1'],
      ['q3', '2a'],
      ['q4', '3'],
    ]);
    const more = must(changeItems(four, { do: 'insert', at: 2, count: 2 }));
    expect(more.map((one) => [one.questionId, one.label])).toEqual([
      ['q1', '1'],
      ['', '2'],
      ['', '3'],
      ['q2', '4'],
      ['q3', '2a'],
      ['q4', '6'],
    ]);
  });

  test('labels a row of items', () => {
    const labelled = must(changeItems(items(4), { do: 'label', from: 2, to: 3, prefix: 'B', first: 7 }));
    expect(labelled.map((one) => one.label)).toEqual(['1', 'B7', 'B8', '4']);
  });

  test.each([
    [{ ...set(1, 2), choices: 1 }, 'An item needs at least two choices.'],
    [{ ...set(1, 2), choices: 21 }, 'At most 20 choices.'],
    [{ ...set(1, 2), points: 0 }, 'Points must be more than 0.'],
    [{ ...set(1, 2), points: 1e9 }, 'At most 1000 points for an item.'],
    [set(1, mostItems + 1), 'At most 2000 items.'],
    [set(0, 1), 'Items are counted from 1.'],
  ])('bad input is refused: %o', (input, message) => {
    expect(itemChange.safeParse(input).error?.issues[0]?.message).toBe(message);
  });
});

describe('what a change would take away', () => {
  const keyed = [item({ label: '1', questionId: 'q1', key: 'B' }), item({ label: '2', questionId: 'q2', key: 'D' })];
  test.each([
    [{ do: 'take-out', from: 1, to: 2 }, '2 items go, 2 right answers with them. Papers that hold them keep them.'],
    [set(1, 2, { choices: 3 }), 'One right answer does not fit any more and would be gone.'],
    [set(1, 2, { choices: 5 }), null],
    [set(1, 2, { start: '1' }), null],
    [set(1, 2, { type: 'true-false' }), '2 right answers do not fit any more and would be gone.'],
    [set(3, 9), null],
    [{ do: 'keys', from: 1, text: 'BA' }, 'One right answer is replaced by another.'],
    [{ do: 'insert', at: 1, count: 3 }, null],
  ] as [ItemChange, string | null][])('%o', (change, loss) => {
    expect(lossOf(keyed, change)).toBe(loss);
  });
});

describe('reading a key', () => {
  const keysOf = (text: string, over: readonly Item[], from = 0) => {
    const { keys, problems } = readKeys(text, over, from);
    return { keys: [...keys].map(([at, key]) => `${over[at]?.label}=${key}`).join(' '), problems };
  };

  test.each([
    ['ABDCA', '1=A 2=B 3=D 4=C 5=A'],
    ['AB DC\nA', '1=A 2=B 3=D 4=C 5=A'],
    ['a, b, d, c, a', '1=a 2=b 3=d 4=c 5=a'],
    ['AB-CA', '1=A 2=B 4=C 5=A'],
    ['1 A\n3: D\n5) C', '1=A 3=D 5=C'],
  ])('%j', (text, keys) => {
    expect(keysOf(text, items(5))).toEqual({ keys, problems: [] });
  });

  test('a comma between digits of a number is a decimal one, between numerals it parts answers', () => {
    expect(keysOf('12,5 13,7', items(2, { type: 'numeric' })).keys).toBe('1=12,5 2=13,7');
    expect(keysOf('1,2,4', items(3, { start: '1' })).keys).toBe('1=1 2=2 3=4');
  });

  test('begins where it is told to', () => {
    expect(keysOf('CD', items(5), 3).keys).toBe('4=C 5=D');
  });

  test('follows kinds that are mixed; what is marked by hand is passed over', () => {
    const mixed = [
      item({ label: '1' }),
      item({ label: '2', type: 'true-false' }),
      item({ label: '3', type: 'written' }),
      item({ label: '4', type: 'multiple-choice' }),
      item({ label: '5', type: 'numeric' }),
      item({ label: '6', type: 'short-text' }),
    ];
    expect(keysOf('B\nT\nAC\n12.5 ± 0.5\nport side | larboard', mixed)).toEqual({
      keys: '1=B 2=T 4=AC 5=12.5±0.5 6=port side | larboard',
      problems: [],
    });
    expect(keysOf('2: false\n5 = 3/4', mixed).keys).toBe('2=false 5=3/4');
  });

  test('says of every item what cannot be read, and stops counting at twenty', () => {
    const { problems } = keysOf('X'.repeat(30), items(30));
    expect(problems).toHaveLength(21);
    expect(problems[0]).toBe('Item 1: “X” is none of its choices, A to D.');
  });

  test('an item named twice is a mistake', () => {
    expect(keysOf('1 A\n1 B', items(2)).problems).toEqual(['Item 1 is named twice.']);
  });

  test('a key of any letters, given as one run, comes back as it was', () => {
    fc.assert(
      fc.property(fc.array(fc.constantFrom('A', 'B', 'C', 'D'), { minLength: 2, maxLength: 200 }), (letters) => {
        const over = items(letters.length);
        const { keys, problems } = readKeys(letters.join(''), over, 0);
        expect(problems).toEqual([]);
        expect(over.map((_, i) => keys.get(i))).toEqual(letters);
      }),
    );
  });
});
