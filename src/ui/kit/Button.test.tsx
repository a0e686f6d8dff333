// @vitest-environment jsdom
import '../testing/dom';
import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { describe, expect, it } from 'vitest';
import { Button } from './Button';

function Sheet() {
  const [text, setText] = useState('');
  const [sent, setSent] = useState(0);
  return (
    <>
      <input aria-label="Answer" value={text} onChange={(event) => setText(event.target.value)} />
      <Button whyNot={text ? null : 'Answer it first.'} onClick={() => setSent(sent + 1)}>
        Check
      </Button>
      <p>sent {sent}</p>
    </>
  );
}

describe('a button that cannot be used', () => {
  const told = () => screen.queryByText('Answer it first.') !== null;

  it('does nothing but says why, until something else is pressed, the focus goes on, or Escape', async () => {
    const user = userEvent.setup();
    render(<Sheet />);
    const button = screen.getByRole('button', { name: 'Check' });
    expect(told()).toBe(false);
    await user.click(button);
    expect([told(), screen.queryByText('sent 0') !== null]).toEqual([true, true]);
    await user.click(screen.getByText('sent 0'));
    expect(told()).toBe(false);
    button.focus();
    await user.keyboard('{Enter}');
    expect(told()).toBe(true);
    await user.keyboard('{Escape}');
    expect(told()).toBe(false);
    await user.keyboard('{Enter}');
    await user.tab();
    expect(told()).toBe(false);
  });

  it('is the same button once it can be used', async () => {
    const user = userEvent.setup();
    render(<Sheet />);
    const button = screen.getByRole('button', { name: 'Check' });
    await user.click(button);
    await user.type(screen.getByRole('textbox', { name: 'Answer' }), 'ebb');
    expect(screen.getByRole('button', { name: 'Check' })).toBe(button);
    await user.click(button);
    expect(screen.queryByText('sent 1')).not.toBeNull();
    expect(told()).toBe(false);
  });
});
