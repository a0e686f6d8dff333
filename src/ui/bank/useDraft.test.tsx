// @vitest-environment jsdom
import { act, renderHook } from '@testing-library/react';
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
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
  const { result } = renderHook(() => useDraft<{ text: string }>('new/x', commands as never, () => {}));
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
  const { result } = renderHook(() => useDraft<{ text: string }>('new/y', commands as never, () => {}));
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
