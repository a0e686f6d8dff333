import { describe, expect, it } from 'vitest';
import { richFromText } from '@/core/base/rich';
import type { QuestionContent } from '@/core/question/content';
import { type Fields, joinedFields } from './fields';

const choices = (right: readonly string[]): QuestionContent => ({
  type: 'multiple-choice',
  stem: richFromText('Which lights are white?'),
  choices: ['masthead', 'stern', 'side'].map((text) => ({
    id: text,
    content: richFromText(text),
    right: right.includes(text),
    pinned: false,
  })),
  shuffle: true,
  rule: 'wrong-cancels-right',
  feedback: {},
});
const base: Fields = {
  categoryId: 'lights',
  shortName: 'White',
  difficulty: 'easy',
  points: '',
  content: choices(['masthead']),
  tags: [],
  passageId: null,
  objectives: [],
};

describe('a sheet that two people changed', () => {
  it('is joined where they do not touch, and says what is theirs', () => {
    const joined = joinedFields(
      base,
      { ...base, shortName: 'White lights' },
      { ...base, difficulty: 'hard', tags: ['colours'] },
    );
    expect(joined).toEqual({
      fields: { ...base, shortName: 'White lights', difficulty: 'hard', tags: ['colours'] },
      touch: false,
      taken: ['difficulty', 'tags'],
    });
  });

  it('keeps mine where both changed a field, and says that they touch', () => {
    const joined = joinedFields(base, { ...base, points: '2' }, { ...base, points: '3' });
    expect(joined).toMatchObject({ touch: true, taken: [], fields: { points: '2' } });
  });

  it('never makes a key of two halves: one marks one choice, the other another', () => {
    const mine = { ...base, content: choices(['masthead', 'stern']) };
    const theirs = { ...base, content: choices(['masthead', 'side']) };
    const joined = joinedFields(base, mine, theirs);
    expect(joined.touch).toBe(true);
    expect(joined.fields.content).toEqual(mine.content);
  });

  it('takes their question whole where mine was not touched', () => {
    const theirs = { ...base, content: choices(['stern']) };
    expect(joinedFields(base, { ...base, difficulty: null }, theirs)).toMatchObject({
      touch: false,
      taken: ['the question'],
      fields: { difficulty: null, content: theirs.content },
    });
  });
});
