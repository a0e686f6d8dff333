import { richFromText } from '../../../base/rich';
import {
  defineQuestionType,
  markedByKey,
  noBoxes,
  noColumns,
  noEmptyParts,
  noPartFeedback,
  onlyKey,
  sameOnEveryPaper,
} from '../../defineQuestionType';
import { blankRatingScale, ratingScaleContent, ratingScaleText } from './content';
import { ratingScaleResponseText, rightRatingScale, scoreRatingScale } from './score';
import { readRatingScale, viewRatingScale } from './student';

/** A scale of steps between two named ends, for surveys. */
export const ratingScale = defineQuestionType({
  name: 'Rating scale',
  usualPoints: 1,
  answeringMinutes: 0.25,

  schema: ratingScaleContent,
  blank: blankRatingScale,
  settings: ['steps', 'low', 'high', 'cannotSay'],
  example: {
    type: 'rating-scale',
    stem: richFromText('How used are you to exams on a screen?'),
    steps: 5,
    low: 'not at all',
    high: 'very much',
    cannotSay: true,
    feedback: {},
  },
  text: ratingScaleText,
  ...noColumns,
  ...noEmptyParts,
  findings: () => [],

  ...sameOnEveryPaper,
  varying: null,

  view: viewRatingScale,
  read: readRatingScale,
  guess: ({ steps }, random) => ({ step: random.below(steps) + 1 }),

  ...markedByKey,
  judgedBy: (onPaper) => onPaper,
  ...onlyKey,
  ...noBoxes,
  ...noPartFeedback,
  score: (content, _, response) => scoreRatingScale(content, response),
  right: rightRatingScale,
  responseText: (content, _, response) => ratingScaleResponseText(content, response),
});
