import { richText } from '../../../base/rich';
import { byHand, type Scored } from '../../scored';
import type { WrittenContent } from './content';
import type { WrittenText } from './student';

/** A written answer is always judged by a person. */
export const scoreWritten = (): Scored => byHand;

/** The model answer stands in for a right response where one is shown. */
export const rightWritten = (content: WrittenContent): WrittenText => ({ text: richText(content.modelAnswer) });

/** The text, and a line with the name of each file that was handed in. */
export const writtenInWords = ({ text, files }: WrittenText): string =>
  [text, ...(files ?? []).map((file) => `[file: ${file.name}]`)].filter(Boolean).join('\n');
