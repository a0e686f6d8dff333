import { creditOf, type Scored } from '../../scored';
import type { TrueFalseContent } from './content';
import type { TrueFalseResponse } from './student';

/** Credit 1 for judging it right, else 0. */
export const scoreTrueFalse = (content: TrueFalseContent, response: TrueFalseResponse): Scored =>
  creditOf(response.picked === content.answer ? 1 : 0);

/** The right judgement. */
export const rightTrueFalse = (content: TrueFalseContent): TrueFalseResponse => ({ picked: content.answer });

/**
 * The judgement in a word.
 *
 * @example trueFalseResponseText({ picked: true }) // "True"
 */
export const trueFalseResponseText = (response: TrueFalseResponse): string => (response.picked ? 'True' : 'False');
