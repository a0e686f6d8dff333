// @vitest-environment jsdom
import '../testing/dom';
import { render, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { notFound, ok } from '@/core/base/result';
import type { UnsavedSheet } from '@/server/bank/drafts';
import { browserStore } from '../kit/browserStore';
import { Journal } from './journal';
import { KeepingFor } from './KeepingFor';
import { Unfinished } from './Unfinished';

vi.mock('next/navigation', () => ({ useRouter: () => ({ refresh: () => undefined }) }));

const journalKey = btoa('a'.repeat(32));
const at = Date.UTC(2026, 2, 2, 9);
const journal = (now: number) =>
  new Journal(browserStore(), { userId: 'a', key: new Uint8Array(32).fill(97) }, () => now);
const jot = (object: string, title: string, href: string, now: number) =>
  journal(now).write(object, { title, href, base: { edit: 0, value: null }, value: { text: 'x' }, unanswered: null });

beforeEach(() => localStorage.clear());

function desk(sheets: UnsavedSheet[], giveUpDraft = vi.fn(async () => ok(null))) {
  render(
    <KeepingFor userId="a" journalKey={journalKey}>
      <Unfinished zone="UTC" base="/c/1" sheets={sheets} giveUpDraft={giveUpDraft as never} />
    </KeepingFor>,
  );
  return giveUpDraft;
}
const rows = () =>
  screen.getAllByRole('listitem').map((row) => [within(row).getByRole('link').getAttribute('href'), row]);
const sheet = (subject: string, savedAt: number): UnsavedSheet => ({
  bankId: 'b',
  subject,
  savedAt,
  title: 'The question N',
});

describe('what is unfinished', () => {
  it('stands once, whether typed in this browser or kept from another, the latest first', async () => {
    const today = Date.now();
    jot('question/b/q1', 'The question Here', '/c/1/banks/b?question=q1', today);
    desk([sheet('q1', today - 5), sheet('new/numeric', today + 5), sheet('q2', at)]);
    expect(await screen.findByRole('heading', { name: '3 things unfinished' })).toBeTruthy();
    expect(rows().map(([href]) => href)).toEqual([
      '/c/1/banks/b?begin=numeric',
      '/c/1/banks/b?question=q1',
      '/c/1/banks/b?question=q2',
    ]);
    expect(
      rows().map(([, row]) => /in (this|another) browser/.exec((row as HTMLElement).textContent ?? '')?.[1]),
    ).toEqual(['another', 'this', 'another']);
  });

  it('given up is given up on the server too, and stays where that did not go', async () => {
    const today = Date.now();
    jot('question/b/q1', 'The question Here', '/c/7/banks/b?question=q1', today);
    jot('bring-in/x', 'Questions to bring in', '/c/1/banks/b/bring-in', today - 1_000);
    const answers = [notFound('bank'), ok(null)];
    const giveUp = desk(
      [],
      vi.fn(async () => answers.shift() as never),
    );
    const user = userEvent.setup();
    const giveUpFirst = async () => {
      // All that is unfinished stands there before the first of it is taken.
      await waitFor(() =>
        expect(screen.getAllByRole('button', { name: 'Give it up' })).toHaveLength(localStorage.length),
      );
      await user.click((await screen.findAllByRole('button', { name: 'Give it up' }))[0] as HTMLElement);
      await user.click(within(screen.getByRole('dialog')).getByRole('button', { name: 'Give it up' }));
    };
    await giveUpFirst();
    expect(await screen.findByText(/There is no such bank/)).toBeTruthy();
    expect(localStorage.length).toBe(2);
    await user.click(within(screen.getByRole('dialog')).getByRole('button', { name: 'Give it up' }));
    await waitFor(() => expect(localStorage.length).toBe(1));
    expect(giveUp.mock.calls).toEqual([
      ['7', 'b', 'q1'],
      ['7', 'b', 'q1'],
    ]);
    await giveUpFirst();
    await waitFor(() => expect(localStorage.length).toBe(0));
    expect(giveUp).toHaveBeenCalledTimes(2);
  });
});
