// @vitest-environment jsdom
import { act, renderHook } from '@testing-library/react';
import type { ReactNode } from 'react';
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { KeepingFor } from '../keep/KeepingFor';
import { useDraft } from './useDraft';

beforeEach(() => vi.useFakeTimers());
afterEach(() => vi.useRealTimers());

it('a draft that is under way arrives before its question is saved, and none is sent after that', async () => {
  const sent: string[] = [];
  let arrive = () => {};
  const commands = {
    keepDraft: async ({ fields }: { fields: Record<string, unknown> }) => {
      sent.push(String(fields.text));
      await new Promise<void>((resolve) => {
        arrive = resolve;
      });
      return { ok: true as const, value: null };
    },
    giveUpDraft: async () => ({ ok: true as const, value: null }),
  };
  const { result } = renderHook(() => useDraft<{ text: string }>('bank', 'new/x', commands as never, () => {}));
  act(() => result.current.keep(0, { text: 'first' }));
  await act(() => vi.advanceTimersByTimeAsync(800));
  expect(sent).toEqual(['first']);
  act(() => result.current.keep(0, { text: 'second' }));
  let quiet = false;
  void result.current.quiet().then(() => {
    quiet = true;
  });
  await act(() => vi.advanceTimersByTimeAsync(2_000));
  // The second waits in this browser only; the first is still under way.
  expect([sent, quiet]).toEqual([['first'], false]);
  expect(result.current.newest(null)?.fields).toEqual({ text: 'second' });
  arrive();
  await act(() => vi.advanceTimersByTimeAsync(0));
  expect([sent, quiet]).toEqual([['first'], true]);
});

it('a draft that is never answered holds no save up for long', async () => {
  const commands = { keepDraft: () => new Promise(() => {}), giveUpDraft: async () => ({ ok: true, value: null }) };
  const { result } = renderHook(() => useDraft<{ text: string }>('bank', 'new/y', commands as never, () => {}));
  act(() => result.current.keep(0, { text: 'first' }));
  await act(() => vi.advanceTimersByTimeAsync(800));
  let quiet = false;
  void result.current.quiet().then(() => {
    quiet = true;
  });
  await act(() => vi.advanceTimersByTimeAsync(2_900));
  expect(quiet).toBe(false);
  await act(() => vi.advanceTimersByTimeAsync(200));
  expect(quiet).toBe(true);
});

it('what is half written in one bank comes back there, for its author alone, and in no other bank', () => {
  const commands = { keepDraft: () => new Promise(() => {}), giveUpDraft: async () => ({ ok: true, value: null }) };
  const as =
    (userId: string, letter: string) =>
    ({ children }: { children: ReactNode }) => (
      <KeepingFor userId={userId} journalKey={btoa(letter.repeat(32))}>
        {children}
      </KeepingFor>
    );
  const open = (bankId: string, wrapper: ReturnType<typeof as>) =>
    renderHook(() => useDraft<{ text: string }>(bankId, 'new/written', commands as never, () => {}), { wrapper }).result
      .current;
  const ada = as('ada', 'a');
  const begun = open('bank-1', ada);
  act(() => begun.keep(0, { text: 'the key is B' }));
  expect(open('bank-1', ada).newest(null)?.fields).toEqual({ text: 'the key is B' });
  expect(open('bank-2', ada).newest(null)).toBeNull();
  expect(open('bank-1', as('ben', 'b')).newest(null)).toBeNull();
  expect(JSON.stringify({ ...localStorage })).not.toContain('the key is B');
});
