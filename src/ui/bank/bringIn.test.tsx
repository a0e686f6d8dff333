// @vitest-environment jsdom
import '../testing/dom';
import { render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { SaidRole } from '@/core/bank/bringIn/lineForms';
import type { Preview, PreviewItem } from '@/server/bringIn/preview';
import { readings } from '@/server/outside/readings';
import { KeepingFor } from '../keep/KeepingFor';
import { BringInPage } from './BringInPage';

vi.mock('next/navigation', () => ({ useRouter: () => ({ refresh: () => undefined, push: () => undefined }) }));
beforeEach(() => localStorage.clear());

const key = btoa(String.fromCharCode(...new Uint8Array(32).fill(7)));

/** The server's part, with the real reader. */
function server() {
  const taken: string[][] = [];
  const asked: Record<string, SaidRole>[] = [];
  const joined: (number | null)[] = [];
  const undone: number[] = [];
  /** What becomes of a step, by how many went in before it. */
  const step: { after?: (steps: number) => string | undefined } = {};
  return {
    taken,
    asked,
    joined,
    undone,
    step,
    commands: {
      previewText: async (source: never) => {
        const {
          kind,
          text,
          lines: given,
          said = {},
        } = source as { kind: string; text: string; lines: never; said: Record<string, SaidRole> };
        asked.push(said);
        const read = readings.questionsInLines(kind === 'text' ? text : given, said, {});
        if (!read.ok || 'table' in read.value) throw new Error('no text');
        const { lines, roles, items, taught } = read.value;
        const state = (item: (typeof items)[number]): PreviewItem['state'] =>
          item.title.startsWith('Known')
            ? 'there'
            : !item.content
              ? 'unreadable'
              : item.problems.some((one) => one.severity === 'ask')
                ? 'ask'
                : 'new';
        const shown = items.map(
          (item): PreviewItem => ({ ...item, state: state(item), type: item.content?.type ?? '' }),
        );
        const count = (wanted: string) => shown.filter((item) => item.state === wanted).length;
        const value: Preview = {
          items: shown,
          text: { lines, roles },
          columns: null,
          encoding: null,
          taught,
          counts: {
            new: count('new'),
            ask: count('ask'),
            there: count('there'),
            unreadable: count('unreadable'),
            unreadLines: roles.filter((one) => one.role === 'unread').length,
          },
        };
        return { ok: true as const, value };
      },
      bringIn: async (input: never) => {
        const { items, joins } = input as { items: { title: string }[]; joins: number | null };
        const refused = step.after?.(taken.length);
        if (refused === 'lost') throw new Error('The answer got lost.');
        if (refused) return { ok: false as const, problems: [{ code: 'conflict' as const, message: refused }] };
        taken.push(items.map((item) => item.title));
        joined.push(joins);
        return { ok: true as const, value: { added: items.length, auditId: 7 } };
      },
      undoChange: async (auditId: never) => {
        undone.push(auditId);
        return { ok: true as const, value: { said: '' } };
      },
    },
  };
}

const open = (commands: ReturnType<typeof server>['commands']) =>
  render(
    <KeepingFor userId="u" journalKey={key}>
      <BringInPage
        base="/bank"
        categories={[{ id: 'c', name: 'General', parentId: null, depth: 0, own: 0, below: 0 }]}
        otherBanks={[]}
        letters={[]}
        commands={commands as never}
      />
    </KeepingFor>,
  );
const box = () => screen.getByLabelText(/^Paste questions/) as HTMLTextAreaElement;

async function pasteAndRead(commands: ReturnType<typeof server>['commands'], text: string) {
  const page = open(commands);
  const user = userEvent.setup();
  await user.click(box());
  await user.paste(text);
  await user.click(screen.getByRole('button', { name: 'Read it' }));
  await screen.findByLabelText('Preview');
  return { user, page };
}

describe('questions brought in from a text', () => {
  it('leave behind what could not be read, to be mended, and nothing that is in the bank', async () => {
    const { commands, taken } = server();
    const { user } = await pasteAndRead(
      commands,
      '1. New?\nAnswer: flood\n2. Known?\nAnswer: ebb\n3. Broken\na) x\nb) y',
    );
    expect(screen.getByRole('status').textContent).toContain('1 new, 1 already there, 1 that cannot be read');
    expect(screen.getByText('No choice is marked as right.')).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Bring in 1' }));
    expect(await screen.findByText(/1 question brought in; what was not taken stands below/)).toBeTruthy();
    expect(taken).toEqual([['New?']]);
    expect(box().value).toBe('3. Broken\na) x\nb) y');
  });

  const many = Array.from({ length: 600 }, (_, i) => `${i + 1}. New ${i}?\nAnswer: flood ${'x'.repeat(i % 7)}ebb`).join(
    '\n',
  );
  const press = (name: string) => userEvent.setup().click(screen.getByRole('button', { name }));

  it('go in by steps that are counted, and stop where they are told to: the rest stays', async () => {
    const { commands, taken, joined, step } = server();
    await pasteAndRead(commands, many);
    step.after = (steps) => {
      if (steps === 1) screen.getByRole('button', { name: 'Stop' }).click();
      return undefined;
    };
    await press('Bring in 600');
    expect(await screen.findByText(/Stopped: 500 of 600 questions brought in/)).toBeTruthy();
    expect(taken.map((one) => one.length)).toEqual([250, 250]);
    expect(joined).toEqual([null, 7]);
    expect(box().value.startsWith('501. New 500?')).toBe(true);
    expect(box().value.split('\n')).toHaveLength(200);
  });

  it('go on from where an answer got lost, and nothing goes in twice', async () => {
    const { commands, taken, undone, step } = server();
    await pasteAndRead(commands, many);
    let lost = 1;
    step.after = (steps) => (steps === 1 && lost-- > 0 ? 'lost' : undefined);
    await press('Bring in 600');
    await screen.findByText(/The server could not be reached/);
    await press('Bring in 600');
    expect(await screen.findByText(/600 questions brought in/)).toBeTruthy();
    expect(taken.flat()).toHaveLength(600);
    expect(new Set(taken.flat()).size).toBe(600);
    expect(undone).toEqual([]);
  });

  it('are taken back together where a later step is refused', async () => {
    const { commands, undone, step } = server();
    await pasteAndRead(commands, many);
    step.after = (steps) => (steps === 2 ? 'The category is gone.' : undefined);
    await press('Bring in 600');
    await screen.findByText('The category is gone.');
    expect(undone).toEqual([7]);
    expect(screen.getByRole('button', { name: 'Bring in 600' })).toBeTruthy();
  });

  it('are mended by saying what a line is, by a press or a key', async () => {
    const { commands, taken, asked } = server();
    const { user } = await pasteAndRead(commands, '1. Broken?\na) x\nb) y\n2. Also?\na) x\nb) z');
    await user.click(screen.getByRole('button', { name: /b\) y/ }));
    await user.click(screen.getByRole('button', { name: /is: right choice/ }));
    await screen.findByText(/1 new, 0 already there, 1 that cannot be read/);
    screen.getByRole('button', { name: /b\) z/ }).focus();
    await user.keyboard('r');
    await screen.findByText(/2 new/);
    expect(asked.at(-1)).toEqual({ 2: 'right', 5: 'right' });
    await user.click(screen.getByRole('button', { name: 'Bring in 2' }));
    expect(taken).toEqual([['Broken?', 'Also?']]);
  });

  it('are not taken before what was asked is decided', async () => {
    const { commands } = server();
    const { user } = await pasteAndRead(
      commands,
      '1. How many metres?\nAnswer: 1,852\n2. How many cables?\nAnswer: 10',
    );
    expect(screen.getByText(/can be 1852 or 1.852/)).toBeTruthy();
    expect(screen.getByRole('button', { name: 'Bring in 1' })).toBeTruthy();
    await user.click(screen.getByRole('checkbox', { name: 'Bring in How many metres?' }));
    expect(screen.getByRole('button', { name: 'Bring in 2' })).toBeTruthy();
  });

  it('are written anew in their place, with what was said of the lines around them', async () => {
    const { commands, asked } = server();
    const { user } = await pasteAndRead(commands, '1. Broken?\na) x\nb) y\n2. Also?\na) x\nb) z');
    await user.click(screen.getByRole('button', { name: /b\) z/ }));
    await user.click(screen.getByRole('button', { name: /is: right choice/ }));
    const [first] = screen.getAllByRole('button', { name: 'Change the text' });
    await user.click(first as HTMLElement);
    const field = screen.getByLabelText('The lines, to be written anew');
    await user.clear(field);
    await user.type(field, '1. Broken?{Enter}a) x{Enter}b) y{Enter}Answer: b');
    await user.click(screen.getByRole('button', { name: 'Read it again' }));
    await screen.findByText(/2 new/);
    expect(asked.at(-1)).toEqual({ 6: 'right' });
  });

  it('stand as they were left when the page is opened again, and go when they are given up', async () => {
    const { commands } = server();
    const { user, page } = await pasteAndRead(commands, 'Part A\n\n1. Broken?\na) x\nb) y');
    screen.getByRole('button', { name: /b\) y/ }).focus();
    await user.keyboard('r');
    await screen.findByText(/1 new/);
    page.unmount();
    open(commands);
    await user.click(await screen.findByRole('button', { name: 'Read it' }));
    const list = await screen.findByLabelText('Your text, and what it becomes');
    expect(within(list).getByRole('button', { name: /right choice.*b\) y/ })).toBeTruthy();
    expect(within(list).getByText(/This line was not read/)).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Back to the text' }));
    await user.click(screen.getByRole('button', { name: 'Give it up' }));
    expect(box().value).toBe('');
    expect(localStorage.length).toBe(0);
  });
});
