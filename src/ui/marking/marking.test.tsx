// @vitest-environment jsdom
import '../testing/dom';
import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it, vi } from 'vitest';
import { richFromText } from '@/core/base/rich';
import type { AnswerToMark, MarkingPage as Page } from '@/server/marking/markAnswers';
import { MarkingPage } from './MarkingPage';

vi.mock('next/navigation', () => ({ useRouter: () => ({ refresh: () => undefined }) }));

const answer = (number: number, points: number | null = null): AnswerToMark => ({
  slotId: `slot-${number}`,
  number,
  text: `What student ${number} wrote`,
  rich: null,
  whose: null,
  files: [],
  revision: 1,
  outOf: 5,
  points,
  comment: '',
});
const page: Page = {
  sittingTitle: 'Paper',
  document: null,
  passage: null,
  stem: richFromText('Why?'),
  modelAnswer: richFromText('Because.'),
  rubric: null,
  questionName: 'Why?',
  answers: [answer(1, 3), answer(2), answer(3)],
};

function open() {
  const sent: [string, unknown][] = [];
  render(
    <MarkingPage
      base="/c/1/marking"
      page={page}
      mark={async (slotId, input) => {
        sent.push([slotId, input]);
        return { ok: true, value: { points: 0 } };
      }}
    />,
  );
  return { user: userEvent.setup(), sent };
}
const points = () => screen.getByLabelText('Points, 0 to 5') as HTMLInputElement;
const comment = () => screen.getByLabelText(/Comment for the student/) as HTMLTextAreaElement;

describe('marking by keyboard alone', () => {
  it('begins at the first answer that waits; points and Enter lead from one to the next', async () => {
    const { user, sent } = open();
    expect(screen.getByText('What student 2 wrote')).toBeTruthy();
    expect(document.activeElement).toBe(points());
    await user.keyboard('4,5{Enter}');
    expect(await screen.findByText('What student 3 wrote')).toBeTruthy();
    expect(document.activeElement).toBe(points());
    await user.keyboard('0{Enter}');
    expect(await screen.findByText(/All answers to this question are marked/)).toBeTruthy();
    expect(sent).toEqual([
      ['slot-2', { points: 4.5, comment: '', revision: 1, before: null }],
      ['slot-3', { points: 0, comment: '', revision: 1, before: null }],
    ]);
  });

  it('keeps what was typed for one answer while another is looked at', async () => {
    const { user, sent } = open();
    await user.keyboard('2');
    await user.click(comment());
    await user.keyboard('Name the tide.');
    await user.keyboard('{Alt>}{ArrowDown}{/Alt}');
    expect(screen.getByText('What student 3 wrote')).toBeTruthy();
    expect(comment().value).toBe('');
    await user.keyboard('{Alt>}{ArrowUp}{/Alt}');
    expect(points().value).toBe('2');
    expect(comment().value).toBe('Name the tide.');
    expect(screen.getByText(/typed, not saved/)).toBeTruthy();
    await user.click(comment());
    await user.keyboard('{Control>}{Enter}{/Control}');
    expect(sent).toEqual([['slot-2', { points: 2, comment: 'Name the tide.', revision: 1, before: null }]]);
  });

  it('says at the field that points are a number, and keeps them', async () => {
    const { user, sent } = open();
    await user.keyboard('two{Enter}');
    expect(screen.getByText('Type the points as a number.')).toBeTruthy();
    expect(points().value).toBe('two');
    expect(sent).toEqual([]);
  });
});
