// @vitest-environment jsdom
import '../testing/dom';
import { act, cleanup, fireEvent, render, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { ok, type Result, refused } from '@/core/base/result';
import { usualGradebookRules } from '@/core/gradebook/gradebookRules';
import type { BookChange, ColumnShown, Gradebook, GradebookRow } from '@/server/gradebook/gradebook';
import { KeepingFor } from '../keep/KeepingFor';
import { GradebookPage } from './GradebookPage';

const refresh = vi.fn();
vi.mock('next/navigation', () => ({ useRouter: () => ({ refresh, push: () => undefined }) }));

const column = (id: string, kind: 'manual' | 'sitting'): ColumnShown => ({
  id,
  title: id,
  kind,
  worth: 10,
  groupId: '',
  extraCredit: false,
  curve: null,
  late: null,
  ownWorth: 10,
  usualWorth: null,
  statistics: null,
});
const row = (name: string, points: (number | null)[], entered: Record<number, number> = {}): GradebookRow => ({
  userId: name,
  name,
  studentNumber: null,
  section: null,
  hasLeft: false,
  points,
  entered,
  marks: {},
  total: null,
  band: '',
});
const book: Gradebook = {
  courseName: 'C',
  rules: { ...usualGradebookRules, decimals: 1 },
  groups: [],
  problems: [],
  columns: [column('Logbook', 'manual'), column('Quiz', 'sitting'), column('Oral', 'manual')],
  rows: [row('Ada', [7, 8, null], { 0: 40 }), row('Bo', [null, 4, 3], { 2: 41 }), row('Cy', [null, null, null])],
  order: 'first',
  total: null,
  lastEntry: 41,
};
const unchanged: BookChange = { columns: book.columns, rows: [], total: null, lastEntry: 41 };

type Sent = { cells: { columnId: string; userId: string; points: number | null; before: number }[]; above: boolean };

beforeEach(() => {
  localStorage.clear();
  refresh.mockClear();
});

function open(
  answer: (sent: Sent, count: number) => Promise<Result<{ auditId: number; entryIds: number[] }>> = accept,
  change: () => BookChange | Promise<BookChange> = () => unchanged,
) {
  const sent: Sent[] = [];
  const undone: number[] = [];
  const looked: { lastEntry: number; userIds: string[] }[] = [];
  const commands = {
    enterCells: async (input: Sent) => {
      sent.push(input);
      return await answer(input, sent.length);
    },
    cellHistory: async (columnId: string, userId: string) =>
      ok({
        column: columnId,
        student: userId,
        kind: 'manual',
        worth: 10,
        entryId: 0,
        points: null,
        excused: false,
        changes: [],
        timeZone: 'UTC',
      }),
    gradebookSince: async (input: (typeof looked)[number]) => {
      looked.push(input);
      return ok(await change());
    },
    undoChange: async (id: number) => {
      undone.push(id);
      return ok(null);
    },
  };
  const shown = (now: Gradebook) => (
    <KeepingFor userId="a" journalKey={btoa('a'.repeat(32))}>
      <GradebookPage base="/c/1" book={now} commands={commands as never} />
    </KeepingFor>
  );
  return { sent, undone, looked, shown, page: render(shown(book)), user: userEvent.setup() };
}
async function accept(input: Sent, count: number) {
  return ok({ auditId: count, entryIds: input.cells.map((_, i) => count * 100 + i) });
}
const cell = (name: string) => screen.getByRole('gridcell', { name: new RegExp(`^${name}:`) });
const focus = (name: string) => act(() => cell(name).focus());
const entered = (sent: Sent[]) => sent.map((one) => one.cells.map((c) => [c.columnId, c.userId, c.points, c.before]));

describe('typing into the gradebook', () => {
  it('replaces what stood there, Enter goes down, and each score is sent with what it was typed over', async () => {
    const { user, sent } = open();
    focus('Logbook of Ada');
    await user.keyboard('8,5{Enter}');
    expect(document.activeElement).toBe(cell('Logbook of Bo'));
    await user.keyboard('9{Enter}6{Enter}');
    await waitFor(() => expect(sent).toHaveLength(3));
    expect(entered(sent)).toEqual([
      [['Logbook', 'Ada', 8.5, 40]],
      [['Logbook', 'Bo', 9, 0]],
      [['Logbook', 'Cy', 6, 0]],
    ]);
    expect(cell('Logbook of Ada').textContent).toBe('8,5');
    // Below the last one there is nobody: the cursor stays, and what is typed now goes over what was just sent.
    expect(document.activeElement).toBe(cell('Logbook of Cy'));
    await user.keyboard('5{Enter}');
    await waitFor(() => expect(entered(sent).at(-1)).toEqual([['Logbook', 'Cy', 5, 300]]));
  });

  it('is left by Escape without entering anything, by Tab to the right, and emptied by Delete', async () => {
    const { user, sent } = open();
    focus('Logbook of Ada');
    await user.keyboard('3{Escape}');
    expect(cell('Logbook of Ada').textContent).toBe('7.0');
    expect(document.activeElement).toBe(cell('Logbook of Ada'));
    await user.keyboard('{F2}');
    expect((screen.getByRole('textbox', { name: 'Logbook of Ada' }) as HTMLInputElement).value).toBe('7');
    await user.keyboard('{Tab}');
    expect(document.activeElement).toBe(cell('Quiz of Ada'));
    // A sitting's scores come from its marks.
    await user.keyboard('4');
    expect(screen.queryByRole('textbox', { name: /^Quiz/ })).toBeNull();
    expect(sent).toEqual([]);
    focus('Oral of Bo');
    await user.keyboard('{Delete}');
    await waitFor(() => expect(entered(sent)).toEqual([[['Oral', 'Bo', null, 41]]]));
    await user.keyboard('{Home}');
    expect(document.activeElement).toBe(cell('Total of Bo'));
    await user.keyboard('{End}');
    expect(document.activeElement).toBe(cell('Oral of Bo'));
  });

  it('is walked through a page at a time, as far as there are rows', async () => {
    const { user } = open();
    focus('Oral of Ada');
    await user.keyboard('{PageDown}');
    expect(document.activeElement).toBe(cell('Oral of Cy'));
    await user.keyboard('{PageDown}');
    expect(document.activeElement).toBe(cell('Oral of Cy'));
    await user.keyboard('{PageUp}');
    expect(document.activeElement).toBe(cell('Oral of Ada'));
  });

  it('goes on in the cell that was pressed, whatever opens beside it; by key the way leads there', async () => {
    const { user, sent } = open();
    await user.click(cell('Logbook of Bo'));
    const beside = await screen.findByRole('textbox', { name: 'Points' });
    await user.keyboard('9');
    // The history comes when it comes.
    await screen.findByText('History of this cell');
    await user.keyboard(',5{Enter}');
    await waitFor(() => expect(entered(sent)).toEqual([[['Logbook', 'Bo', 9.5, 0]]]));
    expect(document.activeElement).toBe(cell('Logbook of Cy'));
    await user.keyboard('{Escape}');
    expect(beside.isConnected).toBe(false);
    await user.keyboard('{Enter}');
    expect(document.activeElement).toBe(await screen.findByRole('textbox', { name: 'Points' }));
  });

  it('tells two of one name apart by their numbers', () => {
    const twin = (id: string, studentNumber: string) => ({
      ...row('Ada', [null, null, null]),
      userId: id,
      studentNumber,
    });
    const { page, shown } = open();
    page.rerender(shown({ ...book, rows: [twin('a', '1041'), twin('b', '1077'), row('Bo', [null, 4, 3], { 2: 41 })] }));
    expect(
      screen
        .getAllByRole('rowheader')
        .slice(0, 3)
        .map((one) => one.textContent),
    ).toEqual(['Ada1041', 'Ada1077', 'Bo']);
  });

  it('takes what is typed for meant, also where the cell shows the same rounded', async () => {
    const { user, sent } = open();
    focus('Logbook of Ada');
    await user.keyboard('{F2}{Enter}');
    expect(sent).toEqual([]);
    focus('Logbook of Ada');
    await user.keyboard('7{Enter}');
    await waitFor(() => expect(entered(sent)).toEqual([[['Logbook', 'Ada', 7, 40]]]));
  });

  it('asks about more than the column is worth, and says what is no number, with what was typed still there', async () => {
    const { user, sent } = open();
    focus('Logbook of Bo');
    const field = () => screen.getByRole('textbox', { name: 'Logbook of Bo' }) as HTMLInputElement;
    await user.keyboard('789{Enter}');
    expect(screen.getByRole('alert').textContent).toBe(
      '789 is more than the 10 that this column is worth. Enter once more if it is meant.',
    );
    expect([field().value, document.activeElement === field()]).toEqual(['789', true]);
    await user.clear(field());
    await user.keyboard('7x{Enter}');
    expect(screen.getByRole('alert').textContent).toBe('“7x” is no number.');
    expect(field().value).toBe('7x');
    await user.keyboard('{Enter}');
    expect(field().value).toBe('7x');
    await user.clear(field());
    await user.keyboard('12{Enter}');
    expect(sent).toEqual([]);
    await user.keyboard('{Enter}');
    await waitFor(() => expect(sent.at(-1)).toMatchObject({ above: true, cells: [{ points: 12 }] }));
    // Who goes elsewhere is held once, and then told that it was not entered.
    focus('Logbook of Cy');
    await user.keyboard('99');
    const find = screen.getByRole('searchbox');
    await user.click(find);
    expect(screen.getByRole('alert').textContent).toContain('99 is more');
    await user.click(find);
    expect(screen.getByText('“99” is not entered into Logbook of Cy.')).toBeTruthy();
    expect(sent).toHaveLength(1);
  });

  it('is taken back by Ctrl+Z, the last first', async () => {
    const { user, undone, sent } = open();
    focus('Logbook of Ada');
    await user.keyboard('8{Enter}9{Enter}');
    await waitFor(() => expect(sent).toHaveLength(2));
    expect(await screen.findByText('Logbook of Bo: 9.')).toBeTruthy();
    await user.keyboard('{Control>}z{/Control}');
    await waitFor(() => expect(undone).toEqual([2]));
    expect(await screen.findByText('Taken back: Logbook of Bo: 9.')).toBeTruthy();
    await user.keyboard('{Control>}z{/Control}');
    await waitFor(() => expect(undone).toEqual([2, 1]));
  });

  it('is taken back behind what is still on its way: the last score, not the one before it', async () => {
    let answer = () => {};
    const { user, undone, sent } = open(async (input, count) => {
      if (count === 2)
        await new Promise<void>((resolve) => {
          answer = resolve;
        });
      return accept(input, count);
    });
    focus('Logbook of Ada');
    await user.keyboard('8{Enter}9{Enter}');
    await waitFor(() => expect(sent).toHaveLength(2));
    await user.keyboard('{Control>}z{/Control}');
    expect(undone).toEqual([]);
    await act(async () => answer());
    await waitFor(() => expect(undone).toEqual([2]));
  });

  it('shows a pasted column before it is entered: what is wrong first, and enters the rest in one', async () => {
    const { user, sent } = open();
    focus('Logbook of Ada');
    fireEvent.paste(cell('Logbook of Ada'), { clipboardData: { getData: () => '9\t1\nill\n30\n5\n' } });
    const dialog = await screen.findByRole('dialog');
    const rows = within(dialog)
      .getAllByRole('row')
      .slice(1)
      .map((one) => one.textContent);
    expect(rows).toEqual([
      'AdaQuiz8Scores of a sitting come from its marks.',
      'BoLogbook“ill” is no number.',
      'CyLogbook3030 is more than the 10 that this column is worth.',
      'AdaLogbook79',
    ]);
    expect(dialog.textContent).toContain('2 cells cannot be entered; 1 score found no student or column.');
    await user.click(within(dialog).getByRole('button', { name: 'Enter 2 scores' }));
    await waitFor(() =>
      expect(entered(sent)).toEqual([
        [
          ['Logbook', 'Ada', 9, 40],
          ['Logbook', 'Cy', 30, 0],
        ],
      ]),
    );
    expect(await screen.findByText('2 scores entered.')).toBeTruthy();
  });

  it('loses nothing where the server is not reached: it is kept, said, and sent', async () => {
    const { user, sent, page } = open(async (input, count) => {
      if (count === 1) throw new Error('no network');
      return count === 2
        ? refused('conflict', 'Ada, Logbook: this cell has been changed meanwhile.')
        : accept(input, count);
    });
    focus('Logbook of Ada');
    await user.keyboard('8{Enter}');
    expect((await screen.findByRole('region', { name: 'Not saved' })).textContent).toContain(
      '1 score typed here is not saved',
    );
    expect(cell('Logbook of Ada').textContent).toBe('8');
    await user.click(screen.getByRole('button', { name: 'Save it' }));
    expect(await screen.findByText(/changed meanwhile/)).toBeTruthy();
    // Back in the network it is sent by itself.
    await act(async () => window.dispatchEvent(new Event('online')));
    await waitFor(() => expect(sent).toHaveLength(3));
    page.unmount();
    localStorage.clear();
  });

  it('brings the rows that have changed, whoever changed them, and leaves the page where it is', async () => {
    const changed: BookChange = {
      ...unchanged,
      rows: [
        { ...row('Ada', [8, 8, null], { 0: 100 }), total: 80 },
        { ...row('Cy', [null, null, 9], { 2: 99 }), total: 90 },
      ],
      total: { n: 2, mean: 85, median: 85, deviation: 5, least: 80, most: 90 },
      lastEntry: 100,
    };
    const { user, looked } = open(accept, () => changed);
    focus('Logbook of Ada');
    await user.keyboard('8{Enter}');
    expect((await screen.findByRole('gridcell', { name: /^Total of Ada: 80.0 %/ })).textContent).toBe('80.0');
    await waitFor(() =>
      expect([cell('Logbook of Ada').textContent, cell('Oral of Cy').textContent]).toEqual(['8.0', '9.0']),
    );
    expect(screen.getByRole('row', { name: /^Mean/ }).textContent).toContain('85.0');
    expect(looked).toEqual([{ lastEntry: 41, userIds: [] }]);
    expect(refresh).not.toHaveBeenCalled();
    // What is typed now goes over what has come.
    focus('Oral of Cy');
    await user.keyboard('{Control>}z{/Control}');
    await waitFor(() => expect(looked.at(-1)).toEqual({ lastEntry: 100, userIds: ['Ada'] }));
  });

  it('keeps what was typed in sight until it has come back, and asks for the page where columns are others', async () => {
    const { user } = open(accept, () => ({ ...unchanged, rows: [row('Ada', [7, 8, null], { 0: 40 })], lastEntry: 60 }));
    focus('Logbook of Ada');
    await user.keyboard('8{Enter}');
    await screen.findByText('Logbook of Ada: 8.');
    expect(cell('Logbook of Ada').textContent).toBe('8');
    cleanup();
    const other = open(accept, () => ({ ...unchanged, columns: book.columns.slice(1) }));
    focus('Logbook of Bo');
    await other.user.keyboard('8{Enter}');
    await waitFor(() => expect(refresh).toHaveBeenCalledOnce());
    expect(cell('Logbook of Bo').textContent).toBe('8');
  });

  it('leaves the page where it is without a network, and looks again with one', async () => {
    let network = false;
    const { user, looked } = open(
      async (input, count) => (network ? accept(input, count) : Promise.reject(new Error('no network'))),
      () => (network ? unchanged : Promise.reject(new Error('no network'))),
    );
    focus('Logbook of Ada');
    await user.keyboard('8{Enter}');
    await screen.findByRole('region', { name: 'Not saved' });
    await waitFor(() => expect(looked).toHaveLength(1));
    expect(refresh).not.toHaveBeenCalled();
    network = true;
    await act(async () => window.dispatchEvent(new Event('online')));
    await waitFor(() => expect(looked).toHaveLength(2));
    await waitFor(() => expect(screen.queryByRole('region', { name: 'Not saved' })).toBeNull());
    expect(refresh).not.toHaveBeenCalled();
  });

  it('looks at everybody from whom something was taken back, however fast', async () => {
    const { user, sent, looked, undone } = open();
    focus('Logbook of Ada');
    await user.keyboard('8{Enter}9{Enter}');
    await waitFor(() => expect(sent).toHaveLength(2));
    await screen.findByText('Logbook of Bo: 9.');
    await user.keyboard('{Control>}zz{/Control}');
    await waitFor(() => expect(undone).toEqual([2, 1]));
    await waitFor(() => expect(looked.flatMap((one) => one.userIds).sort()).toEqual(['Ada', 'Bo']));
  });

  it('is not asked for again where it was entered and only the answer got lost', async () => {
    const { user, page, shown } = open(async () => {
      throw new Error('the answer is lost');
    });
    focus('Logbook of Ada');
    await user.keyboard('8{Enter}');
    expect(await screen.findByRole('region', { name: 'Not saved' })).toBeTruthy();
    page.rerender(shown({ ...book, rows: [row('Ada', [8, 8, null], { 0: 50 }), ...book.rows.slice(1)] }));
    await waitFor(() => expect(screen.queryByRole('region', { name: 'Not saved' })).toBeNull());
    await waitFor(() => expect(cell('Logbook of Ada').textContent).toBe('8.0'));
  });

  it('is found again after a reload', async () => {
    const { user, page } = open(async () => {
      throw new Error('no network');
    });
    focus('Logbook of Ada');
    await user.keyboard('8{Enter}');
    await screen.findByRole('region', { name: 'Not saved' });
    page.unmount();
    const again = open();
    expect((await screen.findByRole('region', { name: 'Not saved' })).textContent).toContain(
      '1 score typed here is not saved',
    );
    await again.user.click(screen.getByRole('button', { name: 'Save it' }));
    await waitFor(() => expect(entered(again.sent)).toEqual([[['Logbook', 'Ada', 8, 40]]]));
    await waitFor(() => expect(screen.queryByRole('region', { name: 'Not saved' })).toBeNull());
  });
});
