import { shuffled } from '../../../base/random';
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
import { blankOrdering, orderingContent, orderingText } from './content';
import { orderingResponseText, presentOrdering, rightOrdering, scoreOrdering } from './score';
import { readOrderingResponse, viewOrdering } from './student';

/** Items to be put in order. */
export const ordering = defineQuestionType({
  name: 'Ordering',
  usualPoints: 3,
  answeringMinutes: 1.5,

  schema: orderingContent,
  blank: blankOrdering,
  settings: ['rule'],
  example: {
    type: 'ordering',
    stem: richFromText('Put these in their order, the smallest first. Drag them, or use the arrow buttons.'),
    rule: 'all-or-nothing',
    items: ['a mouse', 'a cat', 'a horse', 'a whale'].map((text, i) => ({ id: `i${i}`, content: richFromText(text) })),
    feedback: {},
  },
  text: orderingText,
  columns: ({ items }) => ({ choices: [], answer: items.map((item) => richText(item.content)).join('; ') }),
  ...noEmptyParts,
  findings: () => [],

  // Its written order is its key, so that it is always laid out by chance.
  ...sameOnEveryPaper,
  present: presentOrdering,
  drawnFrom: ({ items }) => items.map(({ id }) => id),
  varying: null,

  view: viewOrdering,
  read: readOrderingResponse,
  guess: ({ items }, random) => ({ order: shuffled(items, random).map(({ key }) => key) }),

  ...markedByKey,
  ...onlyKey,
  judgedBy: (onPaper, judge) => {
    const place = (id: string) => {
      const at = judge.items.findIndex((item) => item.id === id);
      return at < 0 ? judge.items.length : at;
    };
    return { ...judge, stem: onPaper.stem, items: [...onPaper.items].sort((a, b) => place(a.id) - place(b.id)) };
  },
  ...noBoxes,
  ...noPartFeedback,
  score: scoreOrdering,
  right: rightOrdering,
  responseText: orderingResponseText,
});
