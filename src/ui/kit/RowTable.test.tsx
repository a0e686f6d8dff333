// @vitest-environment jsdom

import { render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { describe, expect, it, vi } from 'vitest';
import { seenIn } from '../testing/dom';
import { Find, holds } from './Find';
import { RowTable, type Sorted } from './RowTable';

const columns = [
  { key: 'name', name: 'Name', sortable: true },
  { key: 'score', name: 'Score', right: true, sortable: true },
];

function List({ rows }: { rows: number }) {
  const [sorted, setSorted] = useState<Sorted>({ by: 'name', down: false });
  return (
    <>
      <p>{`${sorted.by} ${sorted.down ? 'down' : 'up'}`}</p>
      <RowTable
        label="Rows"
        columns={columns}
        rows={Array.from({ length: rows }, (_, i) => i)}
        sorted={sorted}
        onSort={setSorted}
      >
        {(row) => (
          <tr key={row}>
            <td>Row {row}</td>
            <td>{row}</td>
          </tr>
        )}
      </RowTable>
    </>
  );
}
const drawn = () => within(screen.getByRole('table')).queryAllByText(/^Row /).length;

describe('a table of rows', () => {
  it('draws a short list whole and of a long one only a part', () => {
    const { unmount } = render(<List rows={60} />);
    expect(drawn()).toBe(60);
    unmount();
    seenIn(1_000, 720);
    render(<List rows={3_000} />);
    // 20 rows of 36 pixels are in view, and 15 more wait below them.
    expect(drawn()).toBeGreaterThanOrEqual(20);
    expect(drawn()).toBeLessThan(60);
  });

  it('counts rows as high as they come out', () => {
    seenIn(1_000, 720);
    vi.spyOn(Element.prototype, 'getBoundingClientRect').mockReturnValue(new DOMRect(0, 0, 1_000, 72));
    render(<List rows={3_000} />);
    // Of rows of two lines ten are in view, and 15 more wait below them.
    expect(drawn()).toBeGreaterThanOrEqual(25);
    expect(drawn()).toBeLessThan(28);
    const below = screen.getByRole('table').querySelector<HTMLElement>('tbody tr:last-child td')?.style.height;
    // What was drawn once is known; all others are taken for one line.
    expect(Number.parseInt(below ?? '', 10) % 36).toBe(0);
    expect(Number.parseInt(below ?? '', 10)).toBeGreaterThan((3_000 - drawn()) * 36);
  });

  it('is sorted by its head, numbers from the greatest down, and says so', async () => {
    render(<List rows={3} />);
    const user = userEvent.setup();
    const head = (name: string) => screen.getByRole('columnheader', { name });
    expect(head('Name').getAttribute('aria-sort')).toBe('ascending');
    await user.click(screen.getByRole('button', { name: 'Score' }));
    expect(screen.getByText('score down')).toBeTruthy();
    expect(head('Score').getAttribute('aria-sort')).toBe('descending');
    expect(head('Name').getAttribute('aria-sort')).toBeNull();
    await user.click(screen.getByRole('button', { name: 'Score' }));
    expect(screen.getByText('score up')).toBeTruthy();
  });

  it('can be scrolled by keyboard', () => {
    render(<List rows={3} />);
    expect(screen.getByRole('region', { name: 'Rows' }).tabIndex).toBe(0);
  });
});

describe('finding in a list', () => {
  it('looks for the words in every text, whatever their case, and for nothing in all', () => {
    expect(holds(' lun ', 'Ada Lund', null)).toBe(true);
    expect(holds('evening', 'Ada Lund', 'Weekday')).toBe(false);
    expect(holds('', 'Ada Lund')).toBe(true);
  });

  it('has a name and says how many are left', async () => {
    const typed: string[] = [];
    render(<Find label="Find people" value="" onChange={(text) => typed.push(text)} said="3 of 9" />);
    await userEvent.setup().type(screen.getByRole('searchbox', { name: 'Find people' }), 'a');
    expect(typed).toEqual(['a']);
    expect(screen.getByText('3 of 9')).toBeTruthy();
  });
});
