// @vitest-environment jsdom
import { cleanup, render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { StrictMode } from 'react';
import { afterEach, beforeAll, describe, expect, it } from 'vitest';
import { SentencePiece } from './SentencePiece';

beforeAll(() => {
  globalThis.ResizeObserver ??= class {
    observe() {}
    unobserve() {}
    disconnect() {}
  };
});

afterEach(cleanup);

const piece = () => (
  // In development every effect runs twice: a piece that opens itself must not close again by that.
  <StrictMode>
    <p>
      Draw{' '}
      <SentencePiece says="3" label="How many to draw: 3">
        {(close) => (
          <>
            <input aria-label="How many" defaultValue="3" />
            <button type="button" onClick={close}>
              Done
            </button>
          </>
        )}
      </SentencePiece>{' '}
      from Tides
    </p>
  </StrictMode>
);
const button = () => screen.getByRole('button', { name: 'How many to draw: 3' });

describe('a piece of a sentence', () => {
  it('is a button that says it is closed, and opens at the first press of a key, with the focus in what it opens', async () => {
    const user = userEvent.setup();
    render(piece());
    expect(button().getAttribute('aria-expanded')).toBe('false');
    expect(screen.queryByLabelText('How many')).toBeNull();
    await user.tab();
    expect(document.activeElement).toBe(button());
    await user.keyboard('{Enter}');
    await waitFor(() => expect(document.activeElement).toBe(screen.getByLabelText('How many')));
    expect(button().getAttribute('aria-expanded')).toBe('true');
  });

  it('gives the focus back when it is closed, and opens and closes as often as it is pressed', async () => {
    const user = userEvent.setup();
    render(piece());
    for (let time = 0; time < 3; time++) {
      await user.click(button());
      await screen.findByLabelText('How many');
      await user.keyboard('{Escape}');
      await waitFor(() => expect(screen.queryByLabelText('How many')).toBeNull());
      expect(document.activeElement).toBe(button());
    }
    await user.click(button());
    await user.click(await screen.findByRole('button', { name: 'Done' }));
    await waitFor(() => expect(screen.queryByLabelText('How many')).toBeNull());
    expect(button().getAttribute('aria-expanded')).toBe('false');
  });
});
