import { z } from 'zod';

/** What an id names. */
export const things = [
  'attempt',
  'bank',
  'category',
  'column',
  'comment',
  'correction',
  'course',
  'exam',
  'file',
  'filter',
  'group',
  'import',
  'look',
  'membership',
  'note',
  'objective',
  'offer',
  'part',
  'passage',
  'question',
  'remark',
  'remarking',
  'reply',
  'round',
  'section',
  'session',
  'sheetPage',
  'sitting',
  'slot',
  'upload',
  'user',
  'version',
] as const;
/** One kind of thing that has ids of its own. */
export type Thing = (typeof things)[number];

/** Of which thing the ids are that a schema reads. */
export const idsOf = z.registry<{ thing: Thing }>();

/**
 * An id as it comes from outside: 1 to 60 characters, and nothing is believed of it but that it is one. It says what it
 * names, so that the tests of permissions can put one of another course in its place.
 *
 * @param ask what is said where none was given
 * @example id('slot').safeParse('').success // false
 */
export function id(thing: Thing, ask?: string) {
  const schema = z.string().min(1, ask).max(60);
  idsOf.add(schema, { thing });
  return schema;
}
