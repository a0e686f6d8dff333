import { pointsText } from '../base/rounding';

/** What was typed or pasted as a score: points, nothing, or something that is none, with the reason. */
export type TypedScore = { kind: 'points'; points: number } | { kind: 'empty' } | { kind: 'wrong'; message: string };

const number = /^\+?(?:\d{1,7}(?:[.,]\d{0,9})?|[.,]\d{1,9})$/;

/**
 * Reads a score as people type it: with a point or a comma, never below 0.
 *
 * @example readScore('7,5') // { kind: 'points', points: 7.5 }
 */
export function readScore(typed: string): TypedScore {
  const text = typed.trim();
  if (text === '') return { kind: 'empty' };
  if (text.startsWith('=')) return { kind: 'wrong', message: 'A formula stands in this cell; put the number there.' };
  if (/^[-−–]\s*\d/.test(text)) return { kind: 'wrong', message: 'Points cannot be negative.' };
  if (!number.test(text)) return { kind: 'wrong', message: `“${text.slice(0, 40)}” is no number.` };
  return { kind: 'points', points: Number(text.replace(',', '.')) };
}

/**
 * What speaks against a score that is more than its column is worth: it may be meant, and is asked about first.
 *
 * @returns null where nothing does
 * @example aboveWorth(789, 10) // '789 is more than the 10 that this column is worth.'
 */
export const aboveWorth = (points: number | null, worth: number): string | null =>
  points !== null && points > worth
    ? `${pointsText(points)} is more than the ${pointsText(worth)} that this column is worth.`
    : null;
