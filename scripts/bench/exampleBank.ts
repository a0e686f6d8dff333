import { type Random, seededRandom } from '../../src/core/base/random';
import { richFromText } from '../../src/core/base/rich';
import type { QuestionContent } from '../../src/core/question/content';
import { usualMatching } from '../../src/core/question/text/acceptedText';
import { blankGap } from '../../src/core/question/types/gap-fill/content';

const syllables =
  'ba be bi bo da de di do fa fe fi fo ga ge ka ke ki ko la le li lo ma me mi mo na ne ni no pa pe ra re ri ro sa se si so ta te ti to va ve'.split(
    ' ',
  );

/** Made-up running text: words of two or three syllables, some of them far more common than others. */
export function exampleText(random: Random, words: number): string {
  const word = () => {
    const common = random.below(3) > 0;
    const pick = () => syllables[random.below(common ? 12 : syllables.length)];
    return `${pick()}${pick()}${common ? '' : pick()}`;
  };
  return Array.from({ length: words }, word).join(' ');
}

/** A made-up question; the types come round in turn. */
export function exampleQuestion(n: number, random: Random): QuestionContent {
  const text = (words: number) => richFromText(exampleText(random, words));
  const stem = text(18);
  switch (n % 8) {
    case 0:
    case 1:
      return {
        type: 'single-choice',
        stem,
        shuffle: true,
        feedback: {},
        choices: ['a', 'b', 'c', 'd'].map((id, i) => ({ id, content: text(5), right: i === n % 4, pinned: false })),
      };
    case 2:
      return {
        type: 'multiple-choice',
        stem,
        shuffle: true,
        rule: 'each-judged',
        feedback: {},
        choices: ['a', 'b', 'c', 'd', 'e'].map((id, i) => ({
          id,
          content: text(4),
          right: i % 2 === 0,
          pinned: false,
        })),
      };
    case 3:
      return { type: 'true-false', stem, answer: n % 3 === 0, feedback: {} };
    case 4:
      return {
        type: 'short-text',
        stem,
        accepted: [
          { text: exampleText(random, 2), credit: 1 },
          { text: exampleText(random, 2), credit: 0.5 },
        ],
        matching: { ...usualMatching, slips: 1 },
        feedback: {},
      };
    case 5:
      return {
        type: 'numeric',
        stem,
        accepted: [{ value: String(n % 97), tolerance: { kind: 'absolute', amount: 0.5 }, credit: 1 }],
        feedback: {},
      };
    case 6:
      return {
        type: 'gap-fill',
        stem: {
          type: 'doc',
          content: [
            ...stem.content,
            {
              type: 'paragraph',
              content: [
                { type: 'gap', attrs: { id: 'g0' } },
                { type: 'text', text: ' and ' },
                { type: 'gap', attrs: { id: 'g1' } },
              ],
            },
          ],
        },
        gaps: [blankGap('g0', 'text', exampleText(random, 1)), blankGap('g1', 'number', '12')],
        feedback: {},
      };
    default:
      return {
        type: 'matching',
        stem,
        rule: 'share',
        extras: [],
        feedback: {},
        pairs: ['p', 'q', 'r'].map((id) => ({ id, prompt: text(3), answer: `${exampleText(random, 2)} ${id}` })),
      };
  }
}

export function exampleQuestions(count: number, seed = 'bank'): QuestionContent[] {
  const random = seededRandom(seed);
  return Array.from({ length: count }, (_, n) => exampleQuestion(n, random));
}
