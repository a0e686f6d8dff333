import { pointsText } from './rounding';

/** The one or the other word, by how many there are. @example oneOrMany(1, 'is', 'are') // 'is' */
export const oneOrMany = (count: number, one: string, many = `${one}s`): string => (count === 1 ? one : many);

/**
 * A count with its word.
 *
 * @example counted(1, 'question') // '1 question'
 * @example counted(3, 'category', 'categories') // '3 categories'
 */
export const counted = (count: number, one: string, many?: string): string => `${count} ${oneOrMany(count, one, many)}`;

/** Points with their word. @example pointsSaid(2.5) // '2.5 points' */
export const pointsSaid = (points: number): string => `${pointsText(points)} ${oneOrMany(points, 'point')}`;

/**
 * Names one after the other, and of very many the first only.
 *
 * @example listed(['A', 'B', 'C', 'D'], 2) // 'A, B and 2 more'
 */
export const listed = (names: readonly string[], most = 8, between = ', '): string =>
  names.length <= most ? names.join(between) : `${names.slice(0, most).join(between)} and ${names.length - most} more`;

/** Lower case without accents, so that words are found however they are typed. @example folded('Café') // 'cafe' */
export const folded = (text: string): string => text.normalize('NFD').replace(/\p{M}/gu, '').toLowerCase();

/**
 * A text as the end of a sentence.
 *
 * @example ended('handed in late') // 'handed in late.'
 */
export const ended = (text: string): string => (/[.!?…]$/.test(text.trim()) ? text.trim() : `${text.trim()}.`);

/**
 * The beginning of a text as whole words, with a sign where there is more; a word that is too long by itself is cut.
 *
 * @param most how many characters there may be, the sign among them
 * @example shortened('Turn to starboard at once', 18) // 'Turn to starboard…'
 */
export function shortened(text: string, most: number): string {
  if (text.length <= most) return text;
  // Never half of a character.
  const start = [...text.slice(0, most)].slice(0, -1).join('');
  const isWhole = /\s/.test(text.charAt(start.length));
  const end = isWhole ? start.length : Math.max(...[' ', '\n', '\t'].map((space) => start.lastIndexOf(space)));
  return `${(start.slice(0, Math.max(end, 0)).trimEnd() || start).trimEnd()}…`;
}
