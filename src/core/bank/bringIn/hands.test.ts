import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { richText } from '../../base/rich';
import type { Brought } from './brought';
import { linesOf } from './line';
import { readDocument } from './readDocument';

/** A question as it is meant: every word of it is found nowhere else, so that nothing can be taken for something else. */
type Meant = { stem: string; choices: string[]; right: number };

/** How somebody types: each of them unmistakable by itself. */
const hands = {
  number: ['1.', '1)', '(1)', 'Q1.', 'Question 1:', '#1.', '1 -'],
  letter: ['a)', 'a.', '(a)', 'A)', 'A.', '[A]', 'a -', '-', '•', '[ ]'],
  key: ['star', 'tick', 'behind', 'brackets', 'answer', 'words', 'letter and words', 'list', 'list in one line'],
  gap: ['none', 'between', 'everywhere'],
  indent: ['', '   ', '\t', '\u00a0\u00a0'],
} as const;

type Hand = { [Part in keyof typeof hands]: (typeof hands)[Part][number] };

const anyHand = fc.record({
  number: fc.constantFrom(...hands.number),
  letter: fc.constantFrom(...hands.letter),
  key: fc.constantFrom(...hands.key),
  gap: fc.constantFrom(...hands.gap),
  indent: fc.constantFrom(...hands.indent),
});

const anyMeant = fc
  .array(fc.record({ choices: fc.integer({ min: 2, max: 5 }), right: fc.nat(), asks: fc.boolean() }), {
    minLength: 2,
    maxLength: 6,
  })
  .map((questions): Meant[] =>
    questions.map(({ choices, right, asks }, q) => ({
      stem: `Stem of the question called ${'klmnopq'[q]}${asks ? '?' : ''}`,
      choices: Array.from({ length: choices }, (_, c) => `${'klmnopq'[q]}words${'uvwxyz'[c]}`),
      right: right % choices,
    })),
  );

const small = (at: number) => 'abcdefgh'[at] as string;

function typedBy({ number, letter, key, gap, indent }: Hand, questions: readonly Meant[]): string[] {
  const isLettered = /[aA]/.test(letter);
  const lines: string[] = [];
  const put = (line: string) => {
    lines.push(line);
    if (gap === 'everywhere') lines.push('');
  };
  questions.forEach(({ stem, choices, right }, q) => {
    put(`${number.replace('1', String(q + 1))} ${stem}`);
    choices.forEach((words, c) => {
      const isRight = c === right;
      const lead = letter.replace('a', small(c)).replace('A', small(c).toUpperCase());
      const before = isRight && key === 'star' ? '*' : isRight && key === 'tick' ? '✓ ' : '';
      const behind = isRight && key === 'behind' ? ' *' : isRight && key === 'brackets' ? ' (correct)' : '';
      put(`${indent}${isLettered ? before : ''}${lead} ${isLettered ? '' : before}${words}${behind}`);
    });
    const words = choices[right] as string;
    if (key === 'answer') put(`Answer: ${small(right).toUpperCase()}`);
    if (key === 'words') put(`Correct answer: ${words}`);
    if (key === 'letter and words') put(`Key: ${small(right)}) ${words}`);
    if (gap === 'between') lines.push('');
  });
  const letters = questions.map(({ right }, q) => `${q + 1}. ${small(right).toUpperCase()}`);
  if (key === 'list') lines.push('', 'Answer key', ...letters);
  if (key === 'list in one line') lines.push('', letters.join('  '));
  return lines;
}

const isAsked = (one: Brought) => one.problems.some((problem) => problem.severity !== 'warning');
const choicesOf = ({ content }: Brought) =>
  content?.type === 'single-choice' || content?.type === 'multiple-choice'
    ? content.choices.map((choice) => ({ words: richText(choice.content), right: choice.right }))
    : [];

describe('whatever hand types', () => {
  it('is read wholly rightly and without a question', () => {
    fc.assert(
      fc.property(anyHand, anyMeant, (hand, questions) => {
        const { items, roles } = readDocument(linesOf(typedBy(hand, questions).join('\n')));
        expect(items.map((one) => [one.content && richText(one.content.stem), choicesOf(one), one.problems])).toEqual(
          questions.map(({ stem, choices, right }) => [
            stem,
            choices.map((words, c) => ({ words, right: c === right })),
            [],
          ]),
        );
        expect(roles.filter((one) => one.role === 'unread')).toEqual([]);
      }),
      { seed: 7, numRuns: 1_000 },
    );
  });

  it('gets no wrong key in silence when lines are lost, doubled, joined, cut or moved', () => {
    const harm = fc.record({
      kind: fc.constantFrom('lose', 'double', 'join', 'cut', 'swap', 'strip'),
      at: fc.nat(),
    });
    fc.assert(
      fc.property(anyHand, anyMeant, fc.array(harm, { minLength: 1, maxLength: 3 }), (hand, questions, harms) => {
        // A letter that names the place of a bullet says nothing once a bullet was lost: that cannot be seen.
        fc.pre(/[aA]/.test(hand.letter) || !['answer', 'list', 'list in one line'].includes(hand.key));
        const lines = typedBy(hand, questions);
        for (const { kind, at: anywhere } of harms) {
          const at = anywhere % lines.length;
          const line = lines[at] as string;
          if (kind === 'lose') lines.splice(at, 1);
          if (kind === 'double') lines.splice(at, 0, line);
          if (kind === 'join' && at + 1 < lines.length) lines.splice(at, 2, `${line} ${lines[at + 1]}`);
          if (kind === 'cut') lines.splice(at, 1, line.slice(0, line.length / 2), line.slice(line.length / 2));
          if (kind === 'swap' && at + 1 < lines.length) lines.splice(at, 2, lines[at + 1] as string, line);
          if (kind === 'strip') lines[at] = line.replace(/^\s*\S+\s/, '');
        }
        const words = new Map(
          questions.flatMap(({ choices, right }) => choices.map((one, c) => [one, c === right] as const)),
        );
        for (const item of readDocument(linesOf(lines.join('\n'))).items) {
          if (isAsked(item)) continue;
          const wrong = choicesOf(item).filter((one) => words.has(one.words) && words.get(one.words) !== one.right);
          expect(wrong, lines.join('\n')).toEqual([]);
        }
      }),
      { seed: 23, numRuns: 2_000 },
    );
  });

  it('is prose where a line is far longer than any choice or key, and takes no longer than it is long', () => {
    const long = `${'Answer: a) '.repeat(40_000)}${' '.repeat(40_000)}x`;
    const { items, roles } = readDocument(linesOf(`1. Short?\na) one *\nb) two\n\n${long}\n\n2. ${long}`));
    expect(roles.map((one) => one.role)).toEqual([
      'question',
      'right',
      'choice',
      'blank',
      'unread',
      'blank',
      'question',
    ]);
    expect(items.map((one) => one.title.slice(0, 10))).toEqual(['Short?', 'Answer: a)']);
  });
});
