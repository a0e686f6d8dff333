// @vitest-environment jsdom
import { cleanup, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { TakingKeys } from './TakingKeys';

const scrolled = vi.fn();
beforeEach(() => {
  scrolled.mockClear();
  Element.prototype.scrollIntoView = scrolled;
});
afterEach(cleanup);

const page = () =>
  render(
    <>
      <input aria-label="A short text" />
      <TakingKeys onwardOnly={false} onNext={vi.fn()} onPrevious={vi.fn()} />
    </>,
  );

it('the question mark shows the keys where they are seen, and Escape puts them away', async () => {
  const user = userEvent.setup();
  page();
  await user.keyboard('?');
  expect(screen.getByText('to the next field or button; back with Shift')).toBeTruthy();
  expect(scrolled).toHaveBeenCalledTimes(1);
  await user.keyboard('{Escape}');
  expect(screen.queryByText('to the next field or button; back with Shift')).toBeNull();
});

it('a question mark in an answer is a question mark', async () => {
  const user = userEvent.setup();
  page();
  await user.type(screen.getByLabelText('A short text'), 'Why?');
  expect((screen.getByLabelText('A short text') as HTMLInputElement).value).toBe('Why?');
  expect(scrolled).not.toHaveBeenCalled();
});
