// @vitest-environment jsdom
import { act, renderHook } from '@testing-library/react';
import type { ReactNode } from 'react';
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { KeepingFor } from './KeepingFor';
import { useWritten } from './useWritten';

beforeEach(() => {
  localStorage.clear();
  vi.useFakeTimers();
});
afterEach(() => vi.useRealTimers());

const as =
  (userId: string, letter = userId) =>
  ({ children }: { children: ReactNode }) => (
    <KeepingFor userId={userId} journalKey={btoa(letter.repeat(32))}>
      {children}
    </KeepingFor>
  );
const open = (who = 'a', first = '') =>
  renderHook(() => useWritten('remark', (text) => (text.trim() ? 'A remark' : null), first), { wrapper: as(who) });

it('brings back what was typed and not sent, for its person alone, and nothing once it was sent', () => {
  const one = open();
  act(() => one.result.current.change('first words'));
  // The page is left within the pause.
  one.unmount();
  expect(localStorage.length).toBe(1);
  expect(JSON.stringify({ ...localStorage })).not.toContain('first words');
  expect(open('b').result.current).toMatchObject({ value: '', broughtBack: false });
  const back = open();
  expect(back.result.current).toMatchObject({ value: 'first words', broughtBack: true, isUnfinished: true });
  act(() => back.result.current.done());
  expect(back.result.current).toMatchObject({ value: '', isUnfinished: false });
  back.unmount();
  expect(localStorage.length).toBe(0);
});

it('keeps nothing that is as it was, nor what is not worth finding again', () => {
  const { result } = open();
  act(() => result.current.change('words'));
  act(() => vi.advanceTimersByTime(400));
  expect(localStorage.length).toBe(1);
  act(() => result.current.change('  '));
  act(() => vi.advanceTimersByTime(400));
  expect(localStorage.length).toBe(0);
});

it('goes on from what the server has', () => {
  const { result } = open('a', 'stored');
  act(() => result.current.change('changed'));
  act(() => result.current.saved());
  expect(result.current).toMatchObject({ value: 'changed', isUnfinished: false });
  act(() => vi.advanceTimersByTime(400));
  expect(localStorage.length).toBe(0);
});

it('says so where the browser has no room for it', () => {
  const { result } = open();
  vi.spyOn(Storage.prototype, 'setItem').mockImplementation(() => {
    throw new DOMException('full', 'QuotaExceededError');
  });
  act(() => result.current.change('x'.repeat(2_000_000)));
  act(() => vi.advanceTimersByTime(400));
  expect(result.current.isKept).toBe(false);
  expect(result.current.value).toHaveLength(2_000_000);
  vi.restoreAllMocks();
});
