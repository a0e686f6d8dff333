import { type Rich, richFromText } from '../../../base/rich';
import { type AnswerFeedback, feedbackAbout } from '../../answerFeedback';
import { defineQuestionType, markedByKey, onlyKey } from '../../defineQuestionType';
import { nonBlank, withoutEmptyFeedback } from '../../emptyParts';
import { guessedNumber, guessedWord } from '../../guessed';
import { matchText } from '../../text/matchText';
import { mapAccepted } from '../numeric/definition';
import { matchNumber } from '../numeric/score';
import { blankGapFill, type Gap, type GapFillContent, gapFillContent, gapFillText } from './content';
import { gapsIn } from './gapsIn';
import { gapAnswer, gapFillResponseText, presentGapFill, rightGapFill, scoreGapFill } from './score';
import { readGapFillResponse, viewGapFill } from './student';

const exampleStem: Rich = {
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

/** The gaps as they stand in the text, whatever the order in which they were made. */
function inOrder({ stem, gaps }: GapFillContent): GapFillContent['gaps'] {
  const placed = gapsIn(stem);
  const place = (id: string) => (placed.includes(id) ? placed.indexOf(id) : placed.length);
  return [...gaps].sort((a, b) => place(a.id) - place(b.id));
}

/** What a gap says to what was entered in it: the feedback of the accepted answer that it was taken for. */
function gapFeedback(gap: Gap, given: string | undefined): AnswerFeedback[] {
  if (given === undefined || gap.kind === 'pick') return [];
  if (gap.kind === 'number') return feedbackAbout(given, gap.accepted[matchNumber(gap, { text: given })]?.feedback);
  const match = matchText(gap.accepted, gap.matching, given);
  return match ? feedbackAbout(given, gap.accepted[match.index]?.feedback) : [];
}

/** A gap of a paper with the key that the gap of its name has elsewhere; the options keep their words. */
function gapJudgedBy(gap: Gap, judges: readonly Gap[]): Gap {
  const judge = judges.find((one) => one.id === gap.id && one.kind === gap.kind);
  if (judge?.kind !== 'pick' || gap.kind !== 'pick') return judge ?? gap;
  const right = judge.options.find((option) => option.right)?.id;
  return {
    ...judge,
    options: gap.options.map((option) => ({ ...option, right: option.id === right })),
  };
}

/** A running text with gaps. */
export const gapFill = defineQuestionType({
  name: 'Gap-fill',
  usualPoints: 3,
  answeringMinutes: 2,

  schema: gapFillContent,
  blank: blankGapFill,
  settings: [],
  example: {
    type: 'gap-fill',
    stem: exampleStem,
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
  text: gapFillText,
  columns: ({ gaps }) => ({ choices: [], answer: gaps.map(gapAnswer).join('; ') }),
  withoutEmptyParts: (content) => ({
    ...content,
    constraints: nonBlank(content.constraints),
    gaps: inOrder(content).map((gap) => {
      if (gap.kind === 'text') return { ...gap, accepted: gap.accepted.map(withoutEmptyFeedback) };
      if (gap.kind === 'number') return { ...gap, accepted: gap.accepted.map(withoutEmptyFeedback) };
      return gap;
    }),
  }),
  findings: () => [],

  present: presentGapFill,
  asWritten: (content) => ({
    ...content,
    gaps: content.gaps.map((gap) => (gap.kind === 'pick' ? { ...gap, shuffle: false } : gap)),
  }),
  drawnFrom: ({ variables, constraints, gaps }) => [
    variables,
    constraints,
    gaps.map((gap) => [gap.id, gap.kind === 'pick' && [gap.look, gap.shuffle, gap.options.map(({ id }) => id)]]),
  ],
  varying: {
    formulas: ({ gaps }) =>
      gaps.flatMap((gap, g) =>
        gap.kind === 'number'
          ? gap.accepted.map((one, i) => ({
              label: i === 0 ? `Gap ${g + 1}` : `Gap ${g + 1}, value ${i + 1}`,
              formula: one.value,
            }))
          : [],
      ),
    lists: ({ gaps }) =>
      gaps.flatMap((gap) => (gap.kind === 'pick' ? [gap.options.map(({ content }) => content)] : [])),
    fixedKey: null,
    mapKey: (content, change) => ({
      ...content,
      gaps: content.gaps.map((gap) => {
        if (gap.kind === 'number') return { ...gap, accepted: gap.accepted.map(mapAccepted(change)) };
        if (gap.kind === 'text') return gap;
        return { ...gap, options: gap.options.map((one) => ({ ...one, content: change.text(one.content) })) };
      }),
    }),
  },

  view: viewGapFill,
  read: readGapFillResponse,
  guess: ({ gaps }, random) => ({
    gaps: Object.fromEntries(
      gaps.map((gap) => [
        gap.id,
        gap.kind === 'pick'
          ? (gap.options[random.below(gap.options.length)]?.key ?? '')
          : gap.kind === 'number'
            ? guessedNumber(random)
            : guessedWord(random),
      ]),
    ),
  }),

  ...markedByKey,
  ...onlyKey,
  judgedBy: (onPaper, judge) => ({
    ...judge,
    stem: onPaper.stem,
    gaps: onPaper.gaps.map((gap) => gapJudgedBy(gap, judge.gaps)),
  }),
  score: scoreGapFill,
  right: rightGapFill,
  responseText: gapFillResponseText,
  boxes: ({ gaps }) => Object.entries(gaps).map(([gap, key]) => `${gap}/${key}`),
  partFeedback: ({ gaps }, _, response) => gaps.flatMap((gap) => gapFeedback(gap, response.gaps[gap.id])),
});
