import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { seededRandom } from '../base/random';
import { type Rich, richFromText, richText } from '../base/rich';
import { anyQuestion } from '../testing/anyQuestion';
import type { QuestionContent } from './content';
import { asJudged } from './feedbackFor';
import { present, rightResponse, scoreResponse } from './score';
import type { GapFillContent } from './types/gap-fill/content';
import type { MatchingContent } from './types/matching/content';
import type { OrderingContent } from './types/ordering/content';
import type { SingleChoiceContent } from './types/single-choice/content';
import { withValues } from './withValues';

const rich = richFromText;
const words = (one: Rich | undefined) => one && richText(one);

describe('a question of a paper with the key that judged its answer', () => {
  it('is the question of the paper, with its values, where its own key judged', () => {
    fc.assert(
      fc.property(anyQuestion, fc.nat(), (content, seed) => {
        const presentation = present(content, seededRandom(`${seed}`));
        expect(asJudged(content, content, presentation)).toEqual(withValues(content, presentation));
        // A later version in which nothing but the words of the question was mended says nothing else.
        const { stem, ...rest } = asJudged(content, { ...content }, presentation);
        const own = withValues(content, presentation);
        expect(stem).toEqual(own.stem);
        expect(rest.feedback).toEqual(own.feedback);
      }),
    );
  });

  it('judges any answer as the later version does, and has the words of the paper', () => {
    fc.assert(
      fc.property(anyQuestion, fc.nat(), (content, seed) => {
        const presentation = present(content, seededRandom(`${seed}`));
        const judge = mended(content);
        const shown = asJudged(content, judge, presentation);
        expect(shown.stem).toEqual(withValues(content, presentation).stem);
        const answers = [rightResponse(content, presentation), rightResponse(judge, presentation)];
        for (const answer of answers)
          expect(scoreResponse(shown, presentation, answer)).toEqual(scoreResponse(judge, presentation, answer));
      }),
    );
  });

  const choice = (...right: string[]): SingleChoiceContent => ({
    type: 'single-choice',
    stem: rich('Which?'),
    shuffle: false,
    choices: ['a', 'b', 'c'].map((id) => ({
      id,
      content: rich(`words of ${id}`),
      right: right.includes(id),
      pinned: false,
      feedback: rich(`said of ${id}`),
    })),
    feedback: { solution: rich('as it was') },
  });

  it('shows the choices of the paper: one that is gone is not right, one that came later is not there', () => {
    const later: SingleChoiceContent = {
      ...choice(),
      stem: rich('Which of these?'),
      choices: [
        { id: 'b', content: rich('other words'), right: true, pinned: false, feedback: rich('said anew') },
        { id: 'a', content: rich('words of a'), right: false, pinned: false },
        { id: 'd', content: rich('new'), right: false, pinned: false },
      ],
      feedback: { solution: rich('as it is') },
    };
    const shown = asJudged(choice('c'), later, {}) as SingleChoiceContent;
    expect(words(shown.stem)).toBe('Which?');
    expect(shown.choices.map((one) => [one.id, words(one.content), one.right, words(one.feedback)])).toEqual([
      ['a', 'words of a', false, undefined],
      ['b', 'words of b', true, 'said anew'],
      ['c', 'words of c', false, undefined],
    ]);
    expect(words(shown.feedback.solution)).toBe('as it is');
  });

  it('keeps all that could be chosen in a matching, and puts items into the order of the later key', () => {
    const pairs = (answers: string[]): MatchingContent => ({
      type: 'matching',
      stem: rich('Match'),
      rule: 'share',
      pairs: answers.map((answer, i) => ({ id: `p${i}`, prompt: rich(`prompt ${i}`), answer })),
      extras: ['nothing'],
      feedback: {},
    });
    const shown = asJudged(
      pairs(['red', 'green']),
      { ...pairs(['green', 'white']), extras: [] },
      {},
    ) as MatchingContent;
    expect(shown.pairs.map((one) => one.answer)).toEqual(['green', 'white']);
    expect(shown.extras).toEqual(['red', 'nothing']);
    const order = (ids: string): OrderingContent => ({
      type: 'ordering',
      stem: rich('Order'),
      rule: 'pairs',
      items: [...ids].map((id) => ({ id, content: rich(`${id} as on the paper`) })),
      feedback: {},
    });
    const ordered = asJudged(order('abcd'), { ...order('dbz'), rule: 'all-or-nothing' }, {}) as OrderingContent;
    expect([ordered.items.map((one) => one.id).join(''), ordered.rule]).toEqual(['dbac', 'all-or-nothing']);
  });

  it('keeps the words of the options of a gap, and a gap that the later version has otherwise', () => {
    const gaps = (right: string, ids: string[]): GapFillContent => ({
      type: 'gap-fill',
      stem: {
        type: 'doc',
        content: [{ type: 'paragraph', content: ids.map((id) => ({ type: 'gap' as const, attrs: { id } })) }],
      },
      gaps: ids.map((id) => ({
        id,
        kind: 'pick' as const,
        weight: 1,
        look: 'list' as const,
        shuffle: false,
        options: ['x', 'y'].map((option) => ({
          id: option,
          content: rich(`${option} ${right}`),
          right: option === right,
        })),
      })),
      feedback: {},
    });
    const shown = asJudged(gaps('x', ['g', 'h']), gaps('y', ['g']), {}) as GapFillContent;
    const options = shown.gaps.map((gap) =>
      gap.kind === 'pick' ? gap.options.map((one) => [richText(one.content), one.right]) : [],
    );
    expect(options).toEqual([
      [
        ['x x', false],
        ['y x', true],
      ],
      [
        ['x x', true],
        ['y x', false],
      ],
    ]);
  });
});

/** The same question with another stem and another key. */
function mended(content: QuestionContent): QuestionContent {
  const stem = content.type === 'gap-fill' ? content.stem : rich('Mended words');
  switch (content.type) {
    case 'single-choice':
    case 'multiple-choice': {
      const right = content.choices.findIndex((one) => !one.right);
      return {
        ...content,
        stem,
        choices: content.choices.map((one, i) => ({ ...one, right: i === Math.max(0, right) })),
      };
    }
    case 'true-false':
      return { ...content, stem, answer: !content.answer };
    case 'short-text':
      return { ...content, stem, accepted: [{ text: 'another answer', credit: 1 }] };
    case 'matching': {
      const answers = content.pairs.map((pair) => pair.answer);
      return {
        ...content,
        stem,
        pairs: content.pairs.map((pair, i) => ({ ...pair, answer: answers[(i + 1) % answers.length] as string })),
      };
    }
    case 'ordering':
      return { ...content, stem, items: [...content.items].reverse() };
    case 'gap-fill':
      return {
        ...content,
        gaps: content.gaps.map((gap) =>
          gap.kind === 'pick'
            ? { ...gap, options: gap.options.map((one, i) => ({ ...one, right: i === gap.options.length - 1 })) }
            : gap,
        ),
      };
    default:
      return { ...content, stem };
  }
}
