import { z } from 'zod';
import { id, type Thing } from '../base/id';
import { successRange } from '../question/successRange';
import { difficulties, questionTypes } from '../question/types';

/** In which order a list of questions stands. */
export const questionSorts = ['written', 'changed', 'name', 'type', 'difficulty', 'points', 'used', 'success'] as const;
/** One order in which a list of questions can stand. */
export type QuestionSort = (typeof questionSorts)[number];

const ids = (thing: Thing) => z.array(id(thing)).max(200);

/** What a list of a bank's questions is narrowed to. Within one property any of the values will do; properties add up. */
export const questionFilterSchema = z.object({
  /** Words that must all stand in the question or its name; the beginning of a word is enough. */
  text: z.string().max(200).default(''),
  /** Categories, each with everything below it unless `below` is off. */
  categories: ids('category').default([]),
  below: z.boolean().default(true),
  types: z.array(z.enum(questionTypes)).default([]),
  difficulties: z.array(z.enum([...difficulties, 'none'])).default([]),
  objectives: ids('objective').default([]),
  tags: z.array(z.string().min(1).max(60)).max(50).default([]),
  /** Whether it has stood on a paper: ever, never, or not within so many days. */
  used: z
    .union([z.enum(['any', 'ever', 'never']), z.object({ notWithinDays: z.number().int().min(1).max(10_000) })])
    .default('any'),
  /** Success rate in percent, inclusive. Questions without any rate are left out. */
  success: successRange.nullable().default(null),
  passage: z.boolean().default(false),
  /** Whether the retired questions are meant instead of those in use. */
  retired: z.boolean().default(false),
  sort: z.enum(questionSorts).default('written'),
  down: z.boolean().default(false),
});

/** A filter whose every property is filled in; one that names nothing lets everything through. */
export type QuestionFilter = z.output<typeof questionFilterSchema>;

/** The filter that lets every question through, in the order in which they were written. */
export const everyQuestion: QuestionFilter = questionFilterSchema.parse({});

/** Whether the filter narrows anything, leaving the order aside. */
export const isNarrowed = (filter: QuestionFilter): boolean =>
  JSON.stringify({ ...filter, below: true, sort: 'written', down: false }) !== JSON.stringify(everyQuestion);

type Query = Record<string, string | undefined>;

const list = (text: string | undefined) => (text ? text.split(',').filter(Boolean) : []);
const known = <T extends string>(texts: string[], all: readonly T[]): T[] =>
  texts.filter((text): text is T => (all as readonly string[]).includes(text));

/** Reads a filter from an address. What an address cannot mean is left out: it may be old, or typed by hand. */
export function filterFromQuery(query: Query): QuestionFilter {
  const [from, to] = (query.success ?? '').split('-').map(Number);
  const days = /^not-in-([0-9]{1,4})$/.exec(query.used ?? '')?.[1];
  const parsed = questionFilterSchema.safeParse({
    text: (query.find ?? '').slice(0, 200),
    categories: list(query.category),
    types: known(list(query.type), questionTypes),
    difficulties: known(list(query.difficulty), [...difficulties, 'none'] as const),
    objectives: list(query.objective),
    tags: list(query.tag).map(decode),
    used: days ? { notWithinDays: Number(days) } : query.used === 'ever' || query.used === 'never' ? query.used : 'any',
    success: from !== undefined && to !== undefined && from >= 0 && to <= 100 && from <= to ? { from, to } : null,
    passage: query.passage === 'yes',
    retired: query.retired === 'yes',
    sort: known([query.sort ?? ''], questionSorts)[0] ?? 'written',
    down: query.down === 'yes',
  });
  return parsed.success ? parsed.data : everyQuestion;
}

function decode(text: string): string {
  try {
    return decodeURIComponent(text);
  } catch {
    return text;
  }
}

/** The filter as it stands in an address; what is not narrowed is absent. An outline says by itself that it leaves out what lies below. */
export function filterToQuery(filter: QuestionFilter): Record<string, string> {
  const { used, success } = filter;
  const parts: [string, string][] = [
    ['find', filter.text],
    ['category', filter.categories.join(',')],
    ['type', filter.types.join(',')],
    ['difficulty', filter.difficulties.join(',')],
    ['objective', filter.objectives.join(',')],
    ['tag', filter.tags.map(encodeURIComponent).join(',')],
    ['used', typeof used === 'object' ? `not-in-${used.notWithinDays}` : used === 'any' ? '' : used],
    ['success', success ? `${success.from}-${success.to}` : ''],
    ['passage', filter.passage ? 'yes' : ''],
    ['retired', filter.retired ? 'yes' : ''],
    ['sort', filter.sort === 'written' ? '' : filter.sort],
    ['down', filter.down ? 'yes' : ''],
  ];
  return Object.fromEntries(parts.filter(([, text]) => text !== ''));
}

/**
 * A search as the full-text index takes it: every word as the beginning of a word, all of them wanted. Empty when there
 * is no word in it.
 *
 * @example fullTextQuery('tide height') // '"tide"* "height"*'
 */
export const fullTextQuery = (text: string): string =>
  (text.normalize('NFC').match(/[\p{L}\p{N}\p{M}]+/gu) ?? [])
    .slice(0, 12)
    .map((word) => `"${word}"*`)
    .join(' ');
