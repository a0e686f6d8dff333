// @vitest-environment jsdom
import '../testing/dom';
import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { ReactNode } from 'react';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { richFromText } from '@/core/base/rich';
import type { AnswerBody } from '@/server/marking/answerBodies';
import type { MarkingPage as Page } from '@/server/marking/answersToMark';
import { KeepingFor } from '../keep/KeepingFor';
import { fitting } from './CommentField';
import type { MarkingCommands } from './commands';
import { MarkingPage } from './MarkingPage';

vi.mock('next/navigation', () => ({ useRouter: () => ({ refresh: () => undefined, push: () => undefined }) }));

const body = (number: number, more: Partial<AnswerBody> = {}): AnswerBody => ({
  slotId: `slot-${number}`,
  text: `What student ${number} wrote`,
  rich: null,
  whose: null,
  onSheet: null,
  files: [],
  revision: 1,
  outOf: 5,
  markId: null,
  points: null,
  comment: '',
  rubric: {},
  notes: [],
  chosen: null,
  earlier: [],
  ...more,
});
const rubric = {
  criteria: ['Order', 'Reasons'].map((name, i) => ({
    id: name,
    name,
    weight: i + 1,
    levels: [
      { id: 'no', name: 'missing', share: 0 },
      { id: 'yes', name: 'sound', share: 1 },
    ],
  })),
};
const pageOf = (bodies: AnswerBody[], more: Partial<Page['questions'][number]> = {}): Page => ({
  sittingTitle: 'Paper',
  document: null,
  commentsShown: true,
  seesResults: true,
  questions: [
    {
      questionId: 'q',
      name: 'Why?',
      stem: richFromText('Why?'),
      passage: null,
      modelAnswer: richFromText('Because.'),
      rubric: null,
      comments: [],
      ...more,
    },
  ],
  heads: bodies.map((one, i) => ({
    slotId: one.slotId,
    questionId: 'q',
    number: i + 1,
    paper: i + 1,
    points: one.points,
  })),
  bodies,
});

/** A browser in which somebody is signed in. */
const as =
  (userId: string) =>
  ({ children }: { children: ReactNode }) => (
    <KeepingFor userId={userId} journalKey={btoa(userId.padEnd(32, '.'))}>
      {children}
    </KeepingFor>
  );

function open(
  page = pageOf([body(1, { points: 3, markId: 7 }), body(2), body(3)]),
  more: Partial<MarkingCommands> = {},
  by: 'question' | 'paper' = 'question',
) {
  const sent: [string, Record<string, unknown>][] = [];
  const commands: MarkingCommands = {
    giveMark: async (slotId, input) => {
      const { points, comment, revision, before } = input as Record<string, unknown>;
      sent.push([slotId, { points, comment, revision, before }]);
      return { ok: true, value: { points: points as number, markId: 9 } };
    },
    moreAnswers: async () => ({ ok: true, value: [] }),
    keepComment: async (_, text) => ({ ok: true, value: { id: 'new', text, used: 0 } }),
    dropComment: async () => ({ ok: true, value: null }),
    ...more,
  };
  const shown = render(
    <MarkingPage base="/c/1/marking" here="/c/1/marking/s" page={page} by={by} order="mixed" commands={commands} />,
    { wrapper: as('ada') },
  );
  return { user: userEvent.setup(), sent, shown };
}
const points = () => screen.getByLabelText('Points, 0 to 5') as HTMLInputElement;
const comment = () => screen.getByLabelText(/Comment for the student/) as HTMLTextAreaElement;

beforeEach(() => localStorage.clear());

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
    expect(screen.getByRole('link', { name: 'the results' }).getAttribute('href')).toBe('/c/1/sittings/s/results');
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

  it('loses nothing when the page is left: what was typed is there again, and can be forgotten', async () => {
    const { user, shown } = open();
    await user.keyboard('2,5');
    await user.click(comment());
    await user.keyboard('Which light?');
    shown.unmount();
    open();
    expect(points().value).toBe('2,5');
    expect(comment().value).toBe('Which light?');
    await userEvent.click(screen.getByRole('button', { name: 'forget it' }));
    expect(points().value).toBe('');
  });

  it('does not hold a fast typist up: the next answer takes the keys while the last is still being saved', async () => {
    const going: (() => void)[] = [];
    const sent: unknown[] = [];
    const { user } = open(undefined, {
      giveMark: async (slotId, input) => {
        sent.push([slotId, (input as { points: number }).points]);
        await new Promise<void>((resolve) => going.push(resolve));
        return { ok: true, value: { points: 0, markId: 9 } };
      },
    });
    await user.keyboard('4{Enter}1{Enter}');
    expect(sent).toEqual([
      ['slot-2', 4],
      ['slot-3', 1],
    ]);
    for (const done of going) done();
    expect(await screen.findByText(/All answers to this question are marked/)).toBeTruthy();
    // What was typed is let go once its save is answered, a step of the journal's behind the picture.
    await vi.waitFor(() => expect(localStorage).toHaveLength(1));
  });

  it('keeps what was typed when a mark is refused because of another’s', async () => {
    const { user } = open(undefined, {
      giveMark: async () => ({
        ok: false,
        problems: [{ code: 'conflict', field: 'points', message: 'Ada has given this answer 4 points meanwhile.' }],
      }),
    });
    await user.keyboard('2{Enter}');
    // The next answer stands there at once; what was refused is said, and one press away with all that was typed.
    expect(screen.getByText('What student 3 wrote')).toBeTruthy();
    expect((await screen.findByRole('alert')).textContent).toContain(
      'Answer 2 is not saved: Ada has given this answer 4 points meanwhile.',
    );
    expect(screen.getByRole('button', { name: 'Answer 2: waits for a mark' })).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Go back to it' }));
    expect(points().value).toBe('2');
    expect(screen.getByText('Ada has given this answer 4 points meanwhile.')).toBeTruthy();
  });
});

describe('a rubric', () => {
  it('makes the points by its weights, unrounded, and says where they were typed otherwise', async () => {
    const sent: unknown[] = [];
    const { user } = open(pageOf([body(1), body(2)], { rubric }), {
      giveMark: async (_, input) => {
        sent.push(input);
        return { ok: true, value: { points: 0, markId: 1 } };
      },
    });
    expect(document.activeElement?.getAttribute('type')).toBe('radio');
    await user.click(screen.getAllByRole('radio', { name: /sound/ })[1] as HTMLElement);
    expect(points().value).toBe('');
    await user.click(screen.getAllByRole('radio', { name: /missing/ })[0] as HTMLElement);
    expect(points().value).toBe('3.33');
    await user.keyboard('{Enter}');
    expect(sent[0]).toMatchObject({ points: 10 / 3, rubric: { Order: 'no', Reasons: 'yes' } });
    await user.click(screen.getAllByRole('radio', { name: /sound/ })[0] as HTMLElement);
    await user.click(screen.getAllByRole('radio', { name: /sound/ })[1] as HTMLElement);
    await user.clear(points());
    await user.type(points(), '4');
    expect(screen.getByText('The rubric makes 5.')).toBeTruthy();
    await user.keyboard('{Enter}');
    expect(sent[1]).toMatchObject({ points: 4 });
  });
});

describe('comments that are used again', () => {
  const comments = [
    { id: 'a', text: 'Name the tide.', used: 3 },
    { id: 'b', text: 'State your reasons.', used: 1 },
  ];

  it('are found by a few letters and put in by their key, and counted', async () => {
    const sent: unknown[] = [];
    const { user } = open(pageOf([body(1)], { comments }), {
      giveMark: async (_, input) => {
        sent.push(input);
        return { ok: true, value: { points: 0, markId: 1 } };
      },
    });
    await user.keyboard('3');
    await user.click(comment());
    await user.keyboard('Good. re');
    expect(screen.queryByText('Name the tide.')).toBeNull();
    await user.keyboard('{Alt>}[Digit1]{/Alt}');
    expect(comment().value).toBe('Good. State your reasons.');
    await user.keyboard('{Control>}{Enter}{/Control}');
    expect(sent[0]).toMatchObject({ comment: 'Good. State your reasons.', used: ['b'] });
  });

  it('offer those used most while nothing is typed, and none once their words stand there', () => {
    expect(fitting(comments, '').map((one) => one.id)).toEqual(['a', 'b']);
    expect(fitting(comments, 'x t').map((one) => one.id)).toEqual([]);
    expect(fitting(comments, 'x ti').map((one) => one.id)).toEqual(['a']);
    expect(fitting(comments, 'Name the tide. na').map((one) => one.id)).toEqual([]);
  });

  it('are kept from what was typed', async () => {
    const { user } = open();
    await user.click(comment());
    await user.keyboard('Mind the set.');
    await user.click(screen.getByRole('button', { name: 'Keep this comment for other answers' }));
    expect(await screen.findByRole('button', { name: 'All kept comments (1)' })).toBeTruthy();
  });
});

describe('a note', () => {
  it('stands on the selected passage, and is taken away again', async () => {
    const { user } = open(pageOf([body(1, { text: 'Keep clear of the tanker.' })]));
    const words = screen.getByRole('textbox', { name: 'The answer' });
    const text = words.querySelector('p')?.firstChild as Text;
    await user.click(screen.getByRole('button', { name: 'Note on the selected passage' }));
    expect(screen.getByText(/Select a passage of the answer first/)).toBeTruthy();
    const range = document.createRange();
    range.setStart(text, 5);
    range.setEnd(text, 10);
    window.getSelection()?.removeAllRanges();
    window.getSelection()?.addRange(range);
    await user.click(screen.getByRole('button', { name: 'Note on the selected passage' }));
    await user.type(screen.getByLabelText('On “clear”'), 'By how much?{Enter}');
    expect(words.querySelector('mark')?.textContent).toBe('clear');
    expect(screen.getByText('By how much?')).toBeTruthy();
    expect(words.textContent).toBe('Keep clear of the tanker.');
    await user.click(screen.getByRole('button', { name: 'Take away note 1' }));
    expect(words.querySelector('mark')).toBeNull();
  });
});

describe('what stands around an answer', () => {
  it('is the choice of its part and what was answered in earlier attempts', () => {
    open(
      pageOf([
        body(1, {
          chosen: { answered: [2, 4], count: 2, own: 4 },
          earlier: [{ attempt: 1, text: 'At first', at: 0 }],
        }),
      ]),
    );
    expect(screen.getByText('Question 4 of a part in which 2 are to be chosen; answered: 2 and 4.')).toBeTruthy();
    expect(screen.getByText('What stood here in 1 earlier attempt')).toBeTruthy();
  });

  it('are several at a time, each saved by itself', async () => {
    const { user, sent } = open();
    await user.click(screen.getByRole('button', { name: 'How many at a time: one at a time' }));
    await user.click(screen.getByLabelText('3 at a time'));
    const fields = screen.getAllByLabelText('Points, 0 to 5');
    expect(fields).toHaveLength(3);
    await user.clear(fields[2] as HTMLElement);
    await user.type(fields[2] as HTMLElement, '1{Enter}');
    expect(sent).toEqual([['slot-3', { points: 1, comment: '', revision: 1, before: null }]]);
  });

  it('stay where they are when answers come meanwhile', async () => {
    const { user, shown } = open();
    await user.keyboard('2');
    const later = pageOf([body(9), body(1, { points: 3, markId: 7 }), body(2), body(3)]);
    shown.rerender(
      <MarkingPage
        base="/c/1/marking"
        here="/c/1/marking/s"
        page={later}
        by="question"
        order="mixed"
        commands={{
          giveMark: async () => ({ ok: true, value: { points: 2, markId: 9 } }),
          moreAnswers: async () => ({ ok: true, value: [] }),
          keepComment: async () => ({ ok: true, value: { id: 'k', text: '', used: 0 } }),
          dropComment: async () => ({ ok: true, value: null }),
        }}
      />,
    );
    expect(screen.getByText('What student 2 wrote')).toBeTruthy();
    expect(points().value).toBe('2');
    expect(screen.getByRole('button', { name: 'Answer 1: waits for a mark' })).toBeTruthy();
    expect(screen.getByRole('button', { name: 'Answer 3: waits for a mark, here now' })).toBeTruthy();
  });

  it('by paper are all answers of one paper', () => {
    const page = pageOf([body(1), body(2), body(3)]);
    for (const head of page.heads) head.paper = head.number < 3 ? 1 : 2;
    open(page, {}, 'paper');
    expect(screen.getAllByLabelText('Points, 0 to 5')).toHaveLength(2);
    expect(screen.getByRole('button', { name: 'Answer 3: waits for a mark' })).toBeTruthy();
  });
});
