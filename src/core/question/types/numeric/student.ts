import type { Rich } from '../../../base/rich';
import type { NumericContent } from './content';

export type NumericView = { type: 'numeric'; stem: Rich };

/** The text as it was typed; reading it as a number is the scorer's business, and the player's, who echoes it. */
export type NumericResponse = { text: string };

export const viewNumeric = (content: NumericContent): NumericView => ({ type: 'numeric', stem: content.stem });

export function readNumericResponse(input: unknown): NumericResponse | undefined | null {
  if (input === null || input === undefined) return undefined;
  if (typeof input !== 'object') return null;
  const text = (input as { text?: unknown }).text;
  if (typeof text !== 'string' || text.length > 200) return null;
  return text.trim() === '' ? undefined : { text };
}
