/** How a list of people is sorted: by the first name, as people say it, or by the last. */
export const nameOrders = ['first', 'last'] as const;
/** How a list of people is sorted. */
export type NameOrder = (typeof nameOrders)[number];

/** A name as it is said, and the part of it by which it is sorted; empty where nobody has said which. */
export type Named = { name: string; lastName: string };

/**
 * The part of a name by which it is sorted: what was said, or else the last word with the small words right before it.
 *
 * @example lastNameOf({ name: 'Ida van der Berg', lastName: '' }) // 'van der Berg'
 */
export function lastNameOf({ name, lastName }: Named): string {
  if (lastName) return lastName;
  const words = name.split(' ');
  let from = words.length - 1;
  while (from > 1 && /^\p{Ll}/u.test(words[from - 1] ?? '')) from -= 1;
  return words.slice(from).join(' ');
}

/**
 * A name as it stands in a list sorted in this order.
 *
 * @example nameInList({ name: 'Mia Lind', lastName: '' }, 'last') // 'Lind, Mia'
 */
export function nameInList(person: Named, order: NameOrder): string {
  if (order === 'first') return person.name;
  const last = lastNameOf(person);
  if (last === person.name) return last;
  const rest = person.name.endsWith(` ${last}`)
    ? person.name.slice(0, -last.length - 1)
    : person.name.startsWith(`${last} `)
      ? person.name.slice(last.length + 1)
      : person.name;
  return `${last}, ${rest}`;
}

const collator = new Intl.Collator('en', { sensitivity: 'base', numeric: true });

/** People sorted by name: by the first as they came, which is how they are kept. The array given stays as it is. */
export const sortedByName = <T extends Named>(people: readonly T[], order: NameOrder): T[] =>
  order === 'first'
    ? [...people]
    : people
        .map((one) => ({ one, at: nameInList(one, order) }))
        .sort((a, b) => collator.compare(a.at, b.at))
        .map(({ one }) => one);

/** The same, each with the name as it then stands in the list. */
export const inNameOrder = <T extends Named>(people: readonly T[], order: NameOrder): T[] =>
  sortedByName(people, order).map((one) => ({ ...one, name: nameInList(one, order) }));

/** Letters and digits without the marks on them, in small letters. */
const bare = (text: string): string => text.normalize('NFKD').replace(/\p{M}/gu, '').toLowerCase();

const wordsOf = (name: string): string[] => bare(name).match(/[\p{L}\p{N}]+/gu) ?? [];

/**
 * Whether two spellings may be one person's name: all words of the shorter one stand in the longer one, whatever their
 * order, their capitals and the marks on their letters.
 *
 * @example mayBeSameName('Lind, Mia', 'Mia K. Lind') // true
 */
export function mayBeSameName(a: string, b: string): boolean {
  const [shorter = [], longer = []] = [wordsOf(a), wordsOf(b)].sort((x, y) => x.length - y.length);
  return shorter.length > 0 && shorter.every((word) => longer.includes(word));
}

/** What somebody types to sign in, as it is compared. */
export const tidySignInName = (typed: string): string => typed.trim().normalize('NFKC').toLowerCase();

/**
 * A name to sign in with, made of a person's name.
 *
 * @example signInNameFrom('Zoë van Dijk') // 'zoe.van.dijk'
 */
export const signInNameFrom = (name: string): string => tidySignInName(wordsOf(name).join('.')).slice(0, 60);
