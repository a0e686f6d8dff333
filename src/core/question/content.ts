import { z } from 'zod';
import { withMathInLine } from '../base/mathLine';
import { readRich, richText } from '../base/rich';
import { definitionOf, definitions, type QuestionContent } from './definitions';
import { kept } from './emptyParts';
import { type QuestionType, questionTypes } from './types';

export type { ContentOf, QuestionContent } from './definitions';

type Schema = (typeof definitions)[QuestionType]['schema'];

/** What one version of a question holds, whatever its type. */
export const questionContent = z.discriminatedUnion(
  'type',
  questionTypes.map((type) => definitions[type].schema) as unknown as [Schema, ...Schema[]],
);

/** A new question of a type. */
export const blankContent = (type: QuestionType): QuestionContent => definitionOf(type).blank();

/** The question's words, for lists, search and export; formulas as lines of text. */
export const contentText = (content: QuestionContent): string =>
  definitionOf(content.type).text(withMathInLine(content));

/**
 * All the words by which a question is found: its own, and where it shows no choices its accepted answers, order or model
 * answer.
 */
export function searchedText(content: QuestionContent): string {
  const { choices, answer } = definitionOf(content.type).columns(content);
  return choices.length > 0 ? contentText(content) : `${contentText(content)} ${answer}`;
}

/** The first line of the stem: what a list shows when a question has no short name. */
export const stemLine = (content: QuestionContent): string =>
  richText(withMathInLine(content.stem)).split('\n')[0] ?? '';

/** The most signs of a question's words in the name of what is unfinished. */
const longestNamed = 60;

/**
 * What is being typed into a question's sheet, in words: its short name, or else how its text begins.
 *
 * @param fields as typed, and perhaps no whole question yet
 * @example typedTitle({ shortName: 'Neaps' }) // 'The question Neaps'
 */
export function typedTitle({ shortName, content }: Readonly<Record<string, unknown>>): string {
  if (typeof shortName === 'string' && shortName.trim()) return `The question ${shortName.trim()}`;
  const stem = readRich((content as { stem?: unknown } | null | undefined)?.stem);
  const words = stem ? (richText(withMathInLine(stem)).split('\n')[0] ?? '') : '';
  if (words === '') return 'A question without words yet';
  return `The question “${words.length > longestNamed ? `${words.slice(0, longestNamed).trimEnd()} …` : words}”`;
}

/** A question without feedback fields that were opened and left empty, and conditions left blank. */
export function withoutEmptyParts(content: QuestionContent): QuestionContent {
  const feedback = Object.fromEntries(Object.entries(content.feedback).filter(([, rich]) => kept(rich)));
  return definitionOf(content.type).withoutEmptyParts({ ...content, feedback } as QuestionContent);
}
