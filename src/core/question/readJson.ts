/** Small readers for what a browser sent as a response. They never throw, whatever the JSON is. */

export type Loose = { [name: string]: unknown };

/** The value as an object with fields, or null. Lists are no such objects. */
export const asFields = (input: unknown): Loose | null =>
  typeof input === 'object' && input !== null && !Array.isArray(input) ? (input as Loose) : null;

/** A key of a paper: a short text. */
export const asKey = (input: unknown): string | null =>
  typeof input === 'string' && input.length > 0 && input.length <= 40 ? input : null;

/** A list of different keys, at most so many; null when it is anything else. */
export function asKeys(input: unknown, most: number): string[] | null {
  if (!Array.isArray(input) || input.length > most) return null;
  const keys = input.map(asKey);
  if (keys.includes(null) || new Set(keys).size < keys.length) return null;
  return keys as string[];
}

/**
 * A record from short names to texts, at most so many entries and characters each; null when it is anything else. Names
 * that an object has of itself are refused.
 */
export function asTexts(input: unknown, most: number, longest: number): Record<string, string> | null {
  const fields = asFields(input);
  if (!fields) return null;
  const entries = Object.entries(fields);
  if (entries.length > most) return null;
  for (const [name, value] of entries)
    if (!/^[a-z0-9]{1,20}$/.test(name) || typeof value !== 'string' || value.length > longest) return null;
  return Object.fromEntries(entries) as Record<string, string>;
}
