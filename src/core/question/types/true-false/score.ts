import { creditOf, type Scored } from '../../scored';
import type { TrueFalseContent } from './content';
import type { TrueFalseResponse } from './student';

export const scoreTrueFalse = (content: TrueFalseContent, response: TrueFalseResponse): Scored =>
  creditOf(response.picked === content.answer ? 1 : 0);

export const rightTrueFalse = (content: TrueFalseContent): TrueFalseResponse => ({ picked: content.answer });

export const trueFalseResponseText = (response: TrueFalseResponse): string => (response.picked ? 'True' : 'False');
