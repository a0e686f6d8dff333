import type { Rich } from '../../../base/rich';
import { asFields } from '../../readJson';
import type { TrueFalseContent } from './content';

export type TrueFalseView = { type: 'true-false'; stem: Rich };

export type TrueFalseResponse = { picked: boolean };

export const viewTrueFalse = (content: TrueFalseContent): TrueFalseView => ({ type: 'true-false', stem: content.stem });

export function readTrueFalseResponse(input: unknown): TrueFalseResponse | undefined | null {
  if (input === null || input === undefined) return undefined;
  const picked = asFields(input)?.picked;
  return typeof picked === 'boolean' ? { picked } : null;
}
