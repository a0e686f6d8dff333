// @vitest-environment jsdom
import '../testing/dom';
import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it, vi } from 'vitest';
import { blankBrought } from '@/core/bank/bringIn/brought';
import { richFromText } from '@/core/base/rich';
import type { Preview } from '@/server/bringIn/bringIn';
import { BringInPage } from './BringInPage';

vi.mock('next/navigation', () => ({ useRouter: () => ({ refresh: () => undefined }) }));

const text = '1. New\nAnswer: a\n2. Known\nAnswer: b\n3. Broken\na) x\nb) y';
const content = (stem: string) => ({
  type: 'short-text' as const,
  stem: richFromText(stem),
  feedback: {},
  accepted: [{ text: 'a', credit: 1 }],
  matching: { ignore: { case: true, accents: true, spacing: true }, slips: 0, wildcards: false },
});
const preview: Preview = {
  items: [
    { ...blankBrought(1), title: 'New', content: content('New'), state: 'new', type: 'short text' },
    { ...blankBrought(3), title: 'Known', content: content('Known'), state: 'there', type: 'short text' },
    {
      ...blankBrought(5),
      title: 'Broken',
      state: 'unreadable',
      type: '',
      problems: [{ severity: 'error', message: 'No choice is marked as right.' }],
    },
  ],
  columns: null,
  counts: { new: 1, there: 1, unreadable: 1 },
};

describe('questions brought in from a text', () => {
  it('leave behind what could not be read, to be mended, and nothing that is in the bank', async () => {
    const taken: unknown[] = [];
    render(
      <BringInPage
        base="/bank"
        categories={[{ id: 'c', name: 'General', parentId: null, depth: 0, own: 0, below: 0 }]}
        otherBanks={[]}
        commands={{
          previewText: async () => ({ ok: true, value: preview }),
          bringIn: async (input) => {
            taken.push((input as unknown as { items: { title: string }[] }).items.map((item) => item.title));
            return { ok: true, value: { added: 1, auditId: 7 } };
          },
          undoChange: async () => ({ ok: true, value: { said: '' } }),
        }}
      />,
    );
    const user = userEvent.setup();
    const box = () => screen.getByLabelText(/^Paste numbered questions/) as HTMLTextAreaElement;
    await user.click(box());
    await user.paste(text);
    await user.click(screen.getByRole('button', { name: 'Read it' }));
    expect(await screen.findByText('No choice is marked as right.')).toBeTruthy();
    expect(screen.getByText(/stays in the text, to be mended/)).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Bring in 1' }));
    expect(await screen.findByText(/1 question brought in; what was not taken stands below/)).toBeTruthy();
    expect(taken).toEqual([['New']]);
    expect(box().value).toBe('3. Broken\na) x\nb) y');
  });
});
