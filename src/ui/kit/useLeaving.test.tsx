// @vitest-environment jsdom
import '../testing/dom';
import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it } from 'vitest';
import { useLeaving } from './useLeaving';

let isLeaving: () => boolean;
function Page() {
  isLeaving = useLeaving();
  return (
    <>
      <a href="/exams" onClick={(event) => event.preventDefault()}>
        Exams
      </a>
      <a href="?question=1" onClick={(event) => event.preventDefault()}>
        Another question
      </a>
      <button type="button">Save</button>
    </>
  );
}

describe('leaving a page', () => {
  it('is following a link to another page, and neither a press of a button nor a way within the page', async () => {
    render(<Page />);
    const user = userEvent.setup();
    await user.click(screen.getByRole('button'));
    await user.click(screen.getByText('Another question'));
    expect(isLeaving()).toBe(false);
    await user.click(screen.getByText('Exams'));
    expect(isLeaving()).toBe(true);
  });
});
