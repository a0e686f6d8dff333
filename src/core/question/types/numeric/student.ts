import type { Rich } from '../../../base/rich';
import { asFields } from '../../readJson';
import type { NumericContent } from './content';

/** `unit` says whether a unit belongs to the answer; names are sent only where the student picks from a list. */
export type NumericView = { type: 'numeric'; stem: Rich; unit: 'none' | 'typed' | string[] };

/** The text as it was typed; reading it as a number is the scorer's business, and the player's, who echoes it. */
export type NumericResponse = { text: string; unit?: string };

/** Builds the student's view from nothing. */
export const viewNumeric = (content: NumericContent): NumericView => ({
  type: 'numeric',
  stem: content.stem,
  unit: !content.units
    ? 'none'
    : content.units.entry === 'typed'
      ? 'typed'
      : content.units.list.map((unit) => unit.name),
});

/**
 * Reads any JSON: a text of at most 200 characters and a unit of at most 40; null where it is anything else, undefined where nothing was typed.
 */
export function readNumericResponse(input: unknown): NumericResponse | undefined | null {
  if (input === null || input === undefined) return undefined;
  const fields = asFields(input);
  if (!fields || typeof fields.text !== 'string' || fields.text.length > 200) return null;
  const { text, unit } = fields;
  if (unit !== undefined && (typeof unit !== 'string' || unit.length > 40)) return null;
  if (text.trim() === '') return undefined;
  return unit ? { text, unit } : { text };
}
