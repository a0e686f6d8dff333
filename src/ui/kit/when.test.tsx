// @vitest-environment jsdom
import '../testing/dom';
import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { MomentField } from './MomentField';
import { WhenField } from './When';

/** A Sunday, 19:43 in Oslo. */
const now = Date.UTC(2026, 10, 29, 18, 43);
beforeEach(() => {
  vi.useFakeTimers({ now, toFake: ['Date'] });
});
afterEach(() => {
  vi.useRealTimers();
});

function InForm({
  kind,
  first = '',
  onSubmit,
}: {
  kind: 'moment' | 'day';
  first?: string;
  onSubmit: (value: string) => void;
}) {
  const [value, setValue] = useState(first);
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        onSubmit(value);
      }}
    >
      <WhenField label="Opens" kind={kind} zone="Europe/Oslo" value={value} onChange={setValue} />
      <button type="submit">Save</button>
    </form>
  );
}
const inForm = (kind: 'moment' | 'day', first?: string) => {
  const saved: string[] = [];
  render(<InForm kind={kind} first={first} onSubmit={(value) => saved.push(value)} />);
  return { user: userEvent.setup(), saved, field: screen.getByLabelText('Opens') as HTMLInputElement };
};

describe('a field for a moment in a form', () => {
  it('shows how what is typed is understood, and sends that', async () => {
    const { user, saved, field } = inForm('moment');
    await user.type(field, 'tue 14:30');
    expect(screen.getByText('Tue 1 Dec 2026, 14:30')).toBeTruthy();
    await user.keyboard('{Enter}');
    expect(saved).toEqual(['2026-12-01T14:30']);
    expect(field.value).toBe('Tue 1 Dec 2026, 14:30');
  });

  it('replaces what stands there at the first key, keeping its time where only a day is typed', async () => {
    const { user, saved, field } = inForm('moment', '2026-12-05T16:15');
    expect(field.value).toBe('Sat 5 Dec 2026, 16:15');
    await user.tab();
    await user.keyboard('in 2 weeks');
    await user.click(screen.getByRole('button', { name: 'Save' }));
    expect(saved).toEqual(['2026-12-13T16:15']);
  });

  it('says what is not understood, keeps it, and saves nothing else in its place', async () => {
    const { user, saved, field } = inForm('moment', '2026-12-05T16:15');
    await user.tab();
    await user.keyboard('soonish{Enter}');
    expect(screen.getByText(/^Type a date and a time/)).toBeTruthy();
    expect(saved).toEqual([]);
    expect(field.value).toBe('soonish');
    // Whoever saves all the same hands on what stands there, to be refused: not the moment of before.
    await user.click(screen.getByRole('button', { name: 'Save' }));
    expect(saved).toEqual(['soonish']);
  });

  it('is emptied by emptying it', async () => {
    const { user, saved } = inForm('day', '2026-12-05');
    await user.tab();
    await user.keyboard('{Delete}{Enter}');
    expect(saved).toEqual(['']);
  });

  it('is picked from a calendar by keyboard, in whose weeks Monday comes first', async () => {
    const { user, saved, field } = inForm('moment', '2026-12-01T16:15');
    await user.click(field);
    await user.keyboard('{Alt>}{ArrowDown}{/Alt}');
    const day = await screen.findByRole('button', { name: /December 1st, 2026/ });
    expect(screen.getAllByRole('columnheader', { hidden: true })[0]?.textContent).toBe('Mo');
    day.focus();
    await user.keyboard('{ArrowDown}{ArrowRight}{Enter}');
    expect(field.value).toBe('Wed 9 Dec 2026, 16:15');
    await user.click(screen.getByRole('button', { name: 'Save' }));
    expect(saved).toEqual(['2026-12-09T16:15']);
  });
});

describe('a moment in a sentence', () => {
  it('is set when it is left, never as half of one', async () => {
    const set: string[] = [];
    render(<MomentField label="Closes" value="" zone="Europe/Oslo" none="never closes" onSet={(at) => set.push(at)} />);
    const user = userEvent.setup();
    await user.click(screen.getByLabelText('Closes'));
    await user.keyboard('1.12');
    expect(screen.getByText('Tue 1 Dec 2026, 09:00')).toBeTruthy();
    await user.keyboard(' 14.30');
    expect(set).toEqual([]);
    await user.tab();
    expect(set).toEqual(['2026-12-01T14:30']);
  });
});
