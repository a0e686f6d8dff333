import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { inNameOrder, lastNameOf, mayBeSameName, nameInList, signInNameFrom, tidySignInName } from './names';

const named = (name: string, lastName = '') => ({ name, lastName });

describe('names', () => {
  it.each([
    ['Mia Lind', '', 'Lind', 'Lind, Mia'],
    ['Ida van der Berg', '', 'van der Berg', 'van der Berg, Ida'],
    ['Ida Maria Berg', 'Maria Berg', 'Maria Berg', 'Maria Berg, Ida'],
    // The family's name may be said first.
    ['Li Wei', 'Li', 'Li', 'Li, Wei'],
    ['Mononym', '', 'Mononym', 'Mononym'],
    // Small letters throughout: the first word is nobody's last name.
    ['bell hooks', '', 'hooks', 'hooks, bell'],
    ['Mia Lind', 'Berg', 'Berg', 'Berg, Mia Lind'],
  ])('%s (%s) is sorted under %s', (name, lastName, last, inList) => {
    expect(lastNameOf(named(name, lastName))).toBe(last);
    expect(nameInList(named(name, lastName), 'last')).toBe(inList);
    expect(nameInList(named(name, lastName), 'first')).toBe(name);
  });

  it('are sorted by either', () => {
    const people = [named('Åse Bø'), named('Bo Ek'), named('Zoë Dahl'), named('Cy van Ek')];
    expect(inNameOrder(people, 'first').map(({ name }) => name)).toEqual(['Åse Bø', 'Bo Ek', 'Zoë Dahl', 'Cy van Ek']);
    expect(inNameOrder(people, 'last').map(({ name }) => name)).toEqual([
      'Bø, Åse',
      'Dahl, Zoë',
      'Ek, Bo',
      'van Ek, Cy',
    ]);
  });

  it('may be the same in another spelling', () => {
    expect(mayBeSameName('Lind, Mia', 'Mia K. Lind')).toBe(true);
    expect(mayBeSameName('José Peña', 'jose pena')).toBe(true);
    expect(mayBeSameName('Mia Lind', 'Mia Berg')).toBe(false);
    expect(mayBeSameName('Mia', '')).toBe(false);
    fc.assert(
      fc.property(fc.array(fc.stringMatching(/^[a-z]{2,6}$/), { minLength: 1, maxLength: 4 }), (words) => {
        expect(mayBeSameName(words.join(' '), [...words].reverse().join(', '))).toBe(true);
      }),
    );
  });

  it('make a name to sign in with', () => {
    expect(signInNameFrom('Zoë van Dijk')).toBe('zoe.van.dijk');
    expect(signInNameFrom("O'Brien-Smith, Al")).toBe('o.brien.smith.al');
    expect(signInNameFrom('陈 伟')).toBe('陈.伟');
    expect(tidySignInName('  S1001 ')).toBe('s1001');
    // Whatever the letters: what is made of a name is found when it is typed.
    for (const name of ['김 민수', 'ﬁa Ŀluís', 'Ångström Åse', 'ガ ギ'])
      expect(tidySignInName(signInNameFrom(name))).toBe(signInNameFrom(name));
  });
});
