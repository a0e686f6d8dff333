// @vitest-environment jsdom
import '../testing/dom';
import { render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it, vi } from 'vitest';
import { nothingWaits } from '@/core/attempt/waiting';
import type { ReplyToRead } from '@/server/release/replies';
import type { ResultRow, ResultsPage as Results } from '@/server/release/results';
import { ResultsPage } from './ResultsPage';

vi.mock('next/navigation', () => ({ useRouter: () => ({ refresh: () => undefined }) }));

const row = (name: string, earned: number | null, more: Partial<ResultRow> = {}): ResultRow => ({
  userId: name,
  name,
  section: null,
  hasLeft: false,
  state: earned === null ? 'not-started' : 'handed-in',
  attempts: earned === null ? 0 : 1,
  result: earned === null ? null : { earned, possible: 10, marked: 10, waiting: 0, ready: true },
  published: null,
  changed: false,
  preliminary: false,
  band: '',
  done: null,
  counts: null,
  minutes: 12,
  daysLate: 0,
  receipt: null,
  signs: earned === null ? [] : [['Part A', 'rw.']],
  paper: earned === null ? null : { questions: 3, answered: 2, right: 1, waiting: 0 },
  ...more,
});

const taken = { ok: true as const, value: { sent: 0, read: 0, withdrawn: 0 } };

function open(rows: ResultRow[], more: Partial<Results> = {}, replies: ReplyToRead[] = []) {
  const published: unknown[] = [];
  const written: unknown[] = [];
  render(
    <ResultsPage
      base="/c/1"
      sittingId="s"
      results={{
        title: 'Knots',
        phase: 'closed',
        timeZone: 'UTC',
        purpose: { scored: true, counts: 'score', anonymous: false },
        document: null,
        planSaid: ['Score: on publishing.'],
        selfSaid: '',
        leaks: [],
        leaksTaken: [],
        waiting: nothingWaits,
        waitingNames: [],
        rows,
        order: 'first',
        ...more,
      }}
      replies={replies}
      mayPublish
      commands={{
        publishReady: async (input) => {
          published.push(input);
          return { ok: true, value: { published: (input as { expected: number }).expected } };
        },
        withdrawPublished: async () => taken,
        readReplies: async () => taken,
        answerReply: async (...sent) => {
          written.push(sent);
          return { ok: true, value: null };
        },
        setNameOrder: async () => ({ ok: true, value: null }),
        writeToStudents: async (input) => {
          written.push(input);
          return { ok: true, value: { sent: (input as { userIds: string[] }).userIds.length } };
        },
      }}
    />,
  );
  return { user: userEvent.setup(), published, written };
}
const names = () =>
  [...screen.getByRole('table').querySelectorAll('tbody tr')].map((one) => one.querySelectorAll('td')[1]?.textContent);
const class3 = [row('Ada', 4), row('Bo', 9), row('Cy', null)];

describe('the results of a sitting', () => {
  it('say who was late, and by how much', () => {
    open([row('Ada', 8, { daysLate: 2 }), row('Bo', 5)]);
    expect(screen.getByRole('row', { name: /Ada/ }).textContent).toContain('2 days late');
    expect(screen.getByRole('row', { name: /Bo/ }).textContent).not.toContain('late');
  });

  it('keep the replies of students in reach when they were read, and answer them', async () => {
    const reply = (id: string, readAt: number | null) => ({
      id,
      userId: id,
      name: `Ada ${id}`,
      text: `Why ${id}?`,
      at: 0,
      readAt,
      answer: readAt === null ? null : { text: 'Because.', at: readAt, by: 'Ingrid' },
    });
    const { user, written } = open([], {}, [reply('1', null), reply('2', 5)]);
    expect(screen.getByText('1 reply to the feedback, not read yet')).toBeTruthy();
    const read = screen.getByText('1 reply to the feedback, read').closest('details');
    expect(read?.textContent).toContain('Why 2?');
    expect(read?.textContent).toContain('Because.Ingrid');
    // What has been answered is not answered again.
    expect(screen.queryByRole('button', { name: 'Answer Ada 2', hidden: true })).toBeNull();
    await user.click(screen.getByRole('button', { name: 'Answer Ada 1', hidden: true }));
    await user.type(screen.getByRole('textbox', { name: /^An answer to Ada 1/, hidden: true }), 'See figure 3.');
    await user.click(screen.getByRole('button', { name: 'Send the answer', hidden: true }));
    expect(written).toEqual([['1', 'See figure 3.']]);
    expect(await screen.findByText('Ada 1 has been answered.')).toBeTruthy();
  });

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

  it('are shown by where they stand, of which only what occurs is offered', async () => {
    const { user } = open([
      ...class3,
      row('Di', 5, { result: { earned: 5, possible: 10, marked: 5, waiting: 2, ready: false } }),
    ]);
    const show = screen.getByRole('combobox', { name: 'Show' });
    expect([...show.querySelectorAll('option')].map((one) => one.textContent)).toEqual([
      'all students',
      'ready to publish (2)',
      'to be marked (1)',
      'not handed in (1)',
    ]);
    await user.selectOptions(show, 'to be marked (1)');
    expect(names()).toEqual(['Di']);
    await user.type(screen.getByRole('searchbox', { name: 'Find students' }), 'ada');
    expect(screen.getByText(/^0 of 4 students/)).toBeTruthy();
  });

  it('are published after their numbers were said; while the sitting is open that is said too', async () => {
    const { user, published } = open(class3, { phase: 'open' });
    await user.click(screen.getByRole('button', { name: 'Publish 2 results' }));
    const dialog = within(await screen.findByRole('dialog'));
    expect(dialog.getByText(/2 students get a message/)).toBeTruthy();
    expect(dialog.getByText(/The sitting is still open/)).toBeTruthy();
    expect(dialog.getByText('1 have not handed in.')).toBeTruthy();
    expect(published).toEqual([]);
    await user.click(dialog.getByRole('button', { name: 'Publish' }));
    expect(published).toEqual([{ expected: 2 }]);
    expect(await screen.findByText(/2 results have been published/)).toBeTruthy();
  });

  it('say of changes what was published and what it is now, and of leaks what would be given away', async () => {
    const before = {
      id: 1,
      earned: 2,
      possible: 10,
      marked: 10,
      waiting: 0,
      preliminary: false,
      attemptIds: [],
      publishedAt: 0,
    };
    const { user, published } = open(
      [row('Ada', 4, { published: { ...before, band: 'good' }, band: 'weak', changed: true })],
      {
        leaks: ['Students see the right answers, while others may still be writing.'],
      },
    );
    await user.click(screen.getByRole('button', { name: 'Publish 1 change' }));
    const dialog = within(await screen.findByRole('dialog'));
    expect(dialog.getByText('2 → 4 of 10, good → weak')).toBeTruthy();
    await user.click(dialog.getByRole('checkbox', { name: /Show it at once/ }));
    await user.click(dialog.getByRole('button', { name: 'Publish' }));
    expect(published).toEqual([{ expected: 1, showAtOnce: true }]);
  });

  it('let students be picked by a rule, and be written to or published alone', async () => {
    const { user, published, written } = open(class3);
    await user.click(screen.getByRole('button', { name: 'Pick students by a rule' }));
    await user.click(screen.getByRole('button', { name: 'Pick 1' }));
    expect(screen.getByText('1 student picked')).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Write to them' }));
    const letter = within(await screen.findByRole('dialog'));
    await user.type(letter.getByRole('textbox', { name: 'Message' }), 'Come to the lesson.');
    await user.click(letter.getByRole('button', { name: 'Send' }));
    expect(written).toEqual([{ userIds: ['Ada'], subject: 'Knots', text: 'Come to the lesson.' }]);
    await user.click(await screen.findByRole('button', { name: 'publish only these' }));
    await user.click(within(await screen.findByRole('dialog')).getByRole('button', { name: 'Publish' }));
    expect(published).toEqual([{ expected: 1, userIds: ['Ada'] }]);
  });
});

it('picking by percent leaves out who is not completely marked, and says so', async () => {
  const user = userEvent.setup();
  const soFar = { earned: 1, possible: 10, marked: 5, waiting: 1, ready: false };
  open([row('Ada', 4), row('Bo', 1, { result: soFar }), row('Cy', null)]);
  await user.click(screen.getByRole('button', { name: 'Pick students by a rule' }));
  expect(screen.getByRole('button', { name: 'Pick 1' })).toBeTruthy();
  expect(screen.getByText('1 paper is not completely marked and left out')).toBeTruthy();
  await user.selectOptions(screen.getByRole('combobox', { name: 'Pick students' }), 'with answers to be marked');
  expect(screen.queryByText(/left out/)).toBeNull();
});

it('publishing says of what gives keys away and is accepted already that it is not held back', async () => {
  const user = userEvent.setup();
  const said =
    'Students see the right answers, while others may still be writing. Ada has accepted that: it is not held back.';
  open([row('Ada', 4)], { leaksTaken: [said] });
  await user.click(screen.getByRole('button', { name: 'Publish 1 result' }));
  const dialog = within(await screen.findByRole('dialog'));
  expect(dialog.getByText(said)).toBeTruthy();
  expect(dialog.queryByRole('checkbox')).toBeNull();
});

it('publishing names what waits for a decision, before it acts', async () => {
  const user = userEvent.setup();
  open([row('Ada', 4)], {
    waiting: { asides: 2, asidesOf: ['ada'], reports: 0, incidents: 1, differences: 0, sheets: 0 },
    waitingNames: ['Ada'],
  });
  expect(screen.getByText(/Waits for a decision: 2 answers kept aside, of 1 student; 1 incident \(Ada\)/)).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'Publish 1 result' }));
  const dialog = within(await screen.findByRole('dialog'));
  expect(dialog.getByText('Not decided yet, and not in these results:')).toBeTruthy();
  expect(dialog.getByText('2 answers kept aside, of 1 student')).toBeTruthy();
  expect(dialog.getByText('Answers of Ada.')).toBeTruthy();
});

it('the results of a survey lead to what was answered, and say who took part', () => {
  open([row('Ada', null, { state: 'handed-in' }), row('Bo', null)], {
    purpose: { scored: false, counts: 'no', anonymous: true },
  });
  expect(screen.getByText(/1 of 2 people took part/)).toBeTruthy();
  expect(screen.getByRole('link', { name: 'What was answered' }).getAttribute('href')).toBe('/c/1/sittings/s/answers');
  expect(screen.getByRole('row', { name: /Ada/ }).textContent).toContain('took part');
  expect(screen.getByRole('row', { name: /Bo/ }).textContent).toContain('has not taken part');
  // Nothing is known of a person, made up, or published.
  expect(screen.queryByRole('columnheader', { name: /Score|Receipt|Minutes/ })).toBeNull();
  expect(screen.queryByRole('link', { name: /Was ill/ })).toBeNull();
  expect(screen.queryByRole('button', { name: /^Publish/ })).toBeNull();
});
