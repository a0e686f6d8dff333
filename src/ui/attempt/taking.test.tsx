// @vitest-environment jsdom
import '../testing/dom';
import { render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { richFromText } from '@/core/base/rich';
import type { ShownQuestion } from '@/core/question/student';
import type { PendingAnswer } from './answerKeeper';
import type { Opening, TakingSlot } from './opening';
import { TakingPage } from './TakingPage';
import type { HandedIn, TakingPort } from './takingPort';

const view = (n: number): TakingSlot['view'] => ({
  type: 'single-choice',
  stem: richFromText(`Stem ${n}`),
  choices: ['first', 'second'].map((text) => ({ key: `${n}-${text}`, content: richFromText(`${text} of ${n}`) })),
});
const slot = (n: number, more: Partial<TakingSlot> = {}): TakingSlot => ({
  slotId: `slot-${n}`,
  number: n,
  partId: 'part-a',
  partTitle: 'Part A',
  points: 2,
  view: view(n),
  passage: null,
  page: n - 1,
  required: false,
  limit: null,
  until: null,
  checked: null,
  ...more,
});

/** A taking page over a port that answers as told and keeps what it was sent. */
function open(
  slots: TakingSlot[],
  more: Partial<Opening> = {},
  handed: () => HandedIn = () => ({ ok: true }),
  cable: { isCut: boolean } = { isCut: false },
) {
  const sent: PendingAnswer[] = [];
  const hands: { slotId: string; value: unknown }[][] = [];
  const done = vi.fn();
  const opening: Opening = {
    title: 'An exam',
    instructions: { type: 'doc', content: [] },
    slots,
    passages: {},
    choose: {},
    sheet: null,
    anonymous: false,
    onwardOnly: false,
    reached: 0,
    epoch: 1,
    answers: [],
    standing: { kind: 'running', deadline: null, handInUntil: null, reopened: false },
    asides: [],
    timeZone: 'UTC',
    place: 1,
    notices: [],
    now: Date.now(),
    ...more,
  };
  const port: TakingPort = {
    key: 'attempt-1',
    keeps: true,
    open: async () => ({ status: 200, opening }),
    save: async (answer) => {
      if (cable.isCut) return { outcome: 'lost' };
      sent.push(answer);
      return { outcome: 'saved' };
    },
    pulse: null,
    show: async (slotId) => ({ view: view(Number(slotId.slice(-1))) as ShownQuestion, until: Date.now() + 60_000 }),
    watch: null,
    onward: async () => ({ ok: true }),
    check: async () => ({ ok: false, message: null }),
    again: async () => ({ ok: false, message: null }),
    report: null,
    handIn: async ({ answers }) => {
      hands.push(answers);
      return handed();
    },
    files: (_, link) => ({ send: async () => ({ ok: false, message: '' }), link }),
  };
  render(<TakingPage port={port} title="Theory" onEnded={done} />);
  return { sent, hands, done, user: userEvent.setup() };
}
const question = async (n: number) =>
  (await screen.findByRole('heading', { name: new RegExp(`^Question ${n} of`) })).closest('article') as HTMLElement;
const pick = async (user: ReturnType<typeof userEvent.setup>, n: number, text: string) =>
  user.click(within(await question(n)).getByRole('radio', { name: new RegExp(`${text} of ${n}`) }));

beforeEach(() => localStorage.clear());

describe('the taking page', () => {
  it('shows a page of the paper at a time and brings focus to the question that was asked for', async () => {
    const { user } = open([slot(1), slot(2, { page: 1 }), slot(3, { page: 1 }), slot(4, { page: 2 })]);
    await question(1);
    expect(screen.queryByText('Stem 2')).toBeNull();
    await user.click(screen.getByRole('button', { name: 'Next' }));
    await question(2);
    await question(3);
    await user.click(screen.getByRole('button', { name: /^Question 3: empty/ }));
    expect(document.activeElement?.textContent).toContain('Question 3 of 4');
  });

  it('begins at its first question, under the name of the exam, and says what is saved', async () => {
    open([slot(1), slot(2)]);
    await question(1);
    await vi.waitFor(() => expect(document.activeElement?.textContent).toContain('Question 1 of 2'));
    expect(document.title).toBe('Theory · Wuzzen');
    expect(screen.getByText('Answers are saved as you give them')).toBeTruthy();
  });

  it('that was begun before says that all of it is saved', async () => {
    open([slot(1)], { answers: [{ slotId: 'slot-1', value: { picked: '1-first' }, comeBack: false }] });
    await question(1);
    expect(await screen.findByText('Every answer is saved')).toBeTruthy();
  });

  it('that could not go on without the network says so, until it is there again', async () => {
    const cable = { isCut: true };
    const { user } = open([slot(1), slot(2)], { onwardOnly: true }, undefined, cable);
    await pick(user, 1, 'first');
    await user.click(screen.getByRole('button', { name: 'Go on: no way back' }));
    await screen.findByText(/^The server could not be reached: you are still here/);
    cable.isCut = false;
    window.dispatchEvent(new Event('online'));
    await screen.findByText(/^Saved /);
    await vi.waitFor(() => expect(screen.queryByText(/could not be reached/)).toBeNull());
    await user.click(screen.getByRole('button', { name: 'Go on: no way back' }));
    await question(2);
  });

  it('shows nothing of a question that was left for good, not even while it opens', async () => {
    const seen = new Set<string>();
    const watch = new MutationObserver(() => {
      for (const one of document.querySelectorAll('h2')) seen.add(one.textContent ?? '');
    });
    watch.observe(document.body, { childList: true, subtree: true });
    open([slot(1), slot(2)], { onwardOnly: true, reached: 1 });
    await question(2);
    watch.disconnect();
    expect([...seen].filter((heading) => heading.startsWith('Question 1'))).toEqual([]);
  });

  it('is finished by keyboard alone: to the question, to an answer, on, and to the hand-in', async () => {
    const { user, sent, hands } = open([slot(1), slot(2)]);
    await question(1);
    const tabTo = async (name: RegExp) => {
      for (let i = 0; i < 25; i++) {
        await user.tab();
        const at = document.activeElement as HTMLElement;
        if (name.test(at.getAttribute('aria-label') ?? at.textContent ?? '')) return;
      }
      throw new Error(`${name} is not reached by Tab`);
    };
    const tabToChoice = async () => {
      for (let i = 0; i < 25 && (document.activeElement as HTMLInputElement).type !== 'radio'; i++) await user.tab();
    };
    await tabToChoice();
    await user.keyboard(' ');
    await tabTo(/^Next$/);
    await user.keyboard('{Enter}');
    expect(document.activeElement?.textContent).toContain('Question 2 of 2');
    await tabToChoice();
    await user.keyboard(' ');
    await tabTo(/^To the hand-in$/);
    await user.keyboard('{Enter}');
    expect(document.activeElement?.textContent).toBe('Before you hand in');
    await tabTo(/^Hand in$/);
    await user.keyboard('{Enter}');
    await vi.waitFor(() => expect(hands).toHaveLength(1));
    expect(sent.map((answer) => answer.value)).toEqual([{ picked: '1-first' }, { picked: '2-first' }]);
  });

  it('lets no more be answered than a choose-part takes, until one is cleared', async () => {
    const slots = [1, 2, 3].map((n) => slot(n, { page: 0 }));
    const { user, sent } = open(slots, { choose: { 'part-a': { count: 2, extra: 'refused' } } });
    expect(await screen.findByText('Answer any 2 of these 3 questions: 0 answered so far.')).toBeTruthy();
    await pick(user, 1, 'first');
    await pick(user, 2, 'first');
    const third = await question(3);
    expect(within(third).getByText(/You have answered 2 of 2 in this part/)).toBeTruthy();
    await user.click(within(third).getByRole('radio', { name: /first of 3/ }));
    expect(sent.some((answer) => answer.slotId === 'slot-3')).toBe(false);
    await user.click(within(await question(1)).getByRole('button', { name: 'Clear my choice' }));
    await pick(user, 3, 'second');
    await vi.waitFor(() => expect(sent.at(-1)).toMatchObject({ slotId: 'slot-3', value: { picked: '3-second' } }));
  });

  it('allows more where the best count, and does not call what was not chosen empty', async () => {
    const slots = [1, 2, 3].map((n) => slot(n, { page: 0 }));
    const { user } = open(slots, { choose: { 'part-a': { count: 1, extra: 'best' } } });
    for (const n of [1, 2]) await pick(user, n, 'first');
    await user.click(screen.getByRole('button', { name: 'To the hand-in' }));
    expect(screen.getByText('Part A: 2 answered, 1 asked for.')).toBeTruthy();
    expect(screen.queryByText('Still empty')).toBeNull();
  });

  it('says what has to be answered, and goes on when the server holds the hand-in back', async () => {
    let refuse = true;
    const { user, done, sent } = open([slot(1, { required: true })], {}, () =>
      refuse ? { ok: false, message: 'Question 1 has to be answered before you hand in.' } : { ok: true },
    );
    expect((await question(1)).textContent).toContain('has to be answered');
    await user.click(screen.getByRole('button', { name: 'To the hand-in' }));
    await user.click(screen.getByRole('button', { name: 'Hand in' }));
    expect((await screen.findByRole('alert')).textContent).toContain('has to be answered before you hand in');
    expect(done).not.toHaveBeenCalled();
    refuse = false;
    await user.click(screen.getByRole('button', { name: 'Back to the questions' }));
    await pick(user, 1, 'first');
    await vi.waitFor(() => expect(sent).toHaveLength(1));
    await user.click(screen.getByRole('button', { name: 'To the hand-in' }));
    await user.click(screen.getByRole('button', { name: 'Hand in' }));
    await vi.waitFor(() => expect(done).toHaveBeenCalledTimes(1));
  });

  it('opens a question with a time of its own only when asked, and closes it when that is over', async () => {
    const { user } = open([slot(1, { view: null, limit: 60_000 }), slot(2, { until: Date.now() - 1, limit: 60_000 })]);
    const first = await question(1);
    expect(within(first).queryByRole('radio')).toBeNull();
    await user.click(within(first).getByRole('button', { name: 'Open the question: 1 min' }));
    expect(await within(first).findAllByRole('radio')).toHaveLength(2);
    // The clock of a question runs from its first second on.
    await vi.waitFor(() => expect(first.textContent).toContain('left for this question'), { timeout: 10_000 });
    await user.click(screen.getByRole('button', { name: 'Next' }));
    const second = await question(2);
    expect(
      await within(second).findByText('The time for this question is over. What you entered counts.'),
    ).toBeTruthy();
    expect(
      within(second)
        .getAllByRole('radio')
        .every((one) => one.matches(':disabled')),
    ).toBe(true);
  });

  it('keeps anonymous answers on the page and brings all of them with the hand-in', async () => {
    const { user, sent, hands, done } = open([slot(1, { page: 0 }), slot(2, { page: 0 })], { anonymous: true });
    await question(1);
    expect(screen.getByRole('status').textContent).toBe('Kept in this browser only, until you hand in');
    await pick(user, 1, 'second');
    await pick(user, 2, 'first');
    expect(sent).toEqual([]);
    expect(Object.keys(localStorage).sort()).toEqual(['wuzzen-answers/attempt-1/1', 'wuzzen-place/attempt-1']);
    await user.click(screen.getByRole('button', { name: 'To the hand-in' }));
    expect(screen.getByText(/Your answers leave this browser only now, without your name/)).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Hand in' }));
    await vi.waitFor(() => expect(done).toHaveBeenCalled());
    expect(hands).toEqual([
      [
        { slotId: 'slot-1', value: { picked: '1-second' } },
        { slotId: 'slot-2', value: { picked: '2-first' } },
      ],
    ]);
    expect(Object.keys(localStorage)).toEqual([]);
  });
});

describe('a page that cannot be opened here', () => {
  const shut = (status: number, said?: string) => {
    const port = {
      key: 'attempt-1',
      keeps: true,
      open: async () => ({ status, opening: {} as Opening, said: said ?? null }),
      pulse: null,
      watch: null,
      report: null,
    } as unknown as TakingPort;
    render(<TakingPage port={port} title="Theory" onEnded={() => undefined} />);
  };

  it('says why, and never ends in nothing', async () => {
    shut(403, 'This exam can be taken only from its own network.');
    expect((await screen.findByRole('alert')).textContent).toContain(
      'This exam can be taken only from its own network. What you have answered is kept.',
    );
    expect(screen.getByRole('button', { name: 'Try again' })).toBeTruthy();
    expect(screen.queryByText(/Fetching your paper/)).toBeNull();
  });

  it('leads whoever is signed out, or is another, to the sign-in', async () => {
    shut(404);
    expect((await screen.findByRole('alert')).textContent).toContain('Sign in again; your answers are kept');
  });
});

describe('the answer sheet of an off-screen exam', () => {
  const stem = (label: string) => ({
    type: 'doc' as const,
    content: [{ type: 'paragraph' as const, content: [{ type: 'text' as const, text: `Item ${label}` }] }],
  });
  const item = (n: number, shown: Record<string, unknown>, page = 0) =>
    slot(n, { page, view: { stem: stem(String(n)), ...shown } as ShownQuestion });
  const choices = ['A', 'B', 'C'].map((text) => ({
    key: `k${text}`,
    content: {
      type: 'doc' as const,
      content: [{ type: 'paragraph' as const, content: [{ type: 'text' as const, text }] }],
    },
  }));

  it('has a row for each item, and what is picked is sent, changed and cleared', async () => {
    const { user, sent } = open(
      [
        item(1, { type: 'single-choice', choices, labels: 'none' }),
        item(2, { type: 'multiple-choice', choices, labels: 'none' }),
        item(3, { type: 'true-false' }),
        item(4, { type: 'written', onPaper: true, words: { least: null, most: null }, format: 'plain', files: null }),
      ],
      { sheet: { document: null } },
    );
    const group = async (name: string) => within(await screen.findByRole('group', { name }));
    await user.click((await group('Item 1: choose one')).getByRole('radio', { name: 'B' }));
    await user.click((await group('Item 2: choose all that are right')).getByRole('checkbox', { name: 'A' }));
    await user.click((await group('Item 2: choose all that are right')).getByRole('checkbox', { name: 'C' }));
    await user.click((await group('Item 3: true or false')).getByRole('radio', { name: 'False' }));
    expect(screen.getByText('Write your answer on the paper.')).toBeTruthy();
    await vi.waitFor(() => expect(sent).toHaveLength(4));
    expect(sent.map((one) => one.value)).toEqual([
      { picked: 'kB' },
      { picked: ['kA'] },
      { picked: ['kA', 'kC'] },
      { picked: false },
    ]);
    await user.click((await group('Item 1: choose one')).getByRole('button', { name: /^Clear/ }));
    await vi.waitFor(() => expect(sent.at(-1)).toMatchObject({ slotId: 'slot-1', value: null }));
  });

  it('of a long paper leads from page to page, and names only the first of many empty items before the hand-in', async () => {
    const slots = Array.from({ length: 130 }, (_, i) => item(i + 1, { type: 'true-false' }, Math.floor(i / 50)));
    const { user } = open(slots, { sheet: { document: null } });
    const pages = await screen.findByRole('combobox', { name: /^Page/ });
    expect(
      within(pages)
        .getAllByRole('option')
        .map((one) => one.textContent),
    ).toEqual(['1 to 50: 0 of 50 answered', '51 to 100: 0 of 50 answered', '101 to 130: 0 of 30 answered']);
    await user.selectOptions(pages, '2');
    expect(screen.getAllByRole('listitem').some((row) => row.textContent?.includes('Item 130'))).toBe(true);
    expect(screen.queryByText('Item 50')).toBeNull();
    await user.click(screen.getByRole('button', { name: 'To the hand-in' }));
    expect(screen.getAllByRole('button', { name: /^Go to question/ })).toHaveLength(60);
    expect(screen.getByText('and 70 more')).toBeTruthy();
  });
});
