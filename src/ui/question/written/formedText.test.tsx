// @vitest-environment jsdom
import { cleanup, fireEvent, render, screen } from '@testing-library/react';
import { useState } from 'react';
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { type Rich, richFromText, richLimits } from '@/core/base/rich';
import { FormedText } from './FormedText';

const told = vi.fn();
function Field() {
  const [value, setValue] = useState<Rich>(richFromText('What I wrote so far'));
  return (
    <FormedText
      label="Your answer"
      value={value}
      onChange={(rich, plain) => {
        told(plain);
        setValue(rich);
      }}
    />
  );
}
const field = () => screen.getByRole('textbox');
beforeEach(() => told.mockClear());
afterEach(cleanup);

it('an answer stays what it was when something too long is put into it, and it is said', () => {
  render(<Field />);
  field().innerHTML = `<div>${'x'.repeat(richLimits.characters + 1)}</div>`;
  fireEvent.input(field());
  expect(told).not.toHaveBeenCalled();
  expect(field().textContent).toBe('What I wrote so far');
  expect(screen.getByRole('alert').textContent).toContain('At most 100,000 characters fit into one text.');
  field().innerHTML = '<div>What I wrote so far, and more</div>';
  fireEvent.input(field());
  expect(told).toHaveBeenLastCalledWith('What I wrote so far, and more');
  expect(screen.queryByRole('alert')).toBeNull();
});

it('so many lines that they could not be kept do not empty it', () => {
  render(<Field />);
  field().innerHTML = '<div>line</div>'.repeat(richLimits.nodes);
  fireEvent.input(field());
  expect(told).not.toHaveBeenCalled();
  expect(field().textContent).toBe('What I wrote so far');
});

it('megabytes are not even taken from the clipboard', () => {
  document.execCommand = vi.fn();
  render(<Field />);
  fireEvent.paste(field(), { clipboardData: { getData: () => 'x'.repeat(2_000_000) } });
  expect(document.execCommand).not.toHaveBeenCalled();
  expect(screen.getByRole('alert').textContent).toContain('What was put in last is left out');
});
