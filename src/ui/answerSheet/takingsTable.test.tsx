// @vitest-environment jsdom
import '../testing/dom';
import { render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { expect, it } from 'vitest';
import type { SheetTaking } from '@/server/answerSheet/planSheets';
import type { SheetsPreview } from '@/server/answerSheet/takeSheets';
import { TakingsTable } from './TakingsTable';

const taking = (name: string, more: Partial<SheetTaking> = {}): SheetTaking => ({
  userId: name.toLowerCase(),
  name,
  into: 'new',
  answered: 3,
  changes: [],
  pages: [`page-of-${name.toLowerCase()}`],
  missing: [],
  notes: [],
  problem: null,
  ...more,
});

it('what comes in stands student by student, with what changes, and a student can be left out', async () => {
  const done: unknown[] = [];
  const preview: SheetsPreview = {
    takings: [
      taking('Ada', {
        into: 'existing',
        changes: [{ number: 2, before: 'red', after: 'green' }],
        notes: ['Be aware.'],
      }),
      taking('Bo', { missing: [2] }),
      taking('Cy', { problem: 'It cannot.' }),
    ],
    without: ['Di'],
    said: '3 of 4 students.',
    doubts: 0,
    isForGood: false,
    key: 'seen',
  };
  render(
    <TakingsTable
      preview={preview}
      busy={false}
      onTake={() => done.push('taken')}
      leaveOut={(one) => done.push(one.pages)}
    />,
  );
  const row = (name: string) => within(screen.getByRole('row', { name: new RegExp(`^${name}`) }));
  expect(row('Ada').getByText('Question 2: red → green')).toBeTruthy();
  expect(row('Ada').getByText('Be aware.')).toBeTruthy();
  expect(row('Bo').getByText(/without page 2/)).toBeTruthy();
  expect(row('Cy').getByText('It cannot.')).toBeTruthy();
  expect(screen.getByText('No sheet of Di.')).toBeTruthy();
  const user = userEvent.setup();
  await user.click(screen.getByRole('button', { name: 'Leave out what Bo filled in' }));
  await user.click(screen.getByRole('button', { name: 'Read 2 sheets in' }));
  expect(done).toEqual([['page-of-bo'], 'taken']);
});
