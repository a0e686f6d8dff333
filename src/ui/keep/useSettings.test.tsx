// @vitest-environment jsdom
import { act, renderHook } from '@testing-library/react';
import type { ReactNode } from 'react';
import { beforeEach, describe, expect, it } from 'vitest';
import { KeepingFor } from './KeepingFor';
import { useSettings } from './useSettings';

type Fields = { name: string; term: string };

beforeEach(() => localStorage.clear());

const wrapper = ({ children }: { children: ReactNode }) => (
  <KeepingFor userId="a" journalKey={btoa('a'.repeat(32))}>
    {children}
  </KeepingFor>
);
const open = (stored: Fields) =>
  renderHook((now: Fields) => useSettings('course', 'The course', now), { wrapper, initialProps: stored });

const begun = { name: 'Charts', term: 'Autumn' };

describe('settings that two people change', () => {
  it('are joined where they do not touch: what is saved has both', () => {
    const page = open(begun);
    act(() => page.result.current.change({ ...begun, name: 'Charts and tides' }));
    page.rerender({ ...begun, term: 'Spring' });
    expect(page.result.current).toMatchObject({
      entered: { name: 'Charts and tides', term: 'Spring' },
      seen: { name: 'Charts', term: 'Spring' },
      clashes: [],
      isUnfinished: true,
    });
  });

  it('stand side by side where both touched the same, also after the page was left', () => {
    const page = open(begun);
    act(() => page.result.current.change({ ...begun, name: 'Mine' }));
    page.unmount();
    const back = open({ ...begun, name: 'Theirs' });
    expect(back.result.current.entered.name).toBe('Mine');
    expect(back.result.current.clashes).toEqual([{ path: ['name'], base: 'Charts', mine: 'Mine', theirs: 'Theirs' }]);
    // Typing on is a decision: whoever does it has both before their eyes.
    act(() => back.result.current.change({ ...begun, name: 'Mine and theirs' }));
    expect(back.result.current).toMatchObject({ entered: { name: 'Mine and theirs' }, clashes: [] });
    act(() => back.result.current.saved());
    expect(back.result.current.isUnfinished).toBe(false);
    back.rerender({ ...begun, name: 'Mine and theirs' });
    expect(back.result.current).toMatchObject({ isUnfinished: false, clashes: [] });
    back.unmount();
    expect(localStorage.length).toBe(0);
  });

  it('are not unfinished once they are as they were', () => {
    const page = open(begun);
    act(() => page.result.current.change({ ...begun, name: 'Other' }));
    act(() => page.result.current.change({ ...begun }));
    expect(page.result.current.isUnfinished).toBe(false);
  });
});
