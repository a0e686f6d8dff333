// @vitest-environment jsdom
import '../testing/dom';
import { render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it, vi } from 'vitest';
import type { ResultRow, ResultsPage as Results } from '@/server/release/results';
import { ResultsPage } from './ResultsPage';

vi.mock('next/navigation', () => ({ useRouter: () => ({ refresh: () => undefined }) }));

const row = (name: string, earned: number | null, more: Partial<ResultRow> = {}): ResultRow => ({
  userId: name,
  name,
  section: null,
  state: earned === null ? 'not-started' : 'handed-in',
  attempts: earned === null ? 0 : 1,
  result: earned === null ? null : { earned, possible: 10, waiting: 0, ready: true, from: ['a'] },
  published: null,
  changed: false,
  minutes: 12,
  receipt: null,
  strokes: earned === null ? [] : [['Part A', 'rw.']],
  paper: earned === null ? null : { questions: 3, answered: 2, right: 1, waiting: 0 },
  ...more,
});

function open(rows: ResultRow[], phase: Results['phase'] = 'closed') {
  const published: number[] = [];
  render(
    <ResultsPage
      base="/c/1"
      sittingId="s"
      results={{
        title: 'Knots',
        phase,
        timeZone: 'UTC',
        purpose: { scored: true, counts: 'score', anonymous: false },
        document: null,
        rows,
      }}
      numbers={{ ready: 2, changed: 0, stillToMark: 0, notHandedIn: 1, running: 0, published: 0 }}
      mayPublish
      publish={async (expected) => {
        published.push(expected);
        return { ok: true, value: { published: expected } };
      }}
      withdraw={async () => ({ ok: true, value: { withdrawn: 0 } })}
    />,
  );
  return { user: userEvent.setup(), published };
}
const names = () =>
  [...screen.getByRole('table').querySelectorAll('tbody tr')].map((one) => one.querySelector('td')?.textContent);
const class3 = [row('Ada', 4), row('Bo', 9), row('Cy', null)];

describe('the results of a sitting', () => {
  it('stand by name, then by score from the best or the weakest', async () => {
    const { user } = open(class3);
    expect(names()).toEqual(['Ada', 'Bo', 'Cy']);
    await user.click(screen.getByRole('button', { name: 'Score' }));
    expect(names()).toEqual(['Bo', 'Ada', 'Cy']);
    await user.click(screen.getByRole('button', { name: 'Score' }));
    expect(names()).toEqual(['Cy', 'Ada', 'Bo']);
  });

  it('show each paper as a ruler that can be heard', () => {
    open(class3);
    expect(screen.getByRole('img', { name: 'Paper of Ada: 2 of 3 answered, 1 right' })).toBeTruthy();
  });

  it('have a column for sections only where there are any', () => {
    open(class3);
    expect(screen.queryByRole('columnheader', { name: 'Section' })).toBeNull();
  });

  it('say how many are shown of how many, and that publishing acts on all', async () => {
    const { user } = open(class3.map((one, i) => ({ ...one, section: i ? 'Evening' : 'Weekday' })));
    expect(screen.getByRole('columnheader', { name: 'Section' })).toBeTruthy();
    await user.type(screen.getByRole('searchbox', { name: 'Find students' }), 'even');
    expect(names()).toEqual(['Bo', 'Cy']);
    expect(screen.getByText('2 of 3 students; publishing acts on all of them')).toBeTruthy();
  });

  it('are published after their numbers were said; while the sitting is open that is said too', async () => {
    const { user, published } = open(class3, 'open');
    await user.click(screen.getByRole('button', { name: 'Publish 2 results' }));
    const dialog = within(await screen.findByRole('dialog'));
    expect(dialog.getByText(/2 students see their score at once/)).toBeTruthy();
    expect(dialog.getByText(/The sitting is still open/)).toBeTruthy();
    expect(dialog.getByText('1 have not handed in.')).toBeTruthy();
    expect(published).toEqual([]);
    await user.click(dialog.getByRole('button', { name: 'Publish' }));
    expect(published).toEqual([2]);
    expect(await screen.findByText(/2 results have been published/)).toBeTruthy();
  });
});
