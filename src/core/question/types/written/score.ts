import { richText } from '../../../base/rich';
import type { Scored } from '../../scored';
import type { WrittenContent } from './content';
import type { WrittenText } from './student';

/** A written answer is always judged by a person. */
export const scoreWritten = (): Scored => ({ kind: 'by-hand' });

/** The model answer stands in for a right response where one is shown. */
export const rightWritten = (content: WrittenContent): WrittenText => ({ text: richText(content.modelAnswer) });
