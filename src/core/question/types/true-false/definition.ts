import { richFromText } from '../../../base/rich';
import { feedbackAbout } from '../../answerFeedback';
import { defineQuestionType, keyBesideStem, markedByKey, sameOnEveryPaper } from '../../defineQuestionType';
import { kept } from '../../emptyParts';
import { blankTrueFalse, trueFalseContent, trueFalseText } from './content';
import { rightTrueFalse, scoreTrueFalse, trueFalseResponseText } from './score';
import { readTrueFalseResponse, viewTrueFalse } from './student';

/** A statement to be judged true or false. */
export const trueFalse = defineQuestionType({
  name: 'True/false',
  usualPoints: 0.5,
  answeringMinutes: 0.5,

  schema: trueFalseContent,
  blank: blankTrueFalse,
  settings: [],
  example: { type: 'true-false', stem: richFromText('An hour has sixty minutes.'), answer: true, feedback: {} },
  text: trueFalseText,
  columns: ({ answer }) => ({ choices: [], answer: answer ? 'True' : 'False' }),
  withoutEmptyParts: (content) => ({ ...content, onTrue: kept(content.onTrue), onFalse: kept(content.onFalse) }),
  findings: () => [],

  ...sameOnEveryPaper,
  varying: null,

  view: viewTrueFalse,
  read: readTrueFalseResponse,
  guess: (_, random) => ({ picked: random.below(2) === 0 }),

  ...markedByKey,
  ...keyBesideStem,
  score: (content, _, response) => scoreTrueFalse(content, response),
  right: rightTrueFalse,
  responseText: (_, __, response) => trueFalseResponseText(response),
  boxes: ({ picked }) => [String(picked)],
  keyOnly: ({ onTrue: _, onFalse: __, ...content }) => content,
  partFeedback: ({ onTrue, onFalse }, _, response) =>
    feedbackAbout(trueFalseResponseText(response), response.picked ? onTrue : onFalse),
});
