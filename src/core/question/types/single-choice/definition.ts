import { richFromText } from '../../../base/rich';
import { choiceQuestion } from '../../choiceQuestion';
import { defineQuestionType, markedByKey, onlyKey } from '../../defineQuestionType';
import { blankSingleChoice, singleChoiceContent } from './content';
import { rightSingleChoice, scoreSingleChoice, singleChoiceResponseText } from './score';
import { readSingleChoiceResponse, viewSingleChoice } from './student';

/** One right choice out of several. */
export const singleChoice = defineQuestionType({
  name: 'Single choice',
  usualPoints: 1,
  answeringMinutes: 0.75,

  schema: singleChoiceContent,
  blank: blankSingleChoice,
  settings: ['shuffle'],
  example: {
    type: 'single-choice',
    stem: richFromText('Pick the season that comes after summer.'),
    shuffle: true,
    choices: ['Spring', 'Autumn', 'Winter'].map((text, i) => ({
      id: `c${i}`,
      content: richFromText(text),
      right: i === 1,
      pinned: false,
    })),
    feedback: {},
  },
  ...choiceQuestion,
  varying: null,

  view: viewSingleChoice,
  read: readSingleChoiceResponse,
  guess: ({ choices }, random) => ({ picked: choices[random.below(choices.length)]?.key ?? '' }),

  ...markedByKey,
  ...onlyKey,
  score: scoreSingleChoice,
  right: rightSingleChoice,
  responseText: singleChoiceResponseText,
});
