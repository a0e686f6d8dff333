// @vitest-environment jsdom
import '../testing/dom';
import { render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it, vi } from 'vitest';
import { richFromText } from '@/core/base/rich';
import { day, hour, minute } from '@/core/base/time';
import type { BeforeStart as Asked, MyExam } from '@/server/desk/myExams';
import { BeforeStart } from './BeforeStart';
import { CheckQuestion } from './CheckQuestion';
import { MyExams } from './MyExams';
import { Notices } from './Notices';
import type { TakingSlot } from './opening';
import { ReportQuestion } from './ReportQuestion';

const pushed: string[] = [];
vi.mock('next/navigation', () => ({
  useRouter: () => ({ refresh: () => undefined, push: (to: string) => pushed.push(to) }),
}));

const now = Date.UTC(2026, 2, 2, 9);
const exam = (title: string, more: Partial<MyExam> = {}): MyExam => ({
  sittingId: title,
  title,
  courseName: 'Seamanship',
  timeZone: 'UTC',
  group: 'now',
  times: {
    opens: now - hour,
    lastStart: null,
    due: null,
    closes: now + day,
    limit: 40 * minute,
    extraTime: false,
    fullTime: false,
    grace: null,
  },
  clock: { kind: 'may-start' },
  now,
  questionTimes: '',
  points: 10,
  questions: 5,
  attemptsUsed: 0,
  attemptsAllowed: 1,
  countsSentence: 'the best attempt counts',
  further: [],
  afterwards: 'You see your score once your instructor publishes it.',
  needsCode: false,
  runningAttemptId: null,
  attempt: null,
  refusal: null,
  startsAt: null,
  resultPublished: false,
  door: null,
  ...more,
});
const running = { kind: 'running', deadline: now + 30 * minute, handInUntil: now + 30 * minute } as const;
const row = (title: string) => screen.getByRole('heading', { name: title }).closest('li') as HTMLElement;

describe('my exams', () => {
  it('say of each what is expected, what one sees afterwards, and why it cannot be started', () => {
    render(
      <MyExams
        news={[]}
        line={null}
        exams={[
          exam('Quiz', { runningAttemptId: 'a', clock: running }),
          exam('Again', {
            runningAttemptId: 'c',
            clock: running,
            attempt: { id: 'c', standing: { ...running, reopened: true }, aside: '' },
          }),
          exam('Check', {
            group: 'coming',
            clock: { kind: 'not-yet', at: now + 200 * minute },
            attemptsAllowed: 3,
            attemptsUsed: 1,
            refusal: 'Next attempt in 3 h 20 min (today 13:20).',
            startsAt: now + 200 * minute,
          }),
          exam('Essay', { times: { ...exam('').times, due: now + hour } }),
          exam('Old', {
            group: 'done',
            clock: { kind: 'over' },
            attempt: {
              id: 'b',
              standing: { kind: 'not-handed-in', at: now },
              aside: '2 answers of yours are kept aside: your instructor decides about them.',
            },
          }),
        ]}
      />,
    );
    expect(row('Quiz').textContent).toContain('You have until 09:30: 30 min left.');
    expect(row('Again').textContent).toContain('Opened again');
    expect(within(row('Quiz')).getByRole('link', { name: 'Go on with Quiz' })).toBeTruthy();
    expect(row('Check').textContent).toContain('Next attempt in 3 h 20 min');
    expect(row('Check').textContent).toContain('2 of 3 attempts left');
    expect(row('Check').textContent).not.toContain('Opens');
    expect(row('Essay').textContent).toContain('5 questions, 10 points · one attempt');
    expect(row('Essay').textContent).toContain(
      'Late after 10:00; ends Tue 3 Mar 2026, 09:00. If you start now you have 40 min, until 09:40.',
    );
    expect(row('Essay').textContent).toContain('You see your score once your instructor publishes it.');
    expect(row('Old').textContent).toContain('Not handed in in time');
    expect(row('Old').textContent).toContain('2 answers of yours are kept aside');
  });

  it('of one day stand together, with what of it is done', () => {
    const tomorrow = {
      times: { ...exam('').times, opens: now + day },
      startsAt: now + day,
      group: 'coming' as const,
      refusal: 'It opens tomorrow 09:00.',
    };
    render(
      <MyExams
        exams={[exam('A', tomorrow), exam('B', tomorrow), exam('C', { group: 'done', times: tomorrow.times })]}
        news={[]}
        line={null}
      />,
    );
    const headings = screen.getAllByRole('heading', { level: 3 }).map((one) => one.textContent);
    expect(headings).toContain('Tuesday 3 March: 3 exams, done already: C');
  });

  it('with nothing still offer the try-out', () => {
    render(<MyExams exams={[]} news={[]} line={null} />);
    expect(screen.getByText('No exams yet')).toBeTruthy();
    expect(screen.getByRole('link', { name: 'Try a question of each type' }).getAttribute('href')).toBe('/try-out');
  });
});

const before = (more: Partial<Asked> = {}): Asked => ({
  ...exam('Quiz'),
  instructions: { type: 'doc', content: [] },
  schoolInstructions: {
    type: 'doc',
    content: [{ type: 'paragraph', content: [{ type: 'text', text: 'Cards on the table.' }] }],
  },
  purpose: { scored: true, counts: 'score', anonymous: false },
  ...more,
});

describe('before the start', () => {
  it('stand the school’s words, the rules, and the code that has to be typed', async () => {
    const user = userEvent.setup();
    const asked: unknown[] = [];
    vi.stubGlobal('fetch', async (_: string, request: { body: string }) => {
      const body = JSON.parse(request.body) as { code: string };
      asked.push(body);
      return body.code === 'gull'
        ? new Response(JSON.stringify({ attemptId: 'a1' }), { status: 200 })
        : new Response(JSON.stringify({ problems: [{ field: 'code', message: 'This is not the entry code.' }] }), {
            status: 403,
          });
    });
    render(<BeforeStart exam={before({ needsCode: true, further: ['The way is onward only.'] })} />);
    expect(screen.getByText('Cards on the table.')).toBeTruthy();
    expect(screen.getByText('The way is onward only.')).toBeTruthy();
    await user.type(screen.getByLabelText('Entry code'), 'tern');
    await user.click(screen.getByRole('button', { name: 'Start now: 40 min' }));
    expect(await screen.findByText('This is not the entry code.')).toBeTruthy();
    expect((screen.getByLabelText('Entry code') as HTMLInputElement).value).toBe('tern');
    await user.clear(screen.getByLabelText('Entry code'));
    await user.type(screen.getByLabelText('Entry code'), 'gull');
    await user.click(screen.getByRole('button', { name: 'Start now: 40 min' }));
    await vi.waitFor(() => expect(pushed).toEqual(['/take/a1']));
    expect(asked).toEqual([
      { sittingId: 'Quiz', code: 'tern' },
      { sittingId: 'Quiz', code: 'gull' },
    ]);
    vi.unstubAllGlobals();
  });
});

describe('on the taking page', () => {
  const said = {
    type: 'doc' as const,
    content: [{ type: 'paragraph' as const, content: [{ type: 'text' as const, text: 'Think of ropes.' }] }],
  };

  it('a question is checked only once it is answered; what went wrong stays to be read', async () => {
    const user = userEvent.setup();
    let checked = 0;
    const checkedState = {
      used: 1,
      most: 3,
      closed: false,
      outcome: 'wrong' as const,
      said,
      feedback: [],
      again: false,
      mayAgain: false,
    };
    const props = {
      number: 2,
      disabled: false,
      onCheck: async () => {
        checked += 1;
        return 'The server could not be reached. Try again.';
      },
      onAgain: async () => null,
    };
    const { rerender } = render(<CheckQuestion {...props} checked={checkedState} answered={false} />);
    await user.click(screen.getByRole('button', { name: 'Check question 2 (try 2 of 3)' }));
    expect(checked).toBe(0);
    rerender(<CheckQuestion {...props} checked={checkedState} answered />);
    expect(screen.getByText('Not right.')).toBeTruthy();
    expect(screen.getByText(/2 tries are left/)).toBeTruthy();
    expect(screen.getByText('Think of ropes.')).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Check question 2 (try 2 of 3)' }));
    expect(await screen.findByText('The server could not be reached. Try again.')).toBeTruthy();
    // The button that was pressed goes, however much later that is drawn: the focus goes to what was said.
    expect(document.activeElement?.tagName).toBe('BUTTON');
    await new Promise((resolve) => requestAnimationFrame(() => requestAnimationFrame(resolve)));
    rerender(
      <CheckQuestion
        {...props}
        checked={{
          ...checkedState,
          used: 3,
          closed: true,
          mayAgain: true,
          said: null,
          feedback: [{ about: 'Reef knot', said: richFromText('It slips under load.') }],
        }}
        answered
      />,
    );
    expect(document.activeElement?.tagName).toBe('P');
    expect(document.activeElement?.textContent).toContain('Not right.');
    expect(screen.getByText('“Reef knot”')).toBeTruthy();
    expect(screen.getByText('It slips under load.')).toBeTruthy();
    expect(screen.queryByRole('button', { name: /Check question/ })).toBeNull();
    expect(screen.getByRole('button', { name: 'Take question 2 again' })).toBeTruthy();
  });

  it('a message stands until it is read; a correction names its question and leads there', async () => {
    const user = userEvent.setup();
    const went = vi.fn();
    const slots = [{ slotId: 's1', number: 4, page: 3 }] as TakingSlot[];
    render(
      <Notices
        notices={[
          { id: 'm1', at: now, text: 'Ten minutes more.', slotId: null },
          { id: 'c1', at: now, text: 'Read B as port.', slotId: 's1' },
        ]}
        slots={slots}
        zone="Europe/Oslo"
        from={0}
        onGo={went}
      />,
    );
    expect(screen.getByText(/Question 4 corrected, \d\d:\d\d:/)).toBeTruthy();
    await user.click(screen.getAllByRole('button', { name: 'I have read it' })[0] as HTMLElement);
    expect(screen.queryByText(/Ten minutes more/)).toBeNull();
    await user.click(screen.getByRole('button', { name: 'Go to question 4' }));
    expect(went).toHaveBeenCalledWith(4);
    expect(screen.queryByText(/Read B as port/)).toBeNull();
  });

  it('a report outlives a walk to another question and a reload, and is gone once sent or not wanted', async () => {
    const user = userEvent.setup();
    const show = (slotId: string) => (
      <ReportQuestion key={slotId} slotId={slotId} number={4} onReport={async () => null} />
    );
    const page = render(show('s4'));
    const begin = async (words: string) => {
      await user.click(screen.getByRole('button', { name: /Something is wrong with this question/ }));
      await user.type(screen.getByLabelText('What is wrong with question 4?'), words);
    };
    const field = () => screen.queryByLabelText('What is wrong with question 4?') as HTMLTextAreaElement | null;
    await begin('No unit');
    page.rerender(show('s5'));
    expect(field()).toBeNull();
    page.rerender(show('s4'));
    expect(field()?.value).toBe('No unit');
    expect(document.activeElement).toBe(document.body);
    await user.click(screen.getByRole('button', { name: 'Never mind' }));
    expect(document.activeElement?.textContent).toContain('Something is wrong');
    page.rerender(show('s5'));
    page.rerender(show('s4'));
    expect(field()).toBeNull();
    await begin('No unit at all');
    await user.click(screen.getByRole('button', { name: 'Tell my instructor' }));
    expect(await screen.findByText(/Your instructor has it/)).toBeTruthy();
    expect(sessionStorage.length).toBe(0);
  });

  it('a report that is refused keeps its words', async () => {
    const user = userEvent.setup();
    const sent: string[] = [];
    render(
      <ReportQuestion
        slotId="s4"
        number={4}
        onReport={async (text) => {
          sent.push(text);
          return sent.length === 1 ? 'The server could not be reached. Try again.' : null;
        }}
      />,
    );
    await user.click(screen.getByRole('button', { name: /Something is wrong with this question/ }));
    await user.type(screen.getByLabelText('What is wrong with question 4?'), 'A typo');
    await user.click(screen.getByRole('button', { name: 'Tell my instructor' }));
    expect(await screen.findByText('The server could not be reached. Try again.')).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Tell my instructor' }));
    expect(await screen.findByText(/Your instructor has it/)).toBeTruthy();
    expect(sent).toEqual(['A typo', 'A typo']);
  });
});
