import { richFromText, richText } from '../../../base/rich';
import {
  defineQuestionType,
  keyBesideStem,
  markedByKey,
  noBoxes,
  noEmptyParts,
  noPartFeedback,
  sameOnEveryPaper,
} from '../../defineQuestionType';
import type { Finding } from '../../finding';
import { guessedWord } from '../../guessed';
import { blankWritten, type Rubric, writtenContent, writtenText } from './content';
import { rightWritten, scoreWritten, writtenInWords } from './score';
import { readWritten, viewWritten } from './student';

/** Criteria of which nobody can earn all the points. */
const deadCriteria = (rubric: Rubric): Finding[] =>
  rubric.criteria
    .filter((criterion) => !criterion.levels.some((level) => level.share === 1))
    .map(({ name }) => ({ kind: 'unreachable', message: `No level of “${name}” earns all its points.` }));

/** An answer in the student's own words, marked by a person. */
export const written = defineQuestionType({
  name: 'Written answer',
  usualPoints: 5,
  answeringMinutes: 10,

  schema: writtenContent,
  blank: blankWritten,
  settings: ['words', 'format', 'files'],
  example: {
    type: 'written',
    stem: richFromText('Write a sentence or two about your day. In an exam, a person reads and marks this.'),
    modelAnswer: richFromText(''),
    words: { least: null, most: 60 },
    feedback: {},
  },
  text: writtenText,
  columns: ({ modelAnswer }) => ({ choices: [], answer: richText(modelAnswer) }),
  ...noEmptyParts,
  findings: ({ rubric }) => (rubric ? deadCriteria(rubric) : []),

  ...sameOnEveryPaper,
  varying: null,

  view: viewWritten,
  read: readWritten,
  guess: (_, random) => ({ text: `${guessedWord(random)} ${guessedWord(random)} ${guessedWord(random)}` }),

  ...markedByKey,
  ...keyBesideStem,
  ...noBoxes,
  ...noPartFeedback,
  mayWaitForMark: true,
  waitsForMark: () => true,
  onPaper: (content) => content.onPaper === true,
  score: scoreWritten,
  right: rightWritten,
  responseText: (_, __, response) => writtenInWords(response),
  markingAids: ({ modelAnswer, rubric }) => ({ modelAnswer, rubric: rubric ?? null }),
  keyOnly: ({ rubric: _, ...content }) => content,
});
