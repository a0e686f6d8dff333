// @vitest-environment jsdom
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { ok, type Result, refused } from '@/core/base/result';
import { sentUntilAnswered } from './sentUntilAnswered';

beforeEach(() => vi.useFakeTimers());
afterEach(() => vi.useRealTimers());

const settle = () => vi.advanceTimersByTimeAsync(0);

it('sends again after a pause, at once when the network is back, and tells that it waits', async () => {
  const answers: (Result<number> | null)[] = [null, refused('signed-out', 'Sign in.'), null, ok(7)];
  const waits: boolean[] = [];
  let sent = 0;
  const answer = sentUntilAnswered(
    async () => {
      const next = answers[sent++];
      if (!next) throw new Error('lost');
      return next;
    },
    (waiting) => waits.push(waiting),
  );
  await settle();
  expect(sent).toBe(1);
  await vi.advanceTimersByTimeAsync(1_500);
  expect(sent).toBe(2);
  window.dispatchEvent(new Event('focus'));
  await settle();
  expect(sent).toBe(3);
  window.dispatchEvent(new Event('online'));
  await settle();
  expect(await answer).toEqual(ok(7));
  expect(waits).toEqual([true, true, true, false]);
});

it('tells a refusal at once', async () => {
  let sent = 0;
  const answer = await sentUntilAnswered(
    async () => {
      sent++;
      return refused('conflict', 'Somebody else.');
    },
    () => undefined,
  );
  expect([sent, answer.ok]).toEqual([1, false]);
});
