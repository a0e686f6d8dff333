import { richFromText } from '../../../base/rich';
import {
  defineQuestionType,
  keyBesideStem,
  markedByKey,
  noBoxes,
  noColumns,
  noEmptyParts,
  noPartFeedback,
  onlyKey,
  sameOnEveryPaper,
} from '../../defineQuestionType';
import { blankDate, dateContent, dateText } from './content';
import { dateResponseText, rightDate, scoreDate } from './score';
import { readDateResponse, viewDate } from './student';

/** A calendar date, for surveys. */
export const date = defineQuestionType({
  name: 'Date',
  usualPoints: 1,
  answeringMinutes: 0.25,

  schema: dateContent,
  blank: blankDate,
  settings: [],
  example: {
    type: 'date',
    stem: richFromText('Give the date of today.'),
    earliest: null,
    latest: null,
    feedback: {},
  },
  text: dateText,
  ...noColumns,
  ...noEmptyParts,
  findings: () => [],

  ...sameOnEveryPaper,
  varying: null,

  view: viewDate,
  read: readDateResponse,
  guess: ({ earliest, latest }, random) => ({
    date: earliest ?? latest ?? `2026-0${random.below(9) + 1}-1${random.below(9)}`,
  }),

  ...markedByKey,
  ...keyBesideStem,
  ...onlyKey,
  ...noBoxes,
  ...noPartFeedback,
  score: (content, _, response) => scoreDate(content, response),
  right: rightDate,
  responseText: (_, __, response) => dateResponseText(response),
});
