// @vitest-environment jsdom
import type { OpenExam } from '@/server/exam/exams';
import '../testing/dom';
import { act, renderHook } from '@testing-library/react';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { exampleDesign, exampleDraw } from '@/core/testing/exampleExam';
import { usePlan } from './usePlan';

const plan = (id: string): OpenExam => ({
  id,
  title: 'Before',
  revision: 1,
  edit: 1,
  labels: { year: '', subject: '', level: '' },
  frozen: false,
  behind: 0,
  design: exampleDesign([exampleDraw('line-1', 2, ['tides'])]),
  check: {} as OpenExam['check'],
  looks: [],
  remarks: 0,
  fixed: {},
  sources: { categories: [], exams: [], objectives: [], tags: [] },
});

/** A server that counts edits and keeps what it was sent. */
function server() {
  const sent: { title: string; edit: number }[] = [];
  let edit = 1;
  const save = async (input: unknown) => {
    const { title, edit: from } = input as { title: string; edit: number };
    sent.push({ title, edit: from });
    edit += 1;
    return { ok: true as const, value: { edit, revision: 1, behind: 0, check: {} as OpenExam['check'], fixed: {} } };
  };
  return { sent, save };
}
const pass = (ms: number) => act(() => vi.advanceTimersByTimeAsync(ms));

beforeEach(() => vi.useFakeTimers());
afterEach(() => vi.useRealTimers());

describe('an exam being planned', () => {
  it('saves itself after a pause, once for a burst of changes, each from the edit before', async () => {
    const { sent, save } = server();
    const { result } = renderHook(() => usePlan(plan('burst'), save));
    for (const title of ['B', 'Be', 'Bearings']) act(() => result.current.setTitle(title));
    expect(result.current.state).toBe('waiting');
    await pass(600);
    act(() => result.current.setTitle('Bearings and fixes'));
    await pass(600);
    expect(sent).toEqual([
      { title: 'Bearings', edit: 1 },
      { title: 'Bearings and fixes', edit: 2 },
    ]);
    expect(result.current.state).toBe('saved');
  });

  it('is not called saved while a change waits that was made during the save before', async () => {
    const { sent, save } = server();
    const slow = (input: unknown) => new Promise<void>((done) => setTimeout(done, 300)).then(() => save(input));
    const { result } = renderHook(() => usePlan(plan('slow'), slow));
    act(() => result.current.setTitle('First'));
    await pass(600);
    act(() => result.current.setTitle('Second'));
    await pass(250);
    expect(sent.map((one) => one.title)).toEqual(['First']);
    expect(result.current.state).toBe('waiting');
    await pass(1_000);
    expect(sent.map((one) => one.title)).toEqual(['First', 'Second']);
    expect(result.current.state).toBe('saved');
  });

  it('is saved when it is left within the pause', async () => {
    const { sent, save } = server();
    const { result, unmount } = renderHook(() => usePlan(plan('left'), save));
    act(() => result.current.setTitle('Typed and gone'));
    unmount();
    await pass(0);
    expect(sent).toEqual([{ title: 'Typed and gone', edit: 1 }]);
  });

  it('comes back as it was saved when the page brings it as it was fetched', async () => {
    const { sent, save } = server();
    const first = renderHook(() => usePlan(plan('back'), save));
    act(() => first.result.current.setTitle('After'));
    await pass(600);
    first.unmount();
    const again = renderHook(() => usePlan(plan('back'), save));
    expect(again.result.current.title).toBe('After');
    act(() => again.result.current.setTitle('After that'));
    await pass(600);
    expect(sent.at(-1)).toEqual({ title: 'After that', edit: 2 });
    again.unmount();
    // What the server knows to be newer is not put back.
    const newer = renderHook(() => usePlan({ ...plan('back'), title: 'By a colleague', edit: 9 }, save));
    expect(newer.result.current.title).toBe('By a colleague');
  });

  it('keeps what was changed when the server does not answer, and says so', async () => {
    const { result } = renderHook(() => usePlan(plan('down'), () => Promise.reject(new Error('down'))));
    act(() => result.current.setTitle('Kept'));
    await pass(600);
    expect(result.current.state).toBe('failed');
    expect(result.current.title).toBe('Kept');
    expect(result.current.problems[0]?.message).toMatch(/kept on this page/);
  });
});
