import { describe, expect, it } from 'vitest';
import { bankView } from './bankView';
import { everyQuestion, type QuestionFilter } from './questionFilter';

const bank = { categories: ['tides', 'lights', 'buoys'], all: false, openIn: null };
const view = (asked: Partial<QuestionFilter>, more: Partial<typeof bank> | { openIn: string } = {}) => {
  const { flat, filter, lists } = bankView({ ...everyQuestion, ...asked }, { ...bank, ...more });
  return { flat, lists, categories: filter.categories, below: filter.below };
};

describe('a bank is shown', () => {
  it('as an outline with everything closed where nothing is asked for', () => {
    expect(view({})).toEqual({ flat: false, lists: false, categories: [], below: false });
  });

  it('as an outline with one category open, which lists its own questions only', () => {
    const open = { flat: false, lists: true, categories: ['tides'], below: false };
    expect(view({ categories: ['tides'] })).toEqual(open);
    expect(view({ categories: ['tides', 'gone'], sort: 'name', down: true })).toEqual(open);
    expect(view({}, { openIn: 'tides' })).toEqual(open);
    // What was named goes before where the opened question stands.
    expect(view({ categories: ['tides'] }, { openIn: 'lights' })).toEqual(open);
  });

  it('as one list, with what lies below, where more than one category is asked for, or anything else', () => {
    const categories = ['tides', 'lights'];
    expect(view({ categories })).toEqual({ flat: true, lists: true, categories, below: true });
    expect(view({ text: 'ebb', categories: ['tides'] })).toEqual({
      flat: true,
      lists: true,
      categories: ['tides'],
      below: true,
    });
    for (const narrowed of [{ types: ['numeric' as const] }, { used: 'never' as const }, { passage: true }])
      expect(view(narrowed, { openIn: 'tides' })).toEqual({ flat: true, lists: true, categories: [], below: true });
    expect(view({}, { all: true })).toEqual({ flat: true, lists: true, categories: [], below: true });
  });

  it('without categories that it does not have', () => {
    expect(view({ categories: ['gone'] })).toEqual({ flat: false, lists: false, categories: [], below: false });
  });
});
