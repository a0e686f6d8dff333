import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { richFromText, richText } from '../base/rich';
import { anyQuestion } from '../testing/anyQuestion';
import type { QuestionContent } from './content';
import { feedbackFor, keyOnly, withoutFeedback } from './feedbackFor';

const choices: QuestionContent = {
  type: 'multiple-choice',
  stem: richFromText('Which?'),
  shuffle: true,
  rule: 'all-or-nothing',
  choices: [
    { id: 'a', content: richFromText('Ebb'), right: true, pinned: false, feedback: richFromText('about ebb') },
    { id: 'b', content: richFromText('Flood'), right: false, pinned: false, feedback: richFromText('about flood') },
  ],
  feedback: { right: richFromText('well done'), wrong: richFromText('not quite'), hint: richFromText('hint') },
} as QuestionContent;
const laidOut = {
  choices: [
    { key: 'x', id: 'b' },
    { key: 'y', id: 'a' },
  ],
};
const said = (content: QuestionContent, stored: unknown, right: boolean | null, presentation = {}) =>
  feedbackFor(content, presentation, stored, right).map((one) => `${one.about}|${richText(one.said)}`);

describe('what a question says to an answer', () => {
  it('is what it says of the picked choices, by their keys on this paper, and to a right or another answer', () => {
    expect(said(choices, { picked: ['x'] }, false, laidOut)).toEqual(['Flood|about flood', '|not quite']);
    expect(said(choices, { picked: ['y'] }, true, laidOut)).toEqual(['Ebb|about ebb', '|well done']);
    expect(said(choices, { picked: ['x', 'y'] }, null, laidOut)).toEqual(['Flood|about flood', 'Ebb|about ebb']);
    expect(said(choices, null, null, laidOut)).toEqual([]);
    expect(said(choices, { picked: ['q'] }, false, laidOut)).toEqual(['|not quite']);
  });

  it('is what it says of the accepted text or number that the answer was taken for', () => {
    const text = {
      type: 'short-text',
      stem: richFromText('Call it'),
      accepted: [
        { text: 'neap tide', credit: 1 },
        { text: 'spring tide', credit: 0, feedback: richFromText('the other one') },
      ],
      matching: { ignore: { case: true, accents: true, spacing: true }, slips: 0, wildcards: false },
      feedback: {},
    } as QuestionContent;
    expect(said(text, { text: 'Spring Tide' }, false)).toEqual(['Spring Tide|the other one']);
    expect(said(text, { text: 'ebb' }, false)).toEqual([]);
    const number = {
      type: 'numeric',
      stem: richFromText('How many?'),
      accepted: [
        { value: '7', tolerance: { kind: 'absolute', amount: 0 }, credit: 0, feedback: richFromText('off by one') },
      ],
      feedback: {},
    } as QuestionContent;
    expect(said(number, { text: '7' }, false)).toEqual(['7|off by one']);
  });

  it('is what it says of calling the statement true or false, and of what was entered in a gap', () => {
    const statement = {
      type: 'true-false',
      stem: richFromText('Ebb is high water.'),
      answer: false,
      onTrue: richFromText('that is flood'),
      onFalse: richFromText('as it is'),
      feedback: { wrong: richFromText('not quite') },
    } as QuestionContent;
    expect(said(statement, { picked: true }, false)).toEqual(['True|that is flood', '|not quite']);
    expect(said(statement, { picked: false }, null)).toEqual(['False|as it is']);
    const gaps = {
      type: 'gap-fill',
      stem: richFromText('x'),
      gaps: [
        {
          id: 'g0',
          kind: 'text',
          weight: 1,
          accepted: [{ text: 'spring', credit: 0, feedback: richFromText('the other one') }],
          matching: { ignore: { case: true, accents: true, spacing: true }, slips: 0, wildcards: false },
        },
        {
          id: 'g1',
          kind: 'number',
          weight: 1,
          accepted: [
            { value: '7', tolerance: { kind: 'absolute', amount: 0 }, credit: 0, feedback: richFromText('off by one') },
          ],
        },
      ],
      feedback: {},
    } as QuestionContent;
    expect(said(gaps, { gaps: { g0: 'Spring', g1: '7.0' } }, false)).toEqual([
      'Spring|the other one',
      '7.0|off by one',
    ]);
    expect(said(gaps, { gaps: { g1: '8' } }, false)).toEqual([]);
  });

  it('does not come with the key', () => {
    const statement = {
      type: 'true-false',
      stem: richFromText('Ebb is high water.'),
      answer: false,
      onTrue: richFromText('that is flood'),
      onFalse: richFromText('as it is'),
      feedback: {},
    } as QuestionContent;
    expect(keyOnly(statement)).toEqual({ type: 'true-false', stem: statement.stem, answer: false, feedback: {} });
  });

  it('is nowhere left in a question without its feedback, of whatever type', () => {
    fc.assert(
      fc.property(anyQuestion, (content) => {
        const bare = withoutFeedback(content);
        expect(bare.feedback).toEqual({});
        expect(JSON.stringify({ ...bare, feedback: undefined })).not.toContain('"feedback"');
        expect(bare.stem).toEqual(content.stem);
      }),
    );
  });
});
