import { richFromText } from '../../../base/rich';
import { feedbackAbout } from '../../answerFeedback';
import {
  defineQuestionType,
  keyBesideStem,
  markedByKey,
  noBoxes,
  onlyKey,
  sameOnEveryPaper,
} from '../../defineQuestionType';
import { withoutEmptyEnd, withoutEmptyFeedback } from '../../emptyParts';
import { guessedWord } from '../../guessed';
import { usualMatching } from '../../text/acceptedText';
import { matchText } from '../../text/matchText';
import { blankShortText, shortTextContent, shortTextText } from './content';
import { rightShortText, scoreShortText } from './score';
import { readShortText, viewShortText } from './student';

/** A few words, compared with accepted answers. */
export const shortText = defineQuestionType({
  name: 'Short text',
  usualPoints: 2,
  answeringMinutes: 1,

  schema: shortTextContent,
  blank: blankShortText,
  settings: ['matching'],
  example: {
    type: 'short-text',
    stem: richFromText('Type the colour of fresh snow.'),
    accepted: [{ text: 'white', credit: 1 }],
    matching: usualMatching,
    feedback: {},
  },
  text: shortTextText,
  columns: ({ accepted }) => ({ choices: [], answer: accepted.map((one) => one.text).join('; ') }),
  withoutEmptyParts: (content) => ({
    ...content,
    accepted: withoutEmptyEnd(
      content.accepted.map(withoutEmptyFeedback),
      1,
      (one) => one.text.trim() === '' && !one.feedback,
    ),
  }),
  findings: () => [],

  ...sameOnEveryPaper,
  varying: null,

  view: viewShortText,
  read: readShortText,
  guess: (_, random) => ({ text: guessedWord(random) }),

  ...markedByKey,
  ...keyBesideStem,
  ...onlyKey,
  ...noBoxes,
  // Without accepted answers there is no key.
  mayWaitForMark: true,
  waitsForMark: ({ accepted }) => accepted.length === 0,
  score: (content, _, response) => scoreShortText(content, response),
  right: rightShortText,
  responseText: (_, __, response) => response.text,
  accepting: (content, answer) =>
    content.accepted.length === 0 || content.accepted.some((one) => one.text === answer.text)
      ? null
      : { ...content, accepted: [...content.accepted, answer] },
  partFeedback: ({ accepted, matching }, _, { text }) => {
    const match = matchText(accepted, matching, text);
    return match ? feedbackAbout(text, accepted[match.index]?.feedback) : [];
  },
});
