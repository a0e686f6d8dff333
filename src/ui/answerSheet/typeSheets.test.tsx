// @vitest-environment jsdom
import '../testing/dom';
import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it, vi } from 'vitest';
import type { SheetRow } from '@/core/answerSheet/sheetRow';
import type { SheetsToType } from '@/server/answerSheet/typeIn';
import { TypeSheetsPage } from './TypeSheetsPage';

vi.mock('next/navigation', () => ({ useRouter: () => ({ refresh: () => undefined, push: () => undefined }) }));

const rows: SheetRow[] = [
  { kind: 'choice', label: '1', options: ['A', 'B', 'C'], several: false },
  { kind: 'choice', label: '2', options: ['A', 'B', 'C'], several: true },
  { kind: 'number', label: '3', columns: 4, sign: true, point: true, fraction: false, exponent: false },
];
const someone = (name: string) => ({
  userId: name,
  name,
  studentNumber: null,
  layout: 0,
  isIn: name === 'Cem',
  typed: 0,
  rows: null,
  differs: [],
});

function open(differs: number[] = []) {
  const sent: { userId: string; entry: number; rows: string[][] }[] = [];
  const value: SheetsToType = { layouts: [rows], students: [someone('Ada'), someone('Bo'), someone('Cem')] };
  render(
    <TypeSheetsPage
      title="Knots"
      here="/here"
      beginTyping={async () => ({ ok: true, value })}
      typeSheet={async (input) => {
        sent.push(input as (typeof sent)[number]);
        return { ok: true, value: { typed: input.entry, differs: input.entry === 2 ? differs : [] } };
      }}
    />,
  );
  return { sent, user: userEvent.setup() };
}

describe('typing answers off papers', () => {
  it('goes from row to row and from student to student without leaving the keys', async () => {
    const { sent, user } = open();
    expect(await screen.findByText('0 of 3 students typed')).toBeTruthy();
    await user.keyboard('bac{Enter}-1,5{Enter}');
    expect(sent).toEqual([{ userId: 'Ada', entry: 1, rows: [['B'], ['A', 'C'], ['−', '1', '.', '5']] }]);
    expect(await screen.findByText('Ada is kept.')).toBeTruthy();
    expect(screen.getByRole('heading', { name: 'Bo' })).toBeTruthy();
    // A row is left empty by a space or a hyphen, and the paper kept from anywhere.
    await user.keyboard('-b{Control>}{Enter}{/Control}');
    expect(sent[1]).toEqual({ userId: 'Bo', entry: 1, rows: [[], ['B'], []] });
    expect(await screen.findByText('2 of 3 students typed')).toBeTruthy();
    // Whoever has handed in is not waited for.
    expect(screen.getByRole('heading', { name: 'Ada' })).toBeTruthy();
  });

  it('says at the row what it cannot take, and sends nothing', async () => {
    const { sent, user } = open();
    await screen.findByText('0 of 3 students typed');
    await user.keyboard('x{Enter}');
    expect(screen.getByText('Not “x”: A B C.')).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Keep, and the next student' }));
    expect(sent).toEqual([]);
    await user.keyboard('{Backspace}');
    await user.click(screen.getByRole('button', { name: 'Keep, and the next student' }));
    expect(screen.getByRole('alert').textContent).toContain('Nothing is typed.');
    await user.click(screen.getByRole('button', { name: 'Skip Ada' }));
    expect(screen.getByRole('heading', { name: 'Bo' })).toBeTruthy();
    expect(sent).toEqual([]);
  });

  it('types a second time into empty rows, and says what differs', async () => {
    const { sent, user } = open([0, 2]);
    await screen.findByText('0 of 3 students typed');
    await user.keyboard('b{Control>}{Enter}{/Control}');
    await screen.findByText('Ada is kept.');
    const second = screen.getByRole('radio', { name: /Second entry/ });
    await user.click(second);
    expect(document.activeElement).toBe(second);
    await user.click(screen.getByRole('button', { name: 'Ada' }));
    expect((screen.getByLabelText('Row 1: A B C') as HTMLInputElement).value).toBe('');
    await user.keyboard('c{Control>}{Enter}{/Control}');
    expect(sent[1]).toMatchObject({ userId: 'Ada', entry: 2, rows: [['C'], [], []] });
    expect(await screen.findByText('Ada: 2 rows differ from the first entry.')).toBeTruthy();
    expect(screen.getByText('2 rows differ')).toBeTruthy();
    expect(screen.getByRole('link', { name: 'Look through' }).getAttribute('href')).toBe('/here/review');
  });
});
