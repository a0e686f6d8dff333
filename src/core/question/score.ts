import type { Random } from '../base/random';
import type { ContentOf, QuestionContent } from './content';
import type { PaperSetting, Presentation } from './presentation';
import { byHand, creditOf, type Scored } from './scored';
import { settle } from './settle';
import { type QuestionResponse, type ResponseOf, readResponse } from './student';
import type { QuestionType } from './types';
import { dateResponseText, rightDate, scoreDate } from './types/date/score';
import { gapFillResponseText, presentGapFill, rightGapFill, scoreGapFill } from './types/gap-fill/score';
import { matchingResponseText, presentMatching, rightMatching, scoreMatching } from './types/matching/score';
import { multipleChoiceResponseText, rightMultipleChoice, scoreMultipleChoice } from './types/multiple-choice/score';
import { numericResponseText, rightNumber, scoreNumeric } from './types/numeric/score';
import { orderingResponseText, presentOrdering, rightOrdering, scoreOrdering } from './types/ordering/score';
import { ratingScaleResponseText, rightRatingScale, scoreRatingScale } from './types/rating-scale/score';
import { rightShortText, scoreShortText } from './types/short-text/score';
import {
  presentChoices,
  rightSingleChoice,
  scoreSingleChoice,
  singleChoiceResponseText,
} from './types/single-choice/score';
import { rightTrueFalse, scoreTrueFalse, trueFalseResponseText } from './types/true-false/score';
import { rightWritten, scoreWritten, writtenInWords } from './types/written/score';
import { drawValues, planValues } from './variables/drawValues';

/** What each type says about one of its questions on one paper. The content has the paper's values in it. */
type Scoring<Type extends QuestionType> = {
  /** What may differ between papers; absent where nothing does. */
  present?: (content: ContentOf<Type>, random: Random) => Presentation;
  score: (content: ContentOf<Type>, presentation: Presentation, response: ResponseOf<Type>) => Scored;
  right: (content: ContentOf<Type>, presentation: Presentation) => ResponseOf<Type>;
  text: (content: ContentOf<Type>, presentation: Presentation, response: ResponseOf<Type>) => string;
};

const scorings: { [Type in QuestionType]: Scoring<Type> } = {
  'single-choice': {
    present: presentChoices,
    score: scoreSingleChoice,
    right: rightSingleChoice,
    text: singleChoiceResponseText,
  },
  'multiple-choice': {
    present: presentChoices,
    score: scoreMultipleChoice,
    right: rightMultipleChoice,
    text: multipleChoiceResponseText,
  },
  'true-false': {
    score: (content, _, response) => scoreTrueFalse(content, response),
    right: rightTrueFalse,
    text: (_, __, response) => trueFalseResponseText(response),
  },
  'short-text': {
    score: (content, _, response) => scoreShortText(content, response),
    right: rightShortText,
    text: (_, __, response) => response.text,
  },
  numeric: {
    score: (content, _, response) => scoreNumeric(content, response),
    right: rightNumber,
    text: (_, __, response) => numericResponseText(response),
  },
  'gap-fill': { present: presentGapFill, score: scoreGapFill, right: rightGapFill, text: gapFillResponseText },
  matching: { present: presentMatching, score: scoreMatching, right: rightMatching, text: matchingResponseText },
  ordering: { present: presentOrdering, score: scoreOrdering, right: rightOrdering, text: orderingResponseText },
  written: { score: scoreWritten, right: rightWritten, text: (_, __, response) => writtenInWords(response) },
  'rating-scale': {
    score: (content, _, response) => scoreRatingScale(content, response),
    right: rightRatingScale,
    text: (content, _, response) => ratingScaleResponseText(content, response),
  },
  date: {
    score: (content, _, response) => scoreDate(content, response),
    right: rightDate,
    text: (_, __, response) => dateResponseText(response),
  },
};

const scoringOf = <Type extends QuestionType>(type: Type): Scoring<Type> => scorings[type];

/**
 * Fixes for one paper what may differ between papers: orders, keys and the values of variables. What a question says of
 * its labels comes before what the exam says; an exam whose choices stay as written shuffles none, whatever its questions
 * allow. Matching and ordering are always laid out by chance: their written order is their key.
 */
export function present(content: QuestionContent, random: Random, setting: PaperSetting = {}): Presentation {
  const laidOut = setting.choices === 'as-written' ? neverShuffled(content) : content;
  const presentation = scoringOf(content.type).present?.(laidOut as never, random) ?? {};
  if (content.type === 'single-choice' || content.type === 'multiple-choice') {
    const labels = content.labels ?? setting.labels;
    return labels === undefined ? presentation : { ...presentation, labels };
  }
  if ((content.type !== 'numeric' && content.type !== 'gap-fill') || !content.variables?.length) return presentation;
  const values = drawValues(planValues(content), random);
  return values ? { ...presentation, values } : presentation;
}

function neverShuffled(content: QuestionContent): QuestionContent {
  if (content.type === 'single-choice' || content.type === 'multiple-choice') return { ...content, shuffle: false };
  if (content.type !== 'gap-fill') return content;
  return { ...content, gaps: content.gaps.map((gap) => (gap.kind === 'pick' ? { ...gap, shuffle: false } : gap)) };
}

/**
 * Scores a stored response. Total: any JSON gives credit in [0, 1] or the word that a person judges it. An empty
 * response earns 0 under every rule, also where a full one is marked by hand; only what is answered on paper is never
 * empty here, and always waits for a person.
 */
export function scoreResponse(content: QuestionContent, presentation: Presentation, stored: unknown): Scored {
  if (content.type === 'written' && content.onPaper) return byHand;
  const response = readResponse(content.type, stored);
  if (response === undefined || response === null) return creditOf(0);
  return scoringOf(content.type).score(settle(content, presentation) as never, presentation, response as never);
}

/** A response that earns full credit; for written answers, the model answer. */
export const rightResponse = (content: QuestionContent, presentation: Presentation): QuestionResponse =>
  scoringOf(content.type).right(settle(content, presentation) as never, presentation);

/** A response in words, for markers and for export; empty where nothing was entered. */
export function responseText(content: QuestionContent, presentation: Presentation, stored: unknown): string {
  const response = readResponse(content.type, stored);
  if (response === undefined || response === null) return '';
  return scoringOf(content.type).text(settle(content, presentation) as never, presentation, response as never);
}
