import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { csvText, harmless, readCsv, unguarded } from '../../base/csv';
import { richText } from '../../base/rich';
import { type QuestionContent, questionContent } from '../../question/content';
import { anyQuestion } from '../../testing/anyQuestion';
import type { Brought } from './brought';
import { type Line, linesOf } from './line';
import { readDocument } from './readDocument';
import { guessColumns, readTable, tableOf } from './readTable';

const read = (text: string) => readDocument(linesOf(text)).items;
const only = (text: string): Brought => {
  const found = read(text);
  expect(found).toHaveLength(1);
  return found[0] as Brought;
};
const right = (one: Brought | undefined): string[] => {
  const content = one?.content;
  if (content?.type === 'single-choice' || content?.type === 'multiple-choice')
    return content.choices.filter((choice) => choice.right).map((choice) => richText(choice.content));
  return [];
};
const errors = (one: Brought | undefined) =>
  (one?.problems ?? []).filter((p) => p.severity === 'error').map((p) => p.message);

const four = (...marks: string[]) =>
  `7. Which mark shows a north cardinal?\n${['two cones up', 'two cones down', 'base to base', 'point to point'].map((text, i) => `${marks[i] ?? ''}${'abcd'[i]}) ${text}`).join('\n')}`;

describe('questions typed in a word processor', () => {
  it.each([
    ['a star before the letter', four('*')],
    ['a tick before the letter', four('✓ ')],
    ['a star behind the letter', four().replace('a) ', 'a) *')],
    ['a star at the end', four().replace('two cones up', 'two cones up *')],
    ['the word in brackets', four().replace('two cones up', 'two cones up (correct)')],
    ['a line below', `${four()}\nAnswer: A`],
    ['the answer in words', `${four()}\nCorrect answer: two cones up.`],
    ['a key at the end', `${four()}\n\nAnswer key\n6. c\n7. a`],
    ['a key in one line', `${four()}\n\nANSWERS:\n5 b, 6 c, 7 a, 8 d`],
  ])('are read with the right choice marked by %s', (_, text) => {
    const one = only(text);
    expect(errors(one)).toEqual([]);
    expect(one.content?.type).toBe('single-choice');
    expect(right(one)).toEqual(['two cones up']);
    expect(one.content && richText(one.content.stem)).toBe('Which mark shows a north cardinal?');
  });

  it('keep every reason that is given, under whatever name, and the one behind the key', () => {
    const one = only(`${four()}\nAns. a  because both cones point up\nRationale: north is up\nFeedback: see the card`);
    expect(right(one)).toEqual(['two cones up']);
    expect(one.problems).toEqual([]);
    expect(one.content?.feedback?.solution && richText(one.content.feedback.solution)).toBe(
      'see the card\nbecause both cones point up\nnorth is up',
    );
  });

  it.each(['two cones up [x]', 'two cones up [X]'])('are read with the box ticked behind a choice: %s', (first) => {
    const text = four().replace('two cones up', first).replace('base to base', 'base to base [ ]');
    const one = only(text);
    expect(one.problems).toEqual([]);
    expect(right(one)).toEqual(['two cones up']);
    expect(one.content?.type === 'single-choice' && richText(one.content.choices[2]?.content as never)).toBe(
      'base to base',
    );
  });

  it('are asked about what stands behind the question mark, and about no sentence', () => {
    const asked = (text: string) => only(text).problems.map((problem) => problem.message);
    expect(asked('1. How deep was the water? 3,5 ± 0,2')).toEqual([
      'Is “3,5 ± 0,2” the answer? It stands in the text that students read.',
    ]);
    expect(asked('1. What is the left side called?  port')).toHaveLength(1);
    for (const sentence of ['Why is it so? Explain.', 'Why? Name two reasons that you were given.', 'Why is it so?'])
      expect(asked(`1. ${sentence}`)).toEqual([]);
  });

  it.each(['bold', 'underline', 'marked'] as const)('are read with the right choice in %s', (style) => {
    const lines: Line[] = [
      { label: '1.', runs: [{ text: 'Which side is green?' }] },
      { label: 'a.', runs: [{ text: 'port' }] },
      {
        label: 'b.',
        runs: [
          { text: 'star', [style]: true },
          { text: 'board ', [style]: true },
        ],
      },
      { label: 'c.', runs: [{ text: 'stern', [style]: false }] },
    ];
    const [one] = readDocument(lines).items;
    expect(right(one)).toEqual(['starboard']);
    const all = lines.map((line) => ({ ...line, runs: line.runs.map((run) => ({ ...run, [style]: true })) }));
    expect(errors(readDocument(all).items[0])).toEqual(['No choice is marked as right.']);
    const partly = lines.map((line, i) =>
      i === 3 ? { ...line, runs: [{ text: 'st', [style]: true }, { text: 'ern' }] } : line,
    );
    expect(right(readDocument(partly).items[0])).toEqual(['starboard']);
  });

  it('are read with several right choices, feedback below each, notes, and texts over several lines', () => {
    const one = only(
      [
        '12) Which give a line of position?',
        'Look at the chart.',
        '(a) a bearing',
        'of a light',
        'Feedback: yes',
        '(b) the barometer',
        '(c) a transit',
        'Answer: A and C',
        'Solution: both lie',
        'on a line',
        'Points: 2,5',
        'Difficulty: Medium',
        'Category: Charts > Position',
        'Tags: lines, fixes',
        'Objective: N1',
      ].join('\n'),
    );
    expect(one).toMatchObject({
      at: 1,
      points: 2.5,
      difficulty: 'medium',
      category: 'Charts > Position',
      tags: ['lines', 'fixes'],
      objectives: ['N1'],
      problems: [],
    });
    expect(right(one)).toEqual(['a bearing of a light', 'a transit']);
    expect(one.content?.type).toBe('multiple-choice');
    expect(one.content?.feedback.solution && richText(one.content.feedback.solution)).toBe('both lie on a line');
    expect(one.content?.type === 'multiple-choice' && one.content.choices[0]?.feedback).toBeTruthy();
  });

  it('are statements, numbers, words, blanks or written answers, as their answers say', () => {
    const found = read(
      [
        '1. (T/F) Leeway is caused by wind.',
        'Answer: True',
        '2. How many cables are a mile?',
        'Answer: 10',
        '3. What is one tenth of a mile called?',
        'Answer: cable; cable length',
        '4. The ____ lasts about ____ hours.',
        'Answer: flood; 6',
        '5. Describe a running fix.',
        '6. Is it raining?',
        'A. True',
        '*B. False',
      ].join('\n'),
    );
    expect(found.map((one) => one.content?.type)).toEqual([
      'true-false',
      'numeric',
      'short-text',
      'gap-fill',
      'written',
      'true-false',
    ]);
    expect(richText((found[0] as { content: QuestionContent }).content.stem)).toBe('Leeway is caused by wind.');
    expect(found[0]?.content).toMatchObject({ answer: true });
    expect(found[3]?.content).toMatchObject({ gaps: [{ kind: 'text' }, { kind: 'number' }] });
    expect(found[5]?.content).toMatchObject({ answer: false });
    expect(found.map((one) => one.at)).toEqual([1, 3, 5, 7, 9, 10]);
  });

  it.each([
    ['1. It floats.\n*True\nFalse', true],
    ['1. It floats.\nTrue\nFalse *', false],
    ['1. It floats.\n* True\nFalse', true],
    ['1. It floats.\nFalse\n✓ True\n', true],
    ['1. It floats.\nTrue\nFalse\nAnswer: True', true],
    ['1. It floats.\nF', false],
  ])('are statements whose two words stand below them: %j', (text, answer) => {
    const [one, ...others] = read(text);
    expect(others).toEqual([]);
    expect(one).toMatchObject({ problems: [], content: { type: 'true-false', answer } });
    expect(richText((one as { content: QuestionContent }).content.stem)).toBe('It floats.');
  });

  it('are no statements where neither of the two words is marked', () => {
    const [one] = read('1. It floats.\nTrue\nFalse\n\n2. Why?\nAnswer: wood') as [Brought];
    expect(errors(one)).toEqual(['No choice is marked as right.']);
  });

  it('say why one of them cannot be read, at its line', () => {
    const found = read(
      '1. A\na) x\nb) y\n2. B\na) x\nb) y\nAnswer: D\n3. The ____ and ____\nAnswer: one\n4. It floats (T/F)\n5. Good?\na) x\n*b) y',
    );
    expect(found.map((one) => [one.at, ...errors(one)])).toEqual([
      [1, 'No choice is marked as right.'],
      [4, 'The answer names choice D, and there are only 2 choices.'],
      [8, 'The text has 2 blanks and 1 answer; divide answers by semicolons.'],
      [10, 'Whether it is true or false is not said.'],
      [11],
    ]);
  });

  it('never fail, whatever is pasted', () => {
    const piece = fc.constantFrom(
      '1. ',
      'a) ',
      'b) ',
      '*',
      'Answer: ',
      'B',
      'Key',
      '\n',
      '____',
      'T/F',
      'Points: x',
      'word ',
      '7',
      ';',
      '(c) ',
    );
    fc.assert(
      fc.property(fc.array(piece, { maxLength: 60 }), (pieces) => {
        for (const one of read(pieces.join(''))) expect(one.content !== null || errors(one).length > 0).toBe(true);
      }),
      { seed: 4, numRuns: 500 },
    );
  });
});

describe('tables of questions', () => {
  it('are understood by their headings', () => {
    expect(
      guessColumns(['Question', 'Option A', 'Option B', 'Correct', 'Marks', 'Topic', 'whatever', 'Question 2']),
    ).toEqual(['text', 'choice', 'choice', 'answer', 'points', 'category', 'ignore', 'ignore']);
  });

  it('are read row by row, with a reason for each that cannot be', () => {
    const found = readTable(
      [
        ['Which side?', 'port', 'starboard', 'B', '2', 'hard'],
        ['', '', '', '', '', ''],
        ['', 'x', 'y', 'A', '', ''],
        ['How many?', '', '', '12', 'two', 'odd'],
        ['Star', '* x', 'y', '', '', ''],
      ],
      ['text', 'choice', 'choice', 'answer', 'points', 'difficulty'],
    );
    expect(found.map((one) => one.at)).toEqual([2, 4, 5, 6]);
    expect(right(found[0])).toEqual(['starboard']);
    expect(found[0]).toMatchObject({ points: 2, difficulty: 'hard' });
    expect(errors(found[1])).toEqual(['There is no question text in this row.']);
    expect(found[2]).toMatchObject({ points: null, difficulty: null, problems: { length: 2 } });
    expect(right(found[3])).toEqual(['x']);
  });

  it('read back to the same questions, through CSV as well', () => {
    fc.assert(
      fc.property(fc.array(anyQuestion, { minLength: 1, maxLength: 6 }), (any) => {
        const contents = any.map((content) => questionContent.parse(content));
        const [headings = [], ...rows] = tableOf(
          contents.map((content, i) => ({
            name: i % 2 ? '=1+1' : `name ${i}`,
            type: content.type,
            category: 'A › B',
            difficulty: 'easy',
            points: 2.5,
            tags: ['one', 'two'],
            objectives: ['N1'],
            content,
          })),
        );
        const back = readCsv(csvText(headings, rows));
        const found = readTable(back.slice(1), guessColumns(back[0] ?? []));
        expect(found.map((one) => one.content)).toEqual(JSON.parse(JSON.stringify(contents)));
        expect(found[0]).toMatchObject({
          shortName: 'name 0',
          category: 'A › B',
          difficulty: 'easy',
          points: 2.5,
          tags: ['one', 'two'],
          objectives: ['N1'],
        });
        if (found[1]) expect(found[1].shortName).toBe('=1+1');
      }),
      { seed: 6, numRuns: 100 },
    );
  });

  it('hold what was changed in the readable columns', () => {
    const content = only(four('*')).content as QuestionContent;
    const [headings = [], row = []] = tableOf([
      { name: '', type: content.type, category: '', difficulty: null, points: null, tags: [], objectives: [], content },
    ]);
    const changed = row.map((cell) => (cell === 'A' ? 'C' : cell));
    const [one] = readTable([changed], guessColumns(headings));
    expect(right(one)).toEqual(['base to base']);
    expect(one?.problems[0]?.message).toContain('differ from the definition');
  });

  it('keep formulas from running and give them back as they were', () => {
    for (const text of ['=cmd|x', '+1+1', '-a', '@x', '\t=1', ' =1']) {
      expect(harmless(text).startsWith("'")).toBe(true);
      expect(unguarded(harmless(text))).toBe(text);
    }
  });
});
