import type { z } from 'zod';
import type { QuestionTypeDefinition } from './defineQuestionType';
import { type QuestionType, questionTypes } from './types';
import { date } from './types/date/definition';
import { gapFill } from './types/gap-fill/definition';
import { matching } from './types/matching/definition';
import { multipleChoice } from './types/multiple-choice/definition';
import { numeric } from './types/numeric/definition';
import { ordering } from './types/ordering/definition';
import { ratingScale } from './types/rating-scale/definition';
import { shortText } from './types/short-text/definition';
import { singleChoice } from './types/single-choice/definition';
import { trueFalse } from './types/true-false/definition';
import { written } from './types/written/definition';

/** Every question type by its name: the one list of them. */
export const definitions = {
  'single-choice': singleChoice,
  'multiple-choice': multipleChoice,
  'true-false': trueFalse,
  'short-text': shortText,
  numeric,
  'gap-fill': gapFill,
  matching,
  ordering,
  written,
  'rating-scale': ratingScale,
  date,
} satisfies Record<QuestionType, unknown>;

type Definitions = typeof definitions;

// A name without its definition is nothing here, so that the compiler complains of that and not of everything.
type Defined<Type extends QuestionType> = Type extends keyof Definitions ? Definitions[Type] : never;

/** What one version of a question of a type holds. */
export type ContentOf<Type extends QuestionType> = z.output<Defined<Type>['schema']>;
/** A question of a type as a student may see it before release. */
export type ViewOf<Type extends QuestionType> = ReturnType<Defined<Type>['view']>;
/** What a student enters for a question of a type; never empty. */
export type ResponseOf<Type extends QuestionType> = NonNullable<ReturnType<Defined<Type>['read']>>;

/** What one version of a question holds. Once frozen it never changes. */
export type QuestionContent = { [Type in QuestionType]: ContentOf<Type> }[QuestionType];
/** A question as a student may see it before release. */
export type ShownQuestion = { [Type in QuestionType]: ViewOf<Type> }[QuestionType];
/** What a student enters. */
export type QuestionResponse = { [Type in QuestionType]: ResponseOf<Type> }[QuestionType];

/** What lists and menus call each type. */
export const questionTypeNames = Object.fromEntries(
  Object.entries(definitions).map(([type, { name }]) => [type, name]),
) as Record<QuestionType, string>;

/** Types whose answers may wait for a person. */
export const typesMarkedByHand: QuestionType[] = questionTypes.filter((type) => definitions[type].mayWaitForMark);

type AnyDefinition = QuestionTypeDefinition<z.ZodType<QuestionContent>, ShownQuestion, QuestionResponse>;

/**
 * The definition of a type that is known only when it runs. Its members take the contents and responses of that type: the
 * one place where the compiler is told so.
 */
export const definitionOf = (type: QuestionType): AnyDefinition => definitions[type] as unknown as AnyDefinition;
