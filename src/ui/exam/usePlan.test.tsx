// @vitest-environment jsdom
import type { OpenExam } from '@/server/exam/exams';
import '../testing/dom';
import { act, renderHook } from '@testing-library/react';
import type { ReactNode } from 'react';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { onceNameOf } from '@/core/base/once';
import { ok, refused } from '@/core/base/result';
import { exampleDesign, exampleDraw } from '@/core/testing/exampleExam';
import { KeepingFor } from '../keep/KeepingFor';
import { type PlanCommands, usePlan } from './usePlan';

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

/** A server that counts edits, keeps what it was sent, and carries out once what has a name. */
function server() {
  const sent: { title: string; edit: number }[] = [];
  const answered = new Map<string, unknown>();
  const stored = { ...plan('stored') };
  const fault = { now: 'none' as 'none' | 'request-lost' | 'answer-lost' };
  const save = async (input: unknown, once?: unknown) => {
    if (fault.now === 'request-lost') throw new Error('down');
    const { title, edit, design } = input as { title: string; edit: number; design: OpenExam['design'] };
    const name = onceNameOf(once) ?? '';
    if (!answered.has(name)) {
      if (edit !== stored.edit) return refused('conflict', 'Someone else has changed this exam.');
      sent.push({ title, edit });
      Object.assign(stored, { title, design, edit: edit + 1 });
      answered.set(name, ok({ edit: edit + 1, revision: 1, behind: 0, check: {} as OpenExam['check'], fixed: {} }));
    }
    if (fault.now === 'answer-lost') throw new Error('down');
    return answered.get(name);
  };
  const commands = { saveExam: save, openExam: async () => ok({ ...stored }) } as unknown as PlanCommands;
  return { sent, save, stored, fault, commands };
}
const pass = (ms: number) => act(() => vi.advanceTimersByTimeAsync(ms));

beforeEach(() => vi.useFakeTimers());
afterEach(() => vi.useRealTimers());

describe('an exam being planned', () => {
  it('saves itself after a pause, once for a burst of changes, each from the edit before', async () => {
    const { sent, commands } = server();
    const { result } = renderHook(() => usePlan(plan('burst'), commands));
    for (const title of ['B', 'Be', 'Bearings']) act(() => result.current.setTitle(title));
    expect(result.current.state.kind).toBe('typed');
    await pass(600);
    act(() => result.current.setTitle('Bearings and fixes'));
    await pass(600);
    expect(sent).toEqual([
      { title: 'Bearings', edit: 1 },
      { title: 'Bearings and fixes', edit: 2 },
    ]);
    expect(result.current.state.kind).toBe('kept');
  });

  it('is not called saved while a change waits that was made during the save before', async () => {
    const { sent, save, commands } = server();
    const slow = (...input: [unknown, unknown?]) =>
      new Promise<void>((done) => setTimeout(done, 300)).then(() => save(...input));
    const { result } = renderHook(() => usePlan(plan('slow'), { ...commands, saveExam: slow } as PlanCommands));
    act(() => result.current.setTitle('First'));
    await pass(600);
    act(() => result.current.setTitle('Second'));
    await pass(250);
    expect(sent.map((one) => one.title)).toEqual(['First']);
    expect(result.current.state.kind).toBe('saving');
    await pass(1_000);
    expect(sent.map((one) => one.title)).toEqual(['First', 'Second']);
    expect(result.current.state.kind).toBe('kept');
  });

  it('is saved when it is left within the pause', async () => {
    const { sent, commands } = server();
    const { result, unmount } = renderHook(() => usePlan(plan('left'), commands));
    act(() => result.current.setTitle('Typed and gone'));
    unmount();
    await pass(0);
    expect(sent).toEqual([{ title: 'Typed and gone', edit: 1 }]);
  });

  it('comes back as it was saved when the page brings it as it was fetched', async () => {
    const { sent, commands } = server();
    const first = renderHook(() => usePlan(plan('back'), commands));
    act(() => first.result.current.setTitle('After'));
    await pass(600);
    first.unmount();
    const again = renderHook(() => usePlan(plan('back'), commands));
    expect(again.result.current.title).toBe('After');
    act(() => again.result.current.setTitle('After that'));
    await pass(600);
    expect(sent.at(-1)).toEqual({ title: 'After that', edit: 2 });
    again.unmount();
    // What the server knows to be newer is not put back.
    const newer = renderHook(() => usePlan({ ...plan('back'), title: 'By a colleague', edit: 9 }, commands));
    expect(newer.result.current.title).toBe('By a colleague');
  });

  it('keeps what was changed when the server does not answer, says so, and sends it by itself when it does', async () => {
    const { sent, fault, commands } = server();
    fault.now = 'request-lost';
    const { result } = renderHook(() => usePlan(plan('down'), commands));
    act(() => result.current.setTitle('Kept'));
    await pass(600);
    expect(result.current.state).toEqual({ kind: 'waiting', why: 'no-connection' });
    expect(result.current.title).toBe('Kept');
    fault.now = 'none';
    await pass(2_000);
    expect([result.current.state.kind, sent.map((one) => one.title)]).toEqual(['kept', ['Kept']]);
  });

  it('a save whose answer got lost is not taken for somebody else’s, and nothing typed after it is lost', async () => {
    const { sent, fault, commands } = server();
    const { result } = renderHook(() => usePlan(plan('lost'), commands));
    fault.now = 'answer-lost';
    act(() => result.current.setTitle('One'));
    await pass(600);
    act(() => result.current.setTitle('One, two'));
    fault.now = 'none';
    await pass(3_000);
    expect(result.current.state.kind).toBe('kept');
    expect(sent).toEqual([
      { title: 'One', edit: 1 },
      { title: 'One, two', edit: 2 },
    ]);
  });

  it('joins what a colleague changed elsewhere, and asks where both changed the same', async () => {
    const { stored, commands } = server();
    const { result } = renderHook(() => usePlan(plan('two'), commands));
    Object.assign(stored, { design: { ...stored.design, pages: 'all' }, edit: 2 });
    act(() => result.current.setTitle('Mine'));
    await pass(600);
    expect([stored.title, stored.design.pages, result.current.design.pages]).toEqual(['Mine', 'all', 'all']);
    Object.assign(stored, { title: 'Theirs', edit: 9 });
    act(() => result.current.setTitle('Mine again'));
    await pass(600);
    expect(result.current.state).toMatchObject({ kind: 'clash', clashes: [{ path: ['title'], theirs: 'Theirs' }] });
    expect(stored.title).toBe('Theirs');
    act(() => result.current.settle({ ...result.current.value, title: 'Both' }));
    await pass(600);
    expect([stored.title, result.current.state.kind]).toEqual(['Both', 'kept']);
  });

  it('brings back what was typed before the page was closed, for its person alone', async () => {
    const { fault, sent, commands } = server();
    const key = btoa('k'.repeat(32));
    const as =
      (userId: string, journalKey: string) =>
      ({ children }: { children: ReactNode }) => (
        <KeepingFor userId={userId} journalKey={journalKey}>
          {children}
        </KeepingFor>
      );
    fault.now = 'request-lost';
    const first = renderHook(() => usePlan(plan('lid'), commands), { wrapper: as('ada', key) });
    act(() => first.result.current.setTitle('Two sentences'));
    await pass(600);
    first.unmount();
    const other = renderHook(() => usePlan(plan('lid'), commands), { wrapper: as('ben', btoa('b'.repeat(32))) });
    expect(other.result.current.title).toBe('Before');
    other.unmount();
    const again = renderHook(() => usePlan(plan('lid'), commands), { wrapper: as('ada', key) });
    expect([again.result.current.title, again.result.current.broughtBack]).toEqual(['Two sentences', true]);
    fault.now = 'none';
    await pass(2_000);
    expect(sent.map((one) => one.title)).toEqual(['Two sentences']);
    expect(Object.keys(localStorage)).toEqual([]);
  });
});
