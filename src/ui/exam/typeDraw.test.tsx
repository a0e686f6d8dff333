// @vitest-environment jsdom
import '../testing/dom';
import { render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it, vi } from 'vitest';
import { ok } from '@/core/base/result';
import type { DrawLine, PassageLine } from '@/core/exam/design';
import { TypeDraw } from './TypeDraw';

const sources = {
  categories: [
    { id: 'tides', name: 'Tides' },
    { id: 'heights', name: 'Tides › Heights' },
    { id: 'lights', name: 'Lights' },
    { id: 'harbour', name: 'Harbours › Lights' },
  ],
  exams: [],
  objectives: [],
  tags: [],
  choosable: [],
};

function typing(countPool: (line: DrawLine | PassageLine) => Promise<number> = async () => 9) {
  const added: (DrawLine | PassageLine | null)[] = [];
  render(
    <TypeDraw
      sources={sources}
      usual={{ count: 3, points: 1 }}
      makeId={() => 'made'}
      whyNot={null}
      onAdd={(line) => added.push(line)}
      countPool={async (line) => ok({ holds: await countPool(line as DrawLine) })}
    />,
  );
  const field = screen.getByRole('combobox', { name: 'Type a draw' });
  return { added, field, person: userEvent.setup() };
}

describe('typing a draw', () => {
  it('says what it was read as with the count of its pool, and is added by Enter', async () => {
    const counted = vi.fn(async () => 2);
    const { added, field, person } = typing(counted);
    await person.type(field, '3 heights medium 2p');
    expect(await screen.findByText('Draw 3 from Tides › Heights, medium, 2 points each')).toBeTruthy();
    expect(await screen.findByText(/only 2 in the pool/)).toBeTruthy();
    await person.keyboard('{Enter}');
    const pool = { categories: [{ id: 'heights', below: true }], difficulties: ['medium'] };
    expect(added).toEqual([{ kind: 'draw', id: 'made', count: 3, points: 2, pool }]);
    expect((field as HTMLInputElement).value).toBe('');
    expect(document.activeElement).toBe(field);
    expect(screen.getByRole('status').textContent).toBe('Added: Draw 3 from Tides › Heights, medium, 2 points each.');
    expect(counted).toHaveBeenCalled();
  });

  it('offers what a word can become: walked by the arrows, taken by Enter, put away by Escape', async () => {
    const { added, field, person } = typing();
    await person.type(field, '3 lig');
    const options = within(screen.getByRole('listbox')).getAllByRole('option');
    expect(options.map((one) => one.textContent)).toEqual(['Lightscategory', 'Harbours › Lightscategory']);
    expect(screen.getByText(/can mean Lights or Harbours › Lights: write more of it/)).toBeTruthy();
    await person.keyboard('{ArrowDown}{ArrowDown}');
    expect(options[1]?.getAttribute('aria-selected')).toBe('true');
    expect(field.getAttribute('aria-activedescendant')).toBe(options[1]?.id);
    await person.keyboard('{Enter}');
    expect(added).toEqual([]);
    expect((field as HTMLInputElement).value).toBe('3 Harbours › Lights ');
    await person.keyboard('2p{Enter}');
    expect(added).toMatchObject([{ points: 2, pool: { categories: [{ id: 'harbour', below: true }] } }]);
    await person.type(field, '2 lig{Escape}');
    expect(screen.queryByRole('listbox')).toBeNull();
  });

  it('leaves the cursor behind what was taken in the middle of a sentence, before the next key', async () => {
    const { field, person } = typing();
    const input = field as HTMLInputElement;
    await person.type(field, '3 lig 2p');
    await person.type(field, 'h', { initialSelectionStart: 5 });
    await person.click(screen.getByRole('option', { name: /^Harbours/ }));
    expect([input.value, input.selectionStart]).toEqual(['3 Harbours › Lights 2p', '3 Harbours › Lights '.length]);
    await person.keyboard('easy ');
    expect(input.value).toBe('3 Harbours › Lights easy 2p');
  });

  it('takes the first of what is offered by Enter where nothing else can be meant, and says what is not known', async () => {
    const { added, field, person } = typing();
    await person.type(field, '3 eights{Enter}');
    expect((field as HTMLInputElement).value).toBe('3 Tides › Heights ');
    await person.clear(field);
    await person.type(field, '3 wombats{Enter}');
    expect(screen.getByText(/“wombats” is no category/)).toBeTruthy();
    expect(added).toEqual([]);
    expect((field as HTMLInputElement).value).toBe('3 wombats');
  });

  it('shows the count of what stands there, however late an earlier one comes back', async () => {
    const waiting: ((holds: number) => void)[] = [];
    const { field, person } = typing(() => new Promise((answer) => waiting.push(answer)));
    await person.type(field, '3 tides');
    await vi.waitFor(() => expect(waiting).toHaveLength(1));
    await person.type(field, ' easy');
    await vi.waitFor(() => expect(waiting).toHaveLength(2));
    waiting[1]?.(4);
    expect(await screen.findByText(/4 in the pool/)).toBeTruthy();
    waiting[0]?.(50);
    await person.type(field, ' ');
    expect(screen.getByText(/4 in the pool/)).toBeTruthy();
  });

  it('adds a draw like the last one where nothing is typed', async () => {
    const { added, person } = typing();
    await person.click(screen.getByRole('button', { name: 'Add a draw' }));
    expect(added).toEqual([null]);
  });
});
