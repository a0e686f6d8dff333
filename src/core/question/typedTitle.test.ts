import { expect, it } from 'vitest';
import { richFromText } from '../base/rich';
import { typedTitle } from './content';

it('what is unfinished is named by its short name, or by how its text begins', () => {
  expect(typedTitle({ shortName: ' Neaps ', content: { stem: richFromText('When?') } })).toBe('The question Neaps');
  expect(typedTitle({ shortName: '', content: { stem: richFromText('When are neaps?\nSay it.') } })).toBe(
    'The question “When are neaps?”',
  );
  const long = typedTitle({ content: { stem: richFromText(`${'word '.repeat(40)}end`) } });
  expect(long).toMatch(/^The question “(?:word ){11}word …”$/);
});

it('whatever a draft holds has a name', () => {
  for (const content of [
    undefined,
    null,
    7,
    'x',
    {},
    { stem: null },
    { stem: { type: 'doc', content: [{ type: 'x' }] } },
  ])
    expect(typedTitle({ shortName: 7, content })).toBe('A question without words yet');
});
