import { richFromText } from '../../../base/rich';
import { feedbackAbout } from '../../answerFeedback';
import {
  defineQuestionType,
  keyBesideStem,
  markedByKey,
  noBoxes,
  onlyKey,
  sameOnEveryPaper,
  type Varying,
} from '../../defineQuestionType';
import { nonBlank, withoutEmptyEnd, withoutEmptyFeedback } from '../../emptyParts';
import { guessedNumber } from '../../guessed';
import { type AcceptedNumber, blankNumeric, type NumericContent, numericContent, numericText } from './content';
import { findUnreachable } from './findUnreachable';
import { matchNumber, numericResponseText, rightNumber, scoreNumeric } from './score';
import { readNumericResponse, viewNumeric } from './student';

type Change = Parameters<Varying<NumericContent>['mapKey']>[1];

/** An accepted number with every text and its formula changed. */
export const mapAccepted =
  ({ text, formula }: Change) =>
  (accepted: AcceptedNumber): AcceptedNumber => ({
    ...accepted,
    value: formula(accepted.value),
    ...(accepted.feedback ? { feedback: text(accepted.feedback) } : {}),
  });

/** A number within a tolerance, with a unit where one is asked for. */
export const numeric = defineQuestionType({
  name: 'Numeric',
  usualPoints: 2,
  answeringMinutes: 2,

  schema: numericContent,
  blank: blankNumeric,
  settings: [],
  example: {
    type: 'numeric',
    stem: richFromText('How much is 3 times 4? Type the number; you are told how it was read.'),
    accepted: [{ value: '12', tolerance: { kind: 'absolute', amount: 0 }, credit: 1 }],
    feedback: {},
  },
  text: numericText,
  columns: ({ accepted }) => ({ choices: [], answer: accepted.map((one) => one.value).join('; ') }),
  withoutEmptyParts: (content) => ({
    ...content,
    accepted: withoutEmptyEnd(
      content.accepted.map(withoutEmptyFeedback),
      1,
      (one) => one.value.trim() === '' && !one.feedback,
    ),
    constraints: nonBlank(content.constraints),
  }),
  findings: (content) => (content.variables?.length ? [] : findUnreachable(content.accepted)),

  ...sameOnEveryPaper,
  drawnFrom: ({ variables, constraints }) => [variables, constraints],
  varying: {
    formulas: ({ accepted }) =>
      accepted.map((one, i) => ({ label: i === 0 ? 'The answer' : `Value ${i + 1}`, formula: one.value })),
    lists: () => [],
    fixedKey: 'The accepted values do not depend on the variables.',
    mapKey: (content, change) => ({ ...content, accepted: content.accepted.map(mapAccepted(change)) }),
  },

  view: viewNumeric,
  read: readNumericResponse,
  guess: ({ unit }, random) => ({
    text: guessedNumber(random),
    ...(Array.isArray(unit) ? { unit: unit[random.below(unit.length)] ?? '' } : {}),
  }),

  ...markedByKey,
  ...keyBesideStem,
  ...onlyKey,
  ...noBoxes,
  score: (content, _, response) => scoreNumeric(content, response),
  right: rightNumber,
  responseText: (_, __, response) => numericResponseText(response),
  partFeedback: (content, _, response) =>
    feedbackAbout(numericResponseText(response), content.accepted[matchNumber(content, response)]?.feedback),
});
