// @vitest-environment jsdom
import '../testing/dom';
import { fireEvent, render, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { Result } from '@/core/base/result';
import { richFromText } from '@/core/base/rich';
import type { AnswersTogether } from '@/server/marking/groups';
import type { MarksPreview } from '@/server/marking/offlineUpload';
import type { RemarkPreview } from '@/server/marking/remarking';
import type { GivenAnswer, MarkedPaper } from '@/server/marking/responses';
import type { SecondMarkingPage as SecondPage } from '@/server/marking/settle';
import { GroupsPage } from './GroupsPage';
import { MarkedPaperPage } from './MarkedPaperPage';
import { OfflinePage } from './OfflinePage';
import { QueueTable } from './QueueTable';
import { RemarkPage } from './RemarkPage';
import { ResponsesPage } from './ResponsesPage';
import { SecondMarkingPage } from './SecondMarkingPage';

const went: string[] = [];
vi.mock('next/navigation', () => ({
  useRouter: () => ({ refresh: () => undefined, push: () => undefined, replace: (to: string) => went.push(to) }),
}));
const back = { href: '/c/1/marking', name: 'Marking' };
const button = (name: string | RegExp) => screen.getByRole('button', { name });
const refusedWith = (message: string, field?: string): Result<never> => ({
  ok: false,
  problems: [{ code: 'bad-input', message, ...(field ? { field } : {}) }],
});

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
    const taken: string[] = [];
    render(
      <GroupsPage
        back={back}
        together={together}
        commands={{
          group: async (input) => {
            sent.push(input);
            return { ok: true, value: { marked: 1, points: 3, batch: 'b', markIds: {} } };
          },
          takeBack: async (batch) => {
            taken.push(batch);
            return { ok: true, value: { takenBack: 1, later: 0 } };
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
    expect(taken).toEqual(['b']);
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

const preview: RemarkPreview = {
  questionName: 'Depth',
  bankId: 'b',
  version: 2,
  onPapers: [1],
  policy: 'new-key',
  answers: 3,
  changing: 2,
  byPerson: 1,
  results: [
    {
      sittingId: 's',
      userId: 'u',
      name: 'Ada',
      before: { earned: 2, possible: 4 },
      after: { earned: 1, possible: 4 },
      published: true,
    },
  ],
  sittings: [
    {
      sittingId: 's',
      title: 'Quiz',
      results: 3,
      meanBefore: 0.5,
      meanAfter: 0.25,
      tenthsBefore: [0, 0, 0, 0, 0, 3, 0, 0, 0, 0],
      tenthsAfter: [0, 0, 3, 0, 0, 0, 0, 0, 0, 0],
    },
  ],
  choices: [
    { sittingId: 's', title: 'Quiz' },
    { sittingId: 't', title: 'Again' },
  ],
  key: 'k',
};

describe('marking a question anew', () => {
  it('says who gains and loses what, needs a reason, and can be taken back', async () => {
    const sent: unknown[] = [];
    const taken: string[] = [];
    render(
      <RemarkPage
        back={back}
        edit="/edit"
        preview={preview}
        only={[]}
        commands={{
          apply: async (input) => {
            sent.push(input);
            return sent.length === 1
              ? refusedWith('Say why it is marked anew.', 'reason')
              : { ok: true, value: { remarkId: 'r', changed: 2 } };
          },
          takeBack: async (id) => {
            taken.push(id);
            return { ok: true, value: { takenBack: 2, later: 0 } };
          },
        }}
      />,
    );
    const user = userEvent.setup();
    expect(screen.getByText(/1 mark given by hand or adjusted stays as it is/)).toBeTruthy();
    expect(screen.getByText('loses 25 %')).toBeTruthy();
    expect(screen.getByText('will be flagged')).toBeTruthy();
    await user.click(button('Mark 2 answers anew'));
    expect(await screen.findByText('Say why it is marked anew.')).toBeTruthy();
    await user.type(screen.getByLabelText('Why, kept with the marks'), 'Misprint');
    await user.click(button('Mark 2 answers anew'));
    expect(sent[1]).toEqual({ policy: 'new-key', sittingIds: [], reason: 'Misprint', key: 'k' });
    await user.click(button('Undo'));
    expect(taken).toEqual(['r']);
  });

  it('asks anew for another policy or fewer sittings', async () => {
    render(
      <RemarkPage
        back={back}
        edit="/edit"
        preview={preview}
        only={[]}
        commands={{ apply: async () => refusedWith('no'), takeBack: async () => refusedWith('no') }}
      />,
    );
    const user = userEvent.setup();
    await user.click(screen.getByRole('radio', { name: /Take it out of the total/ }));
    await user.click(screen.getByRole('checkbox', { name: 'Again' }));
    expect(went).toEqual(['?policy=left-out', '?policy=new-key&sitting=s']);
  });
});

describe('every answer to a question', () => {
  const given = (
    student: string,
    text: string,
    points: number | null,
    more: Partial<GivenAnswer> = {},
  ): GivenAnswer => ({
    slotId: student,
    userId: student,
    student,
    attempt: 1,
    text,
    same: 1,
    outOf: 2,
    points,
    kind: points === null ? null : 'automatic',
    markId: 1,
    revision: 1,
    ...more,
  });

  it('is filtered by credit and words, and a wrong one is accepted after a look', async () => {
    const accepted: unknown[] = [];
    render(
      <ResponsesPage
        back={back}
        papers="/papers"
        remark="/remark"
        page={{
          sittingTitle: 'Quiz',
          questionId: 'q',
          name: 'Knot',
          type: 'short-text',
          stem: richFromText('Which knot?'),
          right: 'bowline',
          mayAccept: true,
          answers: [
            given('Ada', 'bowline', 2),
            given('Bo', 'boling', 0),
            given('Cy', '', 0),
            given('Di', 'reef', null),
          ],
        }}
        commands={{
          lookAtAccepting: async () => ({ ok: true, value: preview }),
          accept: async (input) => {
            accepted.push(input);
            return { ok: true, value: { remarkId: 'r', changed: 2 } };
          },
          takeBack: async () => ({ ok: true, value: { takenBack: 2, later: 0 } }),
        }}
      />,
    );
    const user = userEvent.setup();
    expect(screen.getByRole('link', { name: 'Bo' }).getAttribute('href')).toBe('/papers/Bo?attempt=1');
    for (const name of ['1 full credit', '1 no credit', '1 empty', '1 wait for a mark'])
      expect(button(name)).toBeTruthy();
    await user.click(button('1 no credit'));
    expect(screen.queryByText('Ada')).toBeNull();
    await user.click(button('Accept from now on “boling”'));
    const dialog = within(await screen.findByRole('dialog'));
    const act = dialog.getByRole('button', { name: 'Accept it and mark 2 answers anew' });
    await waitFor(() => expect(act.matches(':disabled')).toBe(false));
    await user.click(act);
    expect(accepted).toEqual([{ text: 'boling', key: 'k' }]);
    expect(await screen.findByText(/“boling” is accepted from now on/)).toBeTruthy();
  });
});

describe('a marked paper', () => {
  const paper: MarkedPaper = {
    sittingTitle: 'Quiz',
    student: 'Ada',
    attemptId: 'a',
    attempt: 2,
    attempts: [1, 2],
    timeZone: 'UTC',
    endedAt: 0,
    score: { earned: 3, possible: 6, marked: 6, waiting: 0 },
    questions: [
      {
        slotId: 's',
        questionId: 'q',
        number: 1,
        name: 'Knot',
        text: 'reef',
        outOf: 2,
        points: 1,
        kind: 'adjusted',
        comment: 'Nearly.',
        markId: 5,
        revision: 1,
        files: [{ id: 'f', name: 'notes.pdf' }],
        history: [
          { id: 4, at: 0, by: null, kind: 'automatic', points: 0, comment: '', reason: '', fallen: null },
          { id: 5, at: 60_000, by: 'Bo', kind: 'adjusted', points: 1, comment: '', reason: 'Appeal', fallen: null },
        ],
      },
    ],
    adjustments: [{ id: 7, points: -1, reason: 'Late', by: 'Bo', at: 0 }],
  };

  it('shows the history of each mark, and adjusts one answer or the whole with a reason', async () => {
    const sent: unknown[] = [];
    render(
      <MarkedPaperPage
        back={back}
        here="/here"
        responses="/responses"
        paper={paper}
        commands={{
          adjust: async (slotId, input) => {
            sent.push([slotId, input]);
            return { ok: true, value: { points: 2, markId: 9 } };
          },
          adjustWhole: async (id, input) => {
            sent.push([id, input]);
            return refusedWith('Give a reason: it stays with the mark.', 'reason');
          },
        }}
      />,
    );
    const user = userEvent.setup();
    expect(screen.getByText(/0 → 1 point \(adjusted: Appeal\)/)).toBeTruthy();
    expect(screen.getByText(/with −1 for the whole paper: Late/)).toBeTruthy();
    expect(screen.getByRole('link', { name: 'notes.pdf' }).getAttribute('href')).toBe('/returned-files/f');
    await user.click(button('Adjust question 1'));
    await user.clear(screen.getByLabelText('Points, 0 to 2'));
    await user.type(screen.getByLabelText('Points, 0 to 2'), '2');
    await user.type(screen.getByLabelText('Reason, kept with the mark'), 'Seen again');
    await user.click(button('Adjust the mark'));
    expect(sent).toEqual([['s', { points: 2, reason: 'Seen again', revision: 1, before: 5 }]]);
    expect(await screen.findByText('Question 1 is adjusted.')).toBeTruthy();
    await user.click(button('Adjust the whole paper'));
    await user.click(button('Adjust the paper'));
    expect(sent[1]).toEqual(['a', { points: -1, reason: '', before: 7 }]);
    expect(await screen.findByText('Give a reason: it stays with the mark.')).toBeTruthy();
  });
});

describe('marking offline', () => {
  const looked: MarksPreview = {
    rows: [
      { line: 3, code: 'aaaa-bbbb', kind: 'wrong', message: '“x” is no number.', question: 'Why?', outOf: 4 },
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
        takeBack={async () => ({ ok: true, value: { said: '1 mark and 1 file taken back.' } })}
      />,
    );
    return userEvent.setup();
  };
  const file = new File(['x'], 'marks.csv', { type: 'text/csv' });

  it('shows what would change, takes it over as it was looked at, and takes it back', async () => {
    const user = open();
    answers.push({ status: 200, body: looked }, { status: 200, body: { marked: 1, files: 1, batch: 'b' } });
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
        questionId: 'q',
        text: 'The tide.',
        outOf: 6,
        revision: 1,
        markId: 3,
        first: { by: 'Ty', points: 2, comment: 'Thin.' },
        second: { by: 'Mo', points: 5, comment: '' },
        settled: null,
      },
    ],
  };

  it('is set in a sentence; agreement is said, and a difference settled', async () => {
    const sent: unknown[] = [];
    render(
      <SecondMarkingPage
        back={back}
        page={page}
        commands={{
          set: async (rule) => {
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
