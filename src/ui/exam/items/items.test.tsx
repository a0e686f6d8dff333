// @vitest-environment jsdom
import '../../testing/dom';
import { render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { beforeEach, describe, expect, it } from 'vitest';
import type { Problem } from '@/core/base/result';
import { changeItems, type ItemChange } from '@/core/exam/items/changeItems';
import type { Item } from '@/core/exam/items/item';
import { ItemRows } from './ItemRows';
import { ItemTools } from './ItemTools';

const user = userEvent.setup();
let items: Item[];
let sent: ItemChange[];

const item = (n: number, more: Partial<Item> = {}): Item => ({
  questionId: `q${n}`,
  label: String(n),
  type: 'single-choice',
  choices: 4,
  start: 'A',
  key: '',
  points: 1,
  ...more,
});

/** The tools and the rows over items that change as the core says. */
function Page({ begun }: { begun: Item[] }) {
  const [now, set] = useState(begun);
  items = now;
  const apply = (change: ItemChange): Problem[] | null => {
    sent.push(change);
    const next = changeItems(items, change);
    if (!next.ok) return next.problems;
    items = next.value;
    set(next.value);
    return null;
  };
  return (
    <>
      <ItemTools items={now} doToMany={async (change) => apply(change)} keySheets={null} />
      <ItemRows
        items={now}
        wrongAt={null}
        mayChange
        type={(at, typed) => apply({ do: 'each', changes: [{ at, ...typed }] }) === null}
      />
    </>
  );
}

beforeEach(() => {
  sent = [];
  // jsdom lays nothing out: without a height no row would be in view.
  Object.defineProperty(HTMLElement.prototype, 'clientHeight', { configurable: true, value: 400 });
  Object.defineProperty(HTMLElement.prototype, 'clientWidth', { configurable: true, value: 900 });
});

const answerOf = (n: number) => screen.getByRole('radiogroup', { name: `Right answer of item ${n}` });
const keys = () => items.map((one) => one.key).join('|');

describe('the rows of items', () => {
  it('take a letter as the right answer and go on to the next row', async () => {
    render(<Page begun={[1, 2, 3].map((n) => item(n))} />);
    within(answerOf(1)).getByRole('radio', { name: 'A' }).focus();
    await user.keyboard('bdx');
    expect(keys()).toBe('B|D|');
    expect(document.activeElement?.closest('[data-answer]')?.getAttribute('data-answer')).toBe('3');
    await user.keyboard('{ArrowUp}{ArrowUp}a');
    expect(keys()).toBe('A|D|');
  });

  it('walk over kinds that have no choices, and keep what was typed wrongly', async () => {
    render(
      <Page begun={[item(1, { type: 'written' }), item(2, { type: 'numeric' }), item(3, { type: 'true-false' })]} />,
    );
    screen.getByRole('textbox', { name: 'Levels of item 1' }).focus();
    await user.keyboard('{ArrowDown}');
    const field = screen.getByRole('textbox', { name: 'Right answer of item 2' });
    expect(document.activeElement).toBe(field);
    await user.keyboard('12 ± x');
    expect([keys(), (field as HTMLInputElement).value]).toEqual(['|12|', '12 ± x']);
    await user.keyboard('{Enter}t');
    expect(keys()).toBe('|12|T');
  });

  it('mark several right answers without leaving the row', async () => {
    render(<Page begun={[item(1, { type: 'multiple-choice' }), item(2)]} />);
    const group = screen.getByRole('group', { name: 'Right answer of item 1' });
    within(group).getByRole('button', { name: 'A' }).focus();
    await user.keyboard('cac');
    expect(keys()).toBe('A|');
    expect(within(group).getByRole('button', { name: 'A' }).getAttribute('aria-pressed')).toBe('true');
  });

  it('lead to the first item without a key', async () => {
    render(<Page begun={[item(1, { key: 'A' }), item(2)]} />);
    await user.click(screen.getByRole('button', { name: 'to the first without one' }));
    expect(document.activeElement?.closest('[data-answer]')?.getAttribute('data-answer')).toBe('2');
  });
});

describe('many items at once', () => {
  it('are set by a sentence, which then begins behind them', async () => {
    render(<Page begun={[]} />);
    const to = screen.getByRole('textbox', { name: 'Last item' });
    await user.clear(to);
    await user.type(to, '12');
    await user.selectOptions(screen.getByRole('combobox', { name: 'Kind of item' }), 'several right choices');
    await user.click(screen.getByRole('button', { name: 'Set the items' }));
    expect(await screen.findByText('Items 1 to 12 are set.')).toBeTruthy();
    expect(items.map((one) => one.type)).toEqual(Array(12).fill('multiple-choice'));
    expect((screen.getByRole('textbox', { name: 'First item' }) as HTMLInputElement).value).toBe('13');
  });

  it('a sentence that cannot be understood says why, and sends nothing', async () => {
    render(<Page begun={[]} />);
    const choices = screen.getByRole('textbox', { name: 'Number of choices' });
    await user.clear(choices);
    await user.type(choices, '21');
    await user.click(screen.getByRole('button', { name: 'Set the items' }));
    expect(await screen.findByText('At most 20 choices.')).toBeTruthy();
    await user.clear(choices);
    await user.click(screen.getByRole('button', { name: 'Set the items' }));
    expect(await screen.findByText('Say how many choices.')).toBeTruthy();
    expect(sent).toEqual([]);
  });

  it('a key shows how it is read before it is given, and a wrong one stays to be mended', async () => {
    render(<Page begun={[1, 2, 3].map((n) => item(n))} />);
    await user.click(screen.getByRole('radio', { name: 'Give the key' }));
    const box = screen.getByRole('textbox', { name: 'Right answers' });
    await user.type(box, 'ABX');
    expect(screen.getByText(/^Read as 2 answers: 1 A · 2 B/).textContent).toContain('“X” is none of its choices');
    await user.click(screen.getByRole('button', { name: 'Give the key' }));
    expect(keys()).toBe('||');
    expect((box as HTMLTextAreaElement).value).toBe('ABX');
    await user.type(box, '{Backspace}D');
    await user.click(screen.getByRole('button', { name: 'Give the key' }));
    expect(await screen.findByText('3 right answers are given.')).toBeTruthy();
    expect([keys(), (box as HTMLTextAreaElement).value]).toEqual(['A|B|D', '']);
  });

  it('are labelled, put in and taken out', async () => {
    render(<Page begun={[1, 2, 3].map((n) => item(n))} />);
    await user.click(screen.getByRole('radio', { name: 'Label them' }));
    await user.type(screen.getByRole('textbox', { name: 'Text before the number' }), 'B');
    await user.click(screen.getByRole('button', { name: 'Label them' }));
    expect(await screen.findByText('Items 1 to 3 are labelled B1 to B3.')).toBeTruthy();
    await user.click(screen.getByRole('radio', { name: 'Put in or take out' }));
    await user.click(screen.getByRole('button', { name: 'Put in' }));
    expect(items.map((one) => one.label)).toEqual(['1', 'B1', 'B2', 'B3']);
    await user.type(screen.getByRole('textbox', { name: 'First item to take out' }), '2');
    await user.click(screen.getByRole('button', { name: 'Take out' }));
    expect(screen.getByRole('alert').textContent).toContain('One item goes. Papers that hold it keep it.');
    await user.click(screen.getByRole('button', { name: 'Leave them' }));
    expect(items).toHaveLength(4);
    await user.click(screen.getByRole('button', { name: 'Take out' }));
    await user.click(screen.getByRole('button', { name: 'Do it' }));
    expect(items.map((one) => one.label)).toEqual(['1', 'B2', 'B3']);
  });
});
