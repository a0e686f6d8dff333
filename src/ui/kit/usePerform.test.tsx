// @vitest-environment jsdom
import '../testing/dom';
import { act, render, screen, waitFor } from '@testing-library/react';
import { expect, it, vi } from 'vitest';
import { ok, type Result } from '@/core/base/result';
import { usePerform } from './usePerform';

const refresh = vi.fn();
vi.mock('next/navigation', () => ({ useRouter: () => ({ refresh }) }));

type Answer = (answer: Result<null>) => void;

function Doer({ name, asked }: { name: string; asked: Answer[] }) {
  const { perform } = usePerform();
  return (
    <button type="button" onClick={() => void perform(() => new Promise<Result<null>>((answer) => asked.push(answer)))}>
      {name}
    </button>
  );
}

function Quiet({ readsAnew }: { readsAnew?: boolean }) {
  const { perform } = usePerform();
  const act = () => void perform(async () => ok(null), undefined, readsAnew === undefined ? undefined : { readsAnew });
  return (
    <button type="button" onClick={act}>
      {String(readsAnew)}
    </button>
  );
}

it('the page is read anew after a success, unless whoever asks shows by themselves what has changed', async () => {
  render(
    <>
      <Quiet />
      <Quiet readsAnew={false} />
    </>,
  );
  await act(async () => screen.getByText('false').click());
  expect(refresh).not.toHaveBeenCalled();
  await act(async () => screen.getByText('undefined').click());
  expect(refresh).toHaveBeenCalledOnce();
});

it('the page says that something is under way until the last command is answered', async () => {
  const asked: Answer[] = [];
  render(
    <>
      <Doer name="one" asked={asked} />
      <Doer name="two" asked={asked} />
    </>,
  );
  const isUnderWay = () => document.documentElement.hasAttribute('data-under-way');
  expect(isUnderWay()).toBe(false);
  for (const name of ['one', 'two']) await act(async () => screen.getByText(name).click());
  expect(isUnderWay()).toBe(true);
  await act(async () => asked[0]?.(ok(null)));
  expect(isUnderWay()).toBe(true);
  await act(async () => asked[1]?.(ok(null)));
  await waitFor(() => expect(isUnderWay()).toBe(false));
});
