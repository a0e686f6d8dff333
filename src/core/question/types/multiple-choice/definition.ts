import { richFromText } from '../../../base/rich';
import { choiceQuestion } from '../../choiceQuestion';
import { defineQuestionType, markedByKey, onlyKey } from '../../defineQuestionType';
import { blankMultipleChoice, multipleChoiceContent } from './content';
import { multipleChoiceResponseText, rightMultipleChoice, scoreMultipleChoice } from './score';
import { readMultipleChoiceResponse, viewMultipleChoice } from './student';

/** Any number of right choices out of several. */
export const multipleChoice = defineQuestionType({
  name: 'Multiple choice',
  usualPoints: 2,
  answeringMinutes: 1,

  schema: multipleChoiceContent,
  blank: blankMultipleChoice,
  settings: ['shuffle', 'rule'],
  example: {
    type: 'multiple-choice',
    stem: richFromText('Pick every even number. There is more than one.'),
    shuffle: true,
    rule: 'all-or-nothing',
    choices: ['2', '5', '8', '11'].map((text, i) => ({
      id: `c${i}`,
      content: richFromText(text),
      right: i === 0 || i === 2,
      pinned: false,
    })),
    feedback: {},
  },
  ...choiceQuestion,
  varying: null,

  view: viewMultipleChoice,
  read: readMultipleChoiceResponse,
  guess: ({ choices }, random) => {
    const picked = choices.filter(() => random.below(2) === 0).map(({ key }) => key);
    return { picked: picked.length ? picked : choices.slice(0, 1).map(({ key }) => key) };
  },

  ...markedByKey,
  ...onlyKey,
  score: scoreMultipleChoice,
  right: rightMultipleChoice,
  responseText: multipleChoiceResponseText,
});
