import { richFromText, richText } from '../../../base/rich';
import {
  defineQuestionType,
  markedByKey,
  noBoxes,
  noEmptyParts,
  noPartFeedback,
  onlyKey,
  sameOnEveryPaper,
} from '../../defineQuestionType';
import { blankMatching, matchingContent, matchingText, optionsOf, sameText } from './content';
import { matchingResponseText, presentMatching, rightMatching, scoreMatching } from './score';
import { readMatchingResponse, viewMatching } from './student';

/** Prompts to which options are put. */
export const matching = defineQuestionType({
  name: 'Matching',
  usualPoints: 3,
  answeringMinutes: 2,

  schema: matchingContent,
  blank: blankMatching,
  settings: ['rule'],
  example: {
    type: 'matching',
    stem: richFromText('Match each animal with what it does.'),
    rule: 'share',
    pairs: [
      { id: 'p0', prompt: richFromText('A dog'), answer: 'barks' },
      { id: 'p1', prompt: richFromText('A bird'), answer: 'sings' },
      { id: 'p2', prompt: richFromText('A fish'), answer: 'swims' },
    ],
    extras: ['meows'],
    feedback: {},
  },
  text: matchingText,
  columns: ({ pairs }) => ({
    choices: [],
    answer: pairs.map((pair) => `${richText(pair.prompt)} = ${pair.answer}`).join('; '),
  }),
  ...noEmptyParts,
  findings: () => [],

  // Its written order is its key, so that it is always laid out by chance.
  ...sameOnEveryPaper,
  present: presentMatching,
  drawnFrom: ({ pairs, extras }) => [pairs.map(({ id, answer }) => [id, answer]), extras],
  varying: null,

  view: viewMatching,
  read: readMatchingResponse,
  guess: ({ prompts, options }, random) => ({
    pairs: Object.fromEntries(prompts.map(({ key }) => [key, options[random.below(options.length)]?.key ?? ''])),
  }),

  ...markedByKey,
  ...onlyKey,
  judgedBy: (onPaper, judge) => {
    const answers = new Map(judge.pairs.map((pair) => [pair.id, pair.answer]));
    const pairs = onPaper.pairs.map((pair) => ({ ...pair, answer: answers.get(pair.id) ?? pair.answer }));
    const belong = new Set(pairs.map((pair) => sameText(pair.answer)));
    // All that could be chosen on the paper still can be.
    const extras = optionsOf(onPaper).flatMap(({ id, text }) => (belong.has(id) ? [] : [text]));
    return { ...judge, stem: onPaper.stem, pairs, extras };
  },
  ...noBoxes,
  ...noPartFeedback,
  score: scoreMatching,
  right: rightMatching,
  responseText: matchingResponseText,
});
