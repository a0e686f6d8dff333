// @vitest-environment jsdom
import '../testing/dom';
import { render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { expect, it } from 'vitest';
import type { PrintState } from '@/server/print/printJobs';
import { ReportsPage } from './PrintedReportsPage';

const state = (more: Partial<PrintState>): PrintState => ({
  id: 'p',
  state: 'running',
  done: 0,
  total: 3,
  input: { sittingId: 's', report: 'students' },
  problem: null,
  ...more,
});

function open(students: number, now: PrintState | null, progress: PrintState[] = []) {
  const asked: unknown[] = [];
  render(
    <ReportsPage
      back="/c/1/sittings/s/results"
      file="/pdf"
      page={{ title: 'Knots', students, state: now }}
      commands={{
        printReport: async (report) => {
          asked.push(report);
          return { ok: true, value: state({ input: { sittingId: 's', report } }) };
        },
        reportState: async () => ({ ok: true, value: progress.shift() ?? null }),
        cancelReport: async () => {
          asked.push('end');
          return { ok: true, value: null };
        },
      }}
    />,
  );
  return { user: userEvent.setup(), asked };
}

const other = () => screen.getByRole<HTMLInputElement>('radio', { name: /^By question/ });

it('a report is chosen, printed while one watches, and opened', async () => {
  const { user, asked } = open(3, null, [state({ done: 2 }), state({ state: 'done', done: 3 })]);
  expect(screen.getByRole<HTMLInputElement>('radio', { name: /^Class sheet/ }).checked).toBe(true);
  await user.click(screen.getByRole('radio', { name: /^By student/ }));
  await user.click(screen.getByRole('button', { name: 'Print “By student”' }));
  expect(asked).toEqual(['students']);
  expect(screen.getByRole('progressbar', { name: 'students printed' })).toBeTruthy();
  await waitFor(() => expect(other().disabled).toBe(true));
  expect(await screen.findByText('2 of 3 students printed')).toBeTruthy();
  const link = await screen.findByRole('link', { name: 'Open “By student” of 3 students' });
  expect(link.getAttribute('href')).toBe('/pdf');
});

it('one that runs is found again and can be cancelled', async () => {
  const { user, asked } = open(3, state({ done: 1 }));
  expect(screen.getByText('1 of 3 students printed')).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'Cancel' }));
  expect(asked).toEqual(['end']);
  expect(await screen.findByText('Cancelled.')).toBeTruthy();
  await waitFor(() => expect(other().disabled).toBe(false));
});

it('before anything is handed in there is nothing to print', () => {
  open(0, null);
  expect(screen.getByText('Nothing handed in yet')).toBeTruthy();
  expect(screen.queryByRole('button')).toBeNull();
});
