import { definitionOf, type QuestionContent, type QuestionResponse, type ViewOf } from './definitions';
import type { Presentation } from './presentation';
import type { QuestionType } from './types';
import { withValues } from './withValues';

export type { QuestionResponse, ResponseOf, ShownQuestion, ViewOf } from './definitions';

/**
 * The explicit projection for students: each type builds its view from what it names, nothing is deleted from a full
 * one. The values of the paper stand in the places of the variables.
 */
export const forStudent = <Content extends QuestionContent>(
  content: Content,
  presentation: Presentation,
): ViewOf<Content['type']> =>
  definitionOf(content.type).view(withValues(content, presentation), presentation) as ViewOf<Content['type']>;

/** Reads any JSON as a response to a question of the type: null is a refusal, undefined an empty response. */
export const readResponse = (type: QuestionType, input: unknown): QuestionResponse | undefined | null =>
  definitionOf(type).read(input);
