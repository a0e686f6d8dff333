// @vitest-environment jsdom
import '../testing/dom';
import { act, render, screen, waitFor } from '@testing-library/react';
import { expect, it, vi } from 'vitest';
import { ok, type Result } from '@/core/base/result';
import { usePerform } from './usePerform';

vi.mock('next/navigation', () => ({ useRouter: () => ({ refresh: () => undefined }) }));

type Answer = (answer: Result<null>) => void;

function Doer({ name, asked }: { name: string; asked: Answer[] }) {
  const { perform } = usePerform();
  return (
    <button type="button" onClick={() => void perform(() => new Promise<Result<null>>((answer) => asked.push(answer)))}>
      {name}
    </button>
  );
}

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
