// @vitest-environment jsdom
import '../testing/dom';
import { cleanup, render, screen } from '@testing-library/react';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { richFromText } from '@/core/base/rich';
import type { QuestionBars } from '@/core/round/bars';
import { usualRound } from '@/core/round/roundRules';
import type { GridPerson, LeadQuestion, RoundNews } from '@/server/round/grid';
import type { KeeperState } from '../attempt/answerKeeper';
import { Bars, MovementSaid } from './Bars';
import { ledKeeper } from './ledAnswers';
import { stepsOf } from './nextStep';
import { OwnOutcomeSaid } from './OwnOutcomeSaid';
import { RoundsPage } from './RoundsPage';
import { withPeople } from './useRound';

vi.mock('next/navigation', () => ({ useRouter: () => ({ push: () => {}, refresh: () => {} }) }));
afterEach(cleanup);

const person = (userId: string, fields: Partial<GridPerson> = {}): GridPerson => ({
  attemptId: `a${userId}`,
  userId,
  name: userId,
  section: null,
  wayBack: null,
  madeUp: false,
  cameInAt: 0,
  lastContact: null,
  handedIn: false,
  signs: '..',
  answered: 0,
  answeredNow: null,
  share: null,
  ...fields,
});
const news = (fields: Partial<RoundNews>): RoundNews => ({
  head: {} as RoundNews['head'],
  people: [],
  gone: [],
  all: false,
  ...fields,
});

describe('the people of a round', () => {
  it('are replaced, added and taken out as they are told of', () => {
    const known = [person('a'), person('b'), person('c')];
    const now = withPeople(known, news({ people: [person('b', { answered: 1 }), person('d')], gone: ['c'] }));
    expect(now.map((one) => [one.userId, one.answered])).toEqual([
      ['a', 0],
      ['b', 1],
      ['d', 0],
    ]);
    expect(withPeople(known, news({ people: [person('z')], all: true })).map((one) => one.userId)).toEqual(['z']);
  });
});

describe('what comes next', () => {
  const question = (fields: Partial<LeadQuestion>) => ({ at: 0, vote: 1, right: 'A', ...fields }) as LeadQuestion;
  const phases = (...all: ('ahead' | 'open' | 'closed' | 'shown')[]) =>
    all.map((phase, i) => ({ name: `Q${i + 1}`, phase }));
  const said = (round: Parameters<typeof stepsOf>[0]) => stepsOf(round).map((step) => step.says);

  it.each([
    ['at the beginning', { questions: phases('ahead', 'ahead'), question: null }, ['Open question 1']],
    ['while one is open', { questions: phases('open', 'ahead'), question: question({ phase: 'open' }) }, ['Close it']],
    [
      'once it is closed',
      { questions: phases('closed', 'ahead'), question: question({ phase: 'closed' }) },
      ['Show what is right', 'Ask it again', 'Open question 2'],
    ],
    [
      'once it was asked twice',
      { questions: phases('closed', 'ahead'), question: question({ phase: 'closed', vote: 2 }) },
      ['Show what is right', 'Open question 2'],
    ],
    [
      'where nothing is known to be right',
      { questions: phases('closed', 'ahead'), question: question({ phase: 'closed', right: '' }) },
      ['Open question 2', 'Ask it again'],
    ],
    [
      'after the last, with one left out before',
      { questions: phases('ahead', 'shown'), question: question({ at: 1, phase: 'shown' }) },
      ['Open question 1'],
    ],
    [
      'after all',
      { questions: phases('shown', 'shown'), question: question({ at: 1, phase: 'shown' }) },
      ['Stop the round'],
    ],
  ] as const)('%s', (_, round, steps) => {
    expect(said({ ...round, questions: [...round.questions], stoppedAt: null })).toEqual(steps);
    expect(said({ ...round, questions: [...round.questions], stoppedAt: 1 })).toEqual([]);
  });
});

describe('answers of a led round', () => {
  it('go with the vote for which they were given, also when they are sent later', async () => {
    const sent: unknown[] = [];
    const states: KeeperState[] = [];
    let isUp = false;
    const keeper = ledKeeper({
      attemptId: 'att',
      epoch: 3,
      store: null,
      onState: (state) => states.push(state),
      onAside: () => {},
      clock: () => 1_000,
      net: async (_address, request) => {
        if (!isUp) throw new Error('offline');
        sent.push(JSON.parse(String(request.body)));
        return { status: 200, json: async () => ({}) };
      },
    });
    keeper.keep('slot', 1, { picked: 'a' }, false);
    await vi.waitFor(() => expect(states.at(-1)?.kind).toBe('offline'));
    keeper.keep('slot', 2, { picked: 'b' }, false);
    isUp = true;
    keeper.hurry();
    await vi.waitFor(() => expect(states.at(-1)?.kind).toBe('saved'));
    expect(sent).toMatchObject([
      { slotId: 'slot', vote: 1, value: { picked: 'a' } },
      { slotId: 'slot', vote: 2, value: { picked: 'b' } },
    ]);
  });

  it('say why one was not taken', async () => {
    const states: KeeperState[] = [];
    const keeper = ledKeeper({
      attemptId: 'att',
      epoch: 3,
      store: null,
      onState: (state) => states.push(state),
      onAside: () => {},
      clock: () => 1_000,
      net: async () => ({
        status: 410,
        json: async () => ({ problems: [{ message: 'This question has been closed.' }] }),
      }),
    });
    keeper.keep('slot', 1, { picked: 'a' }, false);
    await vi.waitFor(() => expect(states.at(-1)).toEqual({ kind: 'aside', said: 'This question has been closed.' }));
  });
});

describe('bars', () => {
  const bar = (label: string, count: number, outcome: QuestionBars['bars'][number]['outcome'] = null) => ({
    label,
    rich: richFromText(`words of ${label}`),
    text: '',
    count,
    outcome,
  });
  const vote = (a: number, b: number, outcome: 'right' | null = null): QuestionBars => ({
    asked: 9,
    answered: a + b,
    bars: [bar('A', a, outcome), bar('B', b)],
    others: 0,
  });

  it('stand side by side for both votes, with the word where something is right', () => {
    render(<Bars votes={[vote(5, 2), vote(7, 1, 'right')]} />);
    const [a, b] = screen.getAllByRole('row').slice(1);
    expect(a?.textContent).toContain('first: 5');
    expect(a?.textContent).toContain('again: 7');
    expect(a?.textContent).toContain('right');
    expect(b?.textContent).not.toContain('right');
    expect(screen.getByText(/8 of 9 answered; the hollow bars are the first time/)).toBeTruthy();
  });

  it('say who moved', () => {
    render(<MovementSaid movement={{ stayed: 3, moved: [{ from: 'A', to: 'B', count: 2 }] }} />);
    expect(screen.getByText('3 of 5 stayed with their answer: 2 went from A to B.')).toBeTruthy();
  });
});

describe('one’s own answer', () => {
  it.each([
    [{ outcome: 'right', given: 'A', right: 'A: port' }, 'Your answer is right.', null],
    [{ outcome: 'wrong', given: 'B', right: 'A: port' }, 'Your answer is not right.', 'Right is: A: port'],
    [{ outcome: null, given: '', right: 'A: port' }, 'You gave no answer.', 'Right is: A: port'],
    [{ outcome: null, given: 'B', right: '' }, 'Nobody has said yet what is right.', null],
  ] as const)('%o', (own, said, right) => {
    render(<OwnOutcomeSaid own={own} />);
    expect(screen.getByText(said)).toBeTruthy();
    if (right) expect(screen.getByText(right)).toBeTruthy();
    else expect(screen.queryByText(/Right is/)).toBeNull();
  });
});

describe('beginning a round', () => {
  const exam = (id: string, lastHeld: number | null) => ({
    id,
    title: `Exam ${id}`,
    questions: 3,
    offScreen: false,
    lastHeld,
  });
  const page = (chosen: string | null) => (
    <RoundsPage
      courseId="c"
      chosen={chosen}
      timeZone="UTC"
      origin="http://school.example"
      beginning={{
        rules: usualRound,
        door: 'KRT346',
        exams: [exam('never', null), exam('once', 1), exam('lately', 2)],
        sections: [],
      }}
      rounds={[]}
      askedBefore={[]}
      commands={{} as Parameters<typeof RoundsPage>[0]['commands']}
    />
  );
  const picked = () =>
    screen
      .getAllByRole('radio')
      .map((one) => [one.closest('label')?.textContent ?? '', (one as HTMLInputElement).checked]);

  it('offers what was held last, or the exam one came from, and says the code aloud', () => {
    render(page(null));
    expect(picked()[0]?.[0]).toContain('Exam lately');
    expect(picked()[0]?.[1]).toBe(true);
    expect(screen.getByText('Said aloud: Kilo, Romeo, Tango, three, four, six')).toBeTruthy();
    cleanup();
    render(page('never'));
    expect(picked()[0]?.[0]).toContain('Exam never');
    expect(picked()[0]?.[1]).toBe(true);
  });

  it('says the choices of last time as sentences', () => {
    render(page(null));
    expect(screen.getByRole('button', { name: 'Pace: Led' })).toBeTruthy();
    expect(screen.getByRole('button', { name: 'Coming in: by typing a name' })).toBeTruthy();
    expect(screen.getByRole('button', { name: 'Learning: as you show it' })).toBeTruthy();
    expect(screen.getByRole('button', { name: 'Counting: does not count' })).toBeTruthy();
  });
});
