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
