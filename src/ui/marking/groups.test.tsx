// @vitest-environment jsdom
import '../testing/dom';
import { fireEvent, render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { richFromText } from '@/core/base/rich';
import type { AnswersTogether } from '@/server/marking/groups';
import type { MarksPreview } from '@/server/marking/offlineUpload';
import type { SecondMarkingPage as SecondPage } from '@/server/marking/settle';
import { GroupsPage } from './GroupsPage';
import { OfflinePage } from './OfflinePage';
import { QueueTable } from './QueueTable';
import { SecondMarkingPage } from './SecondMarkingPage';

const went: string[] = [];
vi.mock('next/navigation', () => ({
  useRouter: () => ({ refresh: () => undefined, push: () => undefined, replace: (to: string) => went.push(to) }),
}));
const back = { href: '/c/1/marking', name: 'Marking' };
const button = (name: string | RegExp) => screen.getByRole('button', { name });

beforeEach(() => {
  went.length = 0;
});

describe('alike answers together', () => {
  const answer = (n: number, points: number | null, similarity = 1) => ({
    slotId: `s${n}`,
    number: n,
    text: `answer ${n}`,
    similarity,
    points,
    markId: points === null ? null : 10 + n,
    revision: 1,
  });
  const together: AnswersTogether = {
    sittingTitle: 'Paper',
    question: {
      questionId: 'q',
      name: 'Why?',
      stem: richFromText('Why?'),
      passage: null,
      modelAnswer: richFromText('Because.'),
      rubric: null,
      comments: [],
    },
    outOf: 4,
    least: 0.8,
    groups: [
      { text: 'answer 1', answers: [answer(1, null), answer(2, null, 0.9), answer(3, 2)] },
      { text: 'answer 4', answers: [answer(4, null)] },
    ],
  };
  const open = () => {
    const sent: unknown[] = [];
    const taken: number[] = [];
    render(
      <GroupsPage
        back={back}
        together={together}
        commands={{
          markGroup: async (input) => {
            sent.push(input);
            return { ok: true, value: { marked: 1, points: 3, auditId: 7, markIds: {} } };
          },
          undoChange: async (auditId) => {
            taken.push(auditId);
            return { ok: true, value: { said: '' } };
          },
        }}
      />,
    );
    return { user: userEvent.setup(), sent, taken };
  };

  it('marks the ticked answers of a group, those that wait unless told otherwise, and takes it back', async () => {
    const { user, sent, taken } = open();
    expect(button('Mark 2 answers')).toBeTruthy();
    await user.click(screen.getByRole('checkbox', { name: 'answer 2' }));
    await user.click(button('Mark 1 answer'));
    expect(screen.getByText('Type the points as a number.')).toBeTruthy();
    await user.type(screen.getByLabelText('Points, 0 to 4'), '3{Enter}');
    expect(sent).toEqual([
      { points: 3, comment: '', rubric: {}, answers: [{ slotId: 's1', revision: 1, before: null }] },
    ]);
    await user.click(button('Undo'));
    expect(taken).toEqual([7]);
  });

  it('shows another group when it is chosen, and follows the slider', async () => {
    const { user } = open();
    await user.click(button(/answer 4/));
    expect(button('Mark 1 answer')).toBeTruthy();
    vi.useFakeTimers();
    fireEvent.change(screen.getByLabelText('How alike'), { target: { value: '0.6' } });
    expect(screen.getByText('at least 60 % alike')).toBeTruthy();
    vi.advanceTimersByTime(300);
    vi.useRealTimers();
    expect(went).toEqual(['?least=0.6']);
  });
});

describe('marking offline', () => {
  const looked: MarksPreview = {
    rows: [
      {
        line: 3,
        code: 'aaaa-bbbb',
        kind: 'wrong',
        why: 'no-number',
        message: '“x” is no number.',
        question: 'Why?',
        outOf: 4,
      },
      {
        line: 2,
        code: 'cccc-dddd',
        kind: 'change',
        slotId: 's',
        from: null,
        points: 3,
        comment: 'Good.',
        question: 'Why?',
        outOf: 4,
      },
    ],
    changes: 1,
    same: 2,
    empty: 3,
    wrong: 1,
    files: [{ code: 'cccc-dddd', name: 'cccc-dddd.pdf', bytes: 2_000 }],
    strange: ['holiday.jpg'],
    key: 'k',
  };
  const answers: { status: number; body: unknown }[] = [];
  const asked: string[] = [];
  beforeEach(() => {
    answers.length = 0;
    asked.length = 0;
    vi.stubGlobal('fetch', async (address: string) => {
      asked.push(address);
      const { status, body } = answers.shift() as { status: number; body: unknown };
      return { ok: status < 400, json: async () => body };
    });
  });
  afterEach(() => vi.unstubAllGlobals());
  const open = () => {
    render(
      <OfflinePage
        back={back}
        here="/off"
        title="Paper"
        answers={6}
        waiting={1}
        undoChange={async () => ({ ok: true, value: { said: '1 mark and 1 file taken back.' } })}
      />,
    );
    return userEvent.setup();
  };
  const file = new File(['x'], 'marks.csv', { type: 'text/csv' });

  it('shows what would change, takes it over as it was looked at, and takes it back', async () => {
    const user = open();
    answers.push({ status: 200, body: looked }, { status: 200, body: { marked: 1, files: 1, auditId: 7 } });
    await user.upload(screen.getByLabelText('Choose the file'), file);
    expect(await screen.findByText('“x” is no number.')).toBeTruthy();
    expect(screen.getByText('1 row cannot be taken')).toBeTruthy();
    expect(screen.getByText('holiday.jpg')).toBeTruthy();
    await user.click(button('Take over 1 mark and 1 file'));
    expect(asked).toEqual(['/off/upload', '/off/upload?key=k']);
    expect(await screen.findByText('1 answer marked, and 1 file kept for the students.')).toBeTruthy();
    await user.click(button('Undo'));
    expect(await screen.findByText('1 mark and 1 file taken back.')).toBeTruthy();
  });

  it('says what is wrong with a file, and changes nothing', async () => {
    const user = open();
    answers.push({ status: 400, body: { problems: [{ code: 'bad-input', message: 'This is no marks sheet.' }] } });
    await user.upload(screen.getByLabelText('Choose the file'), file);
    expect(await screen.findByText('This is no marks sheet.')).toBeTruthy();
    expect(screen.queryByText('What would change')).toBeNull();
  });
});

describe('the second marker', () => {
  const page: SecondPage = {
    sittingTitle: 'Paper',
    rule: { markerId: 'm', share: 0.2, threshold: 1 },
    staff: [
      { userId: 'm', name: 'Mo' },
      { userId: 't', name: 'Ty' },
    ],
    answers: 20,
    inShare: 4,
    questions: [
      { questionId: 'q', name: 'Why?', agreement: { answers: 4, exact: 0.5, withinOne: 0.75, kappa: 0.375 } },
    ],
    whole: { answers: 4, exact: 0.5, withinOne: 0.75, kappa: 0.375 },
    differences: [
      {
        slotId: 's',
        questionName: 'Why?',
        text: 'The tide.',
        outOf: 6,
        revision: 1,
        markId: 3,
        first: { by: 'Ty', points: 2, comment: 'Thin.' },
        second: { by: 'Mo', points: 5, comment: '' },
        settled: null,
      },
      {
        slotId: 'd',
        questionName: 'Why?',
        text: 'The moon.',
        outOf: 6,
        revision: 1,
        markId: 9,
        first: { by: 'Ty', points: 1, comment: '' },
        second: { by: 'Mo', points: 4, comment: '' },
        settled: { points: 3, by: 'Ty', at: 0, comment: 'Half of it.' },
      },
    ],
    timeZone: 'UTC',
  };

  it('is set in a sentence; agreement is said, and a difference settled', async () => {
    const sent: unknown[] = [];
    render(
      <SecondMarkingPage
        back={back}
        page={page}
        commands={{
          setSecondMarking: async (rule) => {
            sent.push(rule);
            return { ok: true, value: null };
          },
          settle: async (slotId, input) => {
            sent.push([slotId, input]);
            return { ok: true, value: { points: 3.5, markId: 4 } };
          },
        }}
      />,
    );
    const user = userEvent.setup();
    expect(screen.getByText('0.38')).toBeTruthy();
    expect(screen.getByText('1 difference to settle')).toBeTruthy();
    await user.click(button('Who marks a second time: Mo'));
    await user.click(screen.getByLabelText('Ty'));
    await user.click(button('The mean, 3.5'));
    expect(sent).toEqual([
      { markerId: 't', share: 0.2, threshold: 1 },
      ['s', { points: 3.5, comment: '', revision: 1, before: 3 }],
    ]);
    await user.click(button('Settle'));
    expect(await screen.findByText('Type the points as a number.')).toBeTruthy();
    // What was settled stands in a list, and is settled anew over the mark that was.
    const settled = screen.getByText('1 difference settled').closest('details') as HTMLElement;
    expect(settled.querySelector('li')?.textContent).toContain(
      'Why?: Ty 1, Mo 4; settled at 3 points of 6, “Half of it.”The moon.Ty, Thu 1 Jan 1970, 00:00',
    );
    await user.click(within(settled).getByRole('button', { name: 'Settle anew', hidden: true }));
    await user.type(within(settled).getByRole('textbox', { name: 'Points, 0 to 6', hidden: true }), '3.5');
    await user.click(within(settled).getByRole('button', { name: 'Settle', hidden: true }));
    expect(sent.at(-1)).toEqual(['d', { points: 3.5, comment: '', revision: 1, before: 9 }]);
  });
});

describe('the queue', () => {
  it('says how much waits, for how long and for whom; what is marked is shown on request', async () => {
    const row = (questionId: string, waiting: number) => ({
      sittingId: 's',
      sittingTitle: 'Paper',
      questionId,
      questionName: questionId,
      waiting,
      marked: 2,
      oldest: waiting ? 0 : null,
      markers: ['Mo'],
    });
    render(<QueueTable base="/m" rows={[row('one', 3), row('two', 0)]} second={[]} now={3_600_000} maySet />);
    expect(screen.getByText('marked by the instructors and Mo')).toBeTruthy();
    expect(screen.getByText('longest: 1 h')).toBeTruthy();
    expect(screen.queryByText('two')).toBeNull();
    await userEvent.click(button('Show what is marked too (1)'));
    expect(screen.getByText('two')).toBeTruthy();
  });
});
