// @vitest-environment jsdom
import { act, renderHook } from '@testing-library/react';
import type { ReactNode } from 'react';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { Result } from '@/core/base/result';
import { KeepingFor } from '../keep/KeepingFor';
import type { EnteredRules } from './RulesSentences';
import { useRules } from './useRules';

vi.mock('next/navigation', () => ({ useRouter: () => ({ refresh: vi.fn() }) }));

const stored = { title: 'Quiz', opens: '', closes: '' } as EnteredRules;
type Answer = Result<null> | 'lost';
let answers: Answer[];
let sent: Partial<EnteredRules>[];
beforeEach(() => {
  localStorage.clear();
  vi.useFakeTimers();
  answers = [];
  sent = [];
});
afterEach(() => vi.useRealTimers());

const wrapper = ({ children }: { children: ReactNode }) => (
  <KeepingFor userId="a" journalKey={btoa('a'.repeat(32))}>
    {children}
  </KeepingFor>
);
const open = (isDraft: boolean) =>
  renderHook(
    () =>
      useRules({
        title: 'Rules of the quiz',
        stored: () => stored,
        isDraft,
        save: async (part) => {
          sent.push(part);
          const answer = answers.shift() ?? { ok: true, value: null };
          if (answer === 'lost') throw new Error('no network');
          return answer;
        },
      }),
    { wrapper },
  );
const settle = (milliseconds = 0) => act(() => vi.advanceTimersByTimeAsync(milliseconds));
const refused: Answer = {
  ok: false,
  problems: [{ code: 'bad-input', field: 'closes', message: 'It closes before it opens.' }],
};

describe('the rules of a draft', () => {
  it('are saved one by one, and nothing of them stays in the browser', async () => {
    const { result, unmount } = open(true);
    act(() => result.current.change({ title: 'Test' }));
    await settle(400);
    expect(sent).toEqual([{ title: 'Test' }]);
    expect(result.current).toMatchObject({ isChanged: false, entered: { title: 'Test' } });
    unmount();
    expect(localStorage.length).toBe(0);
  });

  it('whose saving got no answer stand on the page, and are sent again by themselves', async () => {
    answers = ['lost', 'lost'];
    const { result } = open(true);
    act(() => result.current.change({ closes: '2026-12-01T10:00' }));
    await settle(400);
    expect(result.current).toMatchObject({ isChanged: true, entered: { closes: '2026-12-01T10:00' } });
    for (let i = 0; i < 4; i++) await settle(2_500);
    expect(sent).toHaveLength(3);
    expect(result.current).toMatchObject({ isChanged: false, entered: { closes: '2026-12-01T10:00' }, problems: [] });
  });

  it('are sent from the page as it is opened the next time, where it was left before they arrived', async () => {
    answers = ['lost'];
    const first = open(true);
    act(() => first.result.current.change({ title: 'Test' }));
    await settle(100);
    first.unmount();
    const next = open(true);
    expect(next.result.current.entered.title).toBe('Test');
    await settle(3_000);
    expect(sent).toEqual([{ title: 'Test' }, { title: 'Test' }]);
    expect(next.result.current.isChanged).toBe(false);
  });

  it('that were refused are not shown as set', async () => {
    answers = [refused];
    const { result } = open(true);
    act(() => result.current.change({ closes: '2026-01-01T10:00' }));
    await settle(5_000);
    expect(sent).toHaveLength(1);
    expect(result.current).toMatchObject({ isChanged: false, entered: { closes: '' } });
    expect(result.current.problems[0]?.message).toBe('It closes before it opens.');
  });
});

describe('the rules of what is scheduled', () => {
  it('wait until they are applied, also after the page was left, and stay where applying was refused', async () => {
    const first = open(false);
    act(() => first.result.current.change({ closes: '2026-12-01T10:00' }));
    await settle(5_000);
    expect(sent).toEqual([]);
    first.unmount();
    const next = open(false);
    expect(next.result.current).toMatchObject({ isChanged: true, entered: { closes: '2026-12-01T10:00' } });
    answers = [refused];
    await act(async () => expect(await next.result.current.apply()).toBe(false));
    expect(next.result.current).toMatchObject({ isChanged: true, entered: { closes: '2026-12-01T10:00' } });
    await act(async () => expect(await next.result.current.apply()).toBe(true));
    expect(next.result.current).toMatchObject({ isChanged: false, entered: { closes: '2026-12-01T10:00' } });
    next.unmount();
    expect(localStorage.length).toBe(0);
  });

  it('are as they were when they are left so', async () => {
    const { result } = open(false);
    act(() => result.current.change({ title: 'Other' }));
    act(() => result.current.discard());
    expect(result.current).toMatchObject({ isChanged: false, entered: { title: 'Quiz' } });
    await settle(400);
    expect(localStorage.length).toBe(0);
  });
});
