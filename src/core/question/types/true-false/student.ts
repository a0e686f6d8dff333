import type { Rich } from '../../../base/rich';
import { asFields } from '../../readJson';
import type { TrueFalseContent } from './content';

/** A statement as a student sees it. */
export type TrueFalseView = { type: 'true-false'; stem: Rich };

/** Whether it was called true. */
export type TrueFalseResponse = { picked: boolean };

/** Builds the student's view from nothing. */
export const viewTrueFalse = (content: TrueFalseContent): TrueFalseView => ({ type: 'true-false', stem: content.stem });

/** Reads any JSON: null unless it is a judgement, undefined where there is none. */
export function readTrueFalseResponse(input: unknown): TrueFalseResponse | undefined | null {
  if (input === null || input === undefined) return undefined;
  const picked = asFields(input)?.picked;
  return typeof picked === 'boolean' ? { picked } : null;
}
