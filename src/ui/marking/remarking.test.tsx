// @vitest-environment jsdom
import '../testing/dom';
import { render, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { Result } from '@/core/base/result';
import { richFromText } from '@/core/base/rich';
import type { RemarkingOutcomes, RemarkingPreview } from '@/server/marking/remarking';
import type { GivenAnswer, MarkedPaper } from '@/server/marking/responses';
import { MarkedPaperPage } from './MarkedPaperPage';
import { RemarkingPage } from './RemarkingPage';
import { ResponsesPage } from './ResponsesPage';

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

const preview: RemarkingPreview = {
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

const outcomes: RemarkingOutcomes = {
  questionName: 'Depth',
  bankId: 'b',
  version: 2,
  onPapers: [1],
  choices: preview.choices,
  outcomes: (['new-key', 'either-key', 'everyone', 'left-out'] as const).map((policy) =>
    policy === 'new-key' ? preview : { ...preview, policy, changing: 0, results: [], sittings: [], byPerson: 0 },
  ),
};

describe('marking a question anew', () => {
  const open = (commands: Partial<Parameters<typeof RemarkingPage>[0]['commands']> = {}, page = outcomes) =>
    render(
      <RemarkingPage
        questionId="q"
        base="/c/1"
        back={back}
        edit="/edit"
        page={page}
        only={[]}
        commands={{
          applyRemarking: async () => ({ ok: true, value: { auditId: 7, changed: 2 } }),
          undoChange: async () => ({ ok: true, value: { said: '2 marks taken back.' } }),
          publishReady: async () => ({ ok: true, value: { published: 1 } }),
          ...commands,
        }}
      />,
    );
  const byNewKey = /^Mark 2 answers anew.*Mark by the new key/;

  it('shows the four ways side by side with who gains and loses what, and needs a reason', async () => {
    const sent: unknown[] = [];
    open({
      applyRemarking: async (_, input) => {
        sent.push(input);
        return sent.length === 1
          ? refusedWith('Say why it is marked anew.', 'reason')
          : { ok: true, value: { auditId: 7, changed: 2 } };
      },
    });
    const user = userEvent.setup();
    const way = within(screen.getByRole('region', { name: 'Mark by the new key' }));
    expect(way.getByText('Ada')).toBeTruthy();
    expect(way.getByText('loses 25 %')).toBeTruthy();
    expect(way.getByText('Quiz: mean 50 % → 25 %')).toBeTruthy();
    for (const other of ['Old and new answers both earn', 'Everyone earns its points', 'Take it out of the total'])
      expect(within(screen.getByRole('region', { name: other })).getByText('Nothing changes')).toBeTruthy();
    await user.click(button(/^All that would change.*Mark by the new key/));
    expect(screen.getByText('will be flagged')).toBeTruthy();
    expect(screen.getByText(/1 mark given by hand or adjusted stays as it is/)).toBeTruthy();
    await user.clear(screen.getByLabelText('Why, told to the students'));
    await user.click(button(byNewKey));
    expect(await screen.findByText('Say why it is marked anew.')).toBeTruthy();
    await user.type(screen.getByLabelText('Why, told to the students'), 'Misprint');
    await user.click(button(byNewKey));
    expect(sent[1]).toEqual({ policy: 'new-key', sittingIds: [], reason: 'Misprint', key: 'k' });
  });

  it('publishes what it has changed by one more press, or is taken back', async () => {
    const sent: unknown[] = [];
    const taken: number[] = [];
    open({
      publishReady: async (sittingId, input) => {
        sent.push([sittingId, input]);
        return { ok: true, value: { published: 1 } };
      },
      undoChange: async (id) => {
        taken.push(id);
        return { ok: true, value: { said: '2 marks taken back.' } };
      },
    });
    const user = userEvent.setup();
    await user.click(button(byNewKey));
    const publish = await screen.findByRole('button', { name: 'Publish 1 changed result of Quiz' });
    // While marking anew is under way it waits.
    await vi.waitFor(async () => {
      if (sent.length === 0) await user.click(publish);
      expect(sent).toHaveLength(1);
    });
    expect(
      await screen.findByText(/1 result of Quiz published again; each student is told what has changed/),
    ).toBeTruthy();
    expect(sent).toEqual([['s', { expected: 1, userIds: ['u'] }]]);
    expect(screen.queryByRole('button', { name: /^Publish/ })).toBeNull();
    await user.click(button('Undo'));
    expect(taken).toEqual([7]);
  });

  it('asks anew for fewer sittings, and says where the key was not mended', async () => {
    open({}, { ...outcomes, onPapers: [2] });
    const user = userEvent.setup();
    await user.click(screen.getByRole('checkbox', { name: 'Again' }));
    expect(went).toEqual(['?sittings=s']);
    expect(screen.getByText(/The key has not been mended since/)).toBeTruthy();
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
          previewAccept: async () => ({ ok: true, value: preview }),
          acceptAnswer: async (_, input) => {
            accepted.push(input);
            return { ok: true, value: { auditId: 7, changed: 2 } };
          },
          undoChange: async () => ({ ok: true, value: { said: '2 marks taken back.' } }),
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
        onSheet: 'answer',
        history: [
          { id: 4, at: 0, by: null, kind: 'automatic', points: 0, comment: '', reason: '', fallen: null },
          { id: 5, at: 60_000, by: 'Bo', kind: 'adjusted', points: 1, comment: '', reason: 'Appeal', fallen: null },
        ],
      },
    ],
    sheets: [{ pageId: 'page-1', page: 1 }],
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
          adjustMark: async (slotId, input) => {
            sent.push([slotId, input]);
            return { ok: true, value: { points: 2, markId: 9 } };
          },
          adjustPaper: async (id, input) => {
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
    const row = screen.getByRole('img', { name: 'The row of question 1 as it was filled in' });
    expect(row.getAttribute('src')).toBe('/sheet-pictures/pieces/s');
    await user.click(button('Adjust question 1'));
    await user.clear(screen.getByLabelText('Points, 0 to 2'));
    await user.type(screen.getByLabelText('Points, 0 to 2'), '2');
    await user.type(screen.getByLabelText('Reason, told to the student'), 'Seen again');
    await user.click(button('Adjust the mark'));
    expect(sent).toEqual([['s', { points: 2, reason: 'Seen again', revision: 1, before: 5 }]]);
    expect(await screen.findByText('Question 1 is adjusted.')).toBeTruthy();
    await user.click(button('Adjust the whole paper'));
    await user.click(button('Adjust the paper'));
    expect(sent[1]).toEqual(['a', { points: -1, reason: '', before: 7 }]);
    expect(await screen.findByText('Give a reason: it stays with the mark.')).toBeTruthy();
  });
});
