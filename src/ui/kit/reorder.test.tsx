// @vitest-environment jsdom
import '../testing/dom';
import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { type ReactNode, useState } from 'react';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { OrderProps } from './OrderRow';

const names = () => screen.getAllByRole('listitem').map((row) => row.textContent);
const user = userEvent.setup();

/** A list of three that is put in order by what is given. */
function Page({ Shown }: { Shown: (props: OrderProps) => ReactNode }) {
  const [order, setOrder] = useState(['a', 'b', 'c']);
  return (
    <Shown label="Order" items={order.map((id) => ({ id, name: id.toUpperCase() }))} onOrder={setOrder}>
      {({ name }) => <span>{name}</span>}
    </Shown>
  );
}
/** Opens it with the module as it is loaded anew. */
async function open() {
  const { Reorder } = await import('./Reorder');
  render(<Page Shown={Reorder} />);
}

beforeEach(() => {
  vi.resetModules();
  vi.doUnmock('./DraggedOrder');
});

describe('a list that is put in order', () => {
  it('has its buttons at once, and is dragged as well as soon as what drags has come', async () => {
    await open();
    await user.click(screen.getByRole('button', { name: 'Move A down' }));
    expect(names()).toEqual(['B', 'A', 'C']);
    await user.click(document.body);
    await screen.findByRole('button', { name: 'Drag A' });
    await user.click(screen.getByRole('button', { name: 'Move C up' }));
    expect(names()).toEqual(['B', 'C', 'A']);
  });

  it('stays under the hands of whoever is at its buttons while it comes', async () => {
    await open();
    const button = screen.getByRole('button', { name: 'Move B up' });
    button.focus();
    await import('./DraggedOrder');
    await new Promise((resolve) => setTimeout(resolve));
    expect(document.activeElement).toBe(button);
    expect(screen.queryByRole('button', { name: 'Drag B' })).toBeNull();
    button.blur();
    await screen.findByRole('button', { name: 'Drag B' });
  });

  it('is put in order without what drags, where it cannot be fetched', async () => {
    vi.doMock('./DraggedOrder', () => {
      throw new Error('no network');
    });
    await open();
    await user.click(screen.getByRole('button', { name: 'Move C up' }));
    expect(names()).toEqual(['A', 'C', 'B']);
    expect(screen.queryByRole('button', { name: 'Drag A' })).toBeNull();
  });
});
