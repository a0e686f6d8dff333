import type { ContentOf } from './content';
import type { Presentation } from './presentation';
import type { QuestionType } from './types';
import { type DateResponse, type DateView, readDateResponse, viewDate } from './types/date/student';
import { type GapFillResponse, type GapFillView, readGapFillResponse, viewGapFill } from './types/gap-fill/student';
import { type MatchingResponse, type MatchingView, readMatchingResponse, viewMatching } from './types/matching/student';
import {
  type MultipleChoiceResponse,
  type MultipleChoiceView,
  readMultipleChoiceResponse,
  viewMultipleChoice,
} from './types/multiple-choice/student';
import { type NumericResponse, type NumericView, readNumericResponse, viewNumeric } from './types/numeric/student';
import { type OrderingResponse, type OrderingView, readOrderingResponse, viewOrdering } from './types/ordering/student';
import {
  type RatingScaleResponse,
  type RatingScaleView,
  readRatingScale,
  viewRatingScale,
} from './types/rating-scale/student';
import { readShortText, type ShortTextResponse, type ShortTextView, viewShortText } from './types/short-text/student';
import {
  readSingleChoiceResponse,
  type SingleChoiceResponse,
  type SingleChoiceView,
  viewSingleChoice,
} from './types/single-choice/student';
import {
  readTrueFalseResponse,
  type TrueFalseResponse,
  type TrueFalseView,
  viewTrueFalse,
} from './types/true-false/student';
import { readWritten, viewWritten, type WrittenText, type WrittenView } from './types/written/student';
import { fillIn } from './variables/fillIn';

/** A question of each type as a student may see it before release. */
type Views = {
  'single-choice': SingleChoiceView;
  'multiple-choice': MultipleChoiceView;
  'true-false': TrueFalseView;
  'short-text': ShortTextView;
  numeric: NumericView;
  'gap-fill': GapFillView;
  matching: MatchingView;
  ordering: OrderingView;
  written: WrittenView;
  'rating-scale': RatingScaleView;
  date: DateView;
};

/** What a student enters for each type. */
type Responses = {
  'single-choice': SingleChoiceResponse;
  'multiple-choice': MultipleChoiceResponse;
  'true-false': TrueFalseResponse;
  'short-text': ShortTextResponse;
  numeric: NumericResponse;
  'gap-fill': GapFillResponse;
  matching: MatchingResponse;
  ordering: OrderingResponse;
  written: WrittenText;
  'rating-scale': RatingScaleResponse;
  date: DateResponse;
};

export type ViewOf<Type extends QuestionType> = Views[Type];
export type ResponseOf<Type extends QuestionType> = Responses[Type];
export type ShownQuestion = Views[QuestionType];
export type QuestionResponse = Responses[QuestionType];

const views: { [Type in QuestionType]: (content: ContentOf<Type>, presentation: Presentation) => ViewOf<Type> } = {
  'single-choice': viewSingleChoice,
  'multiple-choice': viewMultipleChoice,
  'true-false': viewTrueFalse,
  'short-text': viewShortText,
  numeric: viewNumeric,
  'gap-fill': viewGapFill,
  matching: viewMatching,
  ordering: viewOrdering,
  written: viewWritten,
  'rating-scale': viewRatingScale,
  date: viewDate,
};

/**
 * The explicit projection for students: each type builds its view from what it names, nothing is deleted from a full
 * one. The values of the paper then take the places of the variables.
 */
export function forStudent<Type extends QuestionType>(
  content: ContentOf<Type>,
  presentation: Presentation,
): ViewOf<Type> {
  const view = (views[content.type] as (content: ContentOf<Type>, presentation: Presentation) => ViewOf<Type>)(
    content,
    presentation,
  );
  if (view.type !== 'numeric' && view.type !== 'gap-fill') return view;
  const { variables } = content as ContentOf<'numeric' | 'gap-fill'>;
  if (!variables?.length) return view;
  const fill = (rich: typeof view.stem) => fillIn(rich, variables, presentation.values ?? {});
  if (view.type === 'numeric') return { ...view, stem: fill(view.stem) };
  return {
    ...view,
    stem: fill(view.stem),
    gaps: view.gaps.map((gap) =>
      gap.kind === 'pick'
        ? { ...gap, options: gap.options.map((option) => ({ ...option, content: fill(option.content) })) }
        : gap,
    ),
  };
}

const readers: { [Type in QuestionType]: (input: unknown) => ResponseOf<Type> | undefined | null } = {
  'single-choice': readSingleChoiceResponse,
  'multiple-choice': readMultipleChoiceResponse,
  'true-false': readTrueFalseResponse,
  'short-text': readShortText,
  numeric: readNumericResponse,
  'gap-fill': readGapFillResponse,
  matching: readMatchingResponse,
  ordering: readOrderingResponse,
  written: readWritten,
  'rating-scale': readRatingScale,
  date: readDateResponse,
};

/** Reads any JSON as a response to a question of the type: null is a refusal, undefined an empty response. */
export const readResponse = (type: QuestionType, input: unknown): QuestionResponse | undefined | null =>
  readers[type](input);
