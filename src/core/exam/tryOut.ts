import { type Rich, richFromText } from '../base/rich';
import type { ContentOf, QuestionContent } from '../question/content';
import { usualMatching } from '../question/text/acceptedText';
import type { QuestionType } from '../question/types';
import { blankDesign, type ExamDesign } from './design';

const choices = (texts: string[], right: number[]) =>
  texts.map((text, i) => ({ id: `c${i}`, content: richFromText(text), right: right.includes(i), pinned: false }));

const gapStem: Rich = {
  type: 'doc',
  content: [
    {
      type: 'paragraph',
      content: [
        { type: 'text', text: 'A week has ' },
        { type: 'gap', attrs: { id: 'g0' } },
        { type: 'text', text: ' days; the day after Monday is ' },
        { type: 'gap', attrs: { id: 'g1' } },
        { type: 'text', text: '.' },
      ],
    },
  ],
};

/** One easy question of each type, about nothing that has to be learnt: what has to be learnt is how to answer. */
const questions: { [Type in QuestionType]: ContentOf<Type> } = {
  'single-choice': {
    type: 'single-choice',
    stem: richFromText('Pick the season that comes after summer.'),
    shuffle: true,
    choices: choices(['Spring', 'Autumn', 'Winter'], [1]),
    feedback: {},
  },
  'multiple-choice': {
    type: 'multiple-choice',
    stem: richFromText('Pick every even number. There is more than one.'),
    shuffle: true,
    rule: 'all-or-nothing',
    choices: choices(['2', '5', '8', '11'], [0, 2]),
    feedback: {},
  },
  'true-false': {
    type: 'true-false',
    stem: richFromText('An hour has sixty minutes.'),
    answer: true,
    feedback: {},
  },
  'short-text': {
    type: 'short-text',
    stem: richFromText('Type the colour of fresh snow.'),
    accepted: [{ text: 'white', credit: 1 }],
    matching: usualMatching,
    feedback: {},
  },
  numeric: {
    type: 'numeric',
    stem: richFromText('How much is 3 times 4? Type the number; you are told how it was read.'),
    accepted: [{ value: '12', tolerance: { kind: 'absolute', amount: 0 }, credit: 1 }],
    feedback: {},
  },
  'gap-fill': {
    type: 'gap-fill',
    stem: gapStem,
    gaps: [
      {
        id: 'g0',
        kind: 'number',
        weight: 1,
        accepted: [{ value: '7', tolerance: { kind: 'absolute', amount: 0 }, credit: 1 }],
      },
      {
        id: 'g1',
        kind: 'pick',
        weight: 1,
        look: 'list',
        shuffle: true,
        options: ['Tuesday', 'Friday', 'Sunday'].map((text, i) => ({
          id: `o${i}`,
          content: richFromText(text),
          right: i === 0,
        })),
      },
    ],
    feedback: {},
  },
  matching: {
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
  ordering: {
    type: 'ordering',
    stem: richFromText('Put these in their order, the smallest first. Drag them, or use the arrow buttons.'),
    rule: 'all-or-nothing',
    items: ['a mouse', 'a cat', 'a horse', 'a whale'].map((text, i) => ({ id: `i${i}`, content: richFromText(text) })),
    feedback: {},
  },
  written: {
    type: 'written',
    stem: richFromText('Write a sentence or two about your day. In an exam, a person reads and marks this.'),
    modelAnswer: richFromText(''),
    words: { least: null, most: 60 },
    feedback: {},
  },
  'rating-scale': {
    type: 'rating-scale',
    stem: richFromText('How used are you to exams on a screen?'),
    steps: 5,
    low: 'not at all',
    high: 'very much',
    cannotSay: true,
    feedback: {},
  },
  date: {
    type: 'date',
    stem: richFromText('Give the date of today.'),
    earliest: null,
    latest: null,
    feedback: {},
  },
};

export const tryOutQuestions: readonly QuestionContent[] = Object.values(questions);

/** The try-out as an exam: one question a page, a point each, with half an hour. */
export const tryOutDesign: ExamDesign = {
  ...blankDesign('try-out'),
  instructions: richFromText(
    'Nothing here counts, and nothing is kept. Answer, mark a question to come back to, go back and forth, and hand in at the end, as in an exam.',
  ),
};
