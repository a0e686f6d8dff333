// @vitest-environment jsdom
import { act, render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { nothingWaits } from '@/core/attempt/waiting';
import { minute } from '@/core/base/time';
import type { AsideAnswer } from '@/server/room/asideAnswers';
import type { Room, RoomRow } from '@/server/room/room';
import type { LogLine } from '@/server/room/roomLog';
import type { RoomNews } from '@/server/room/watchRoom';
import { seenIn } from '../testing/dom';
import { ReportsPage } from './ReportedQuestionsPage';
import { RoomPage } from './RoomPage';
import type { RoomCommands } from './roomCommands';
import { agoSaid } from './roomSaid';
import { withNews } from './useRoom';

vi.mock('next/navigation', () => ({ useRouter: () => ({ refresh: () => undefined, push: () => undefined }) }));

const now = Date.UTC(2026, 2, 2, 9);

/** A stream of events that a test speaks for. */
class Stream {
  static last: Stream;
  onmessage: ((event: { data: string }) => void) | null = null;
  onerror: (() => void) | null = null;
  constructor(readonly address: string) {
    Stream.last = this;
  }
  close() {}
  tell(news: Partial<RoomNews>) {
    act(() =>
      this.onmessage?.({ data: JSON.stringify({ now: Date.now(), rows: [], log: null, leaks: null, ...news }) }),
    );
  }
}

const attempt = (more: Partial<NonNullable<RoomRow['attempt']>> = {}): RoomRow['attempt'] => ({
  id: 'a',
  number: 1,
  phase: 'running',
  startedAt: now - 10 * minute,
  endedAt: null,
  endedBy: null,
  deadline: now + 20 * minute,
  added: 0,
  lastContact: now,
  questions: 4,
  answered: 2,
  signs: [['Part', 'a.b.']],
  ...more,
});
const row = (name: string, more: Partial<RoomRow> = {}): RoomRow => ({
  userId: name,
  name,
  section: null,
  excused: false,
  attempt: null,
  attempts: 0,
  whyNot: null,
  waitsToBeLetThrough: false,
  aside: 0,
  times: null,
  startsAt: null,
  ...more,
});

function open(rows: RoomRow[], aside: AsideAnswer[] = [], more: Partial<Room> = {}, log: LogLine[] = []) {
  const done: unknown[][] = [];
  const noted =
    (name: string) =>
    async (...input: unknown[]) => {
      done.push([name, ...input]);
      return { ok: true as const, value: null };
    };
  const commands: RoomCommands = {
    addTime: async (...input) => {
      done.push(['giveTime', ...input]);
      return { ok: true, value: { given: 1 } };
    },
    handInFor: noted('handIn'),
    reopen: noted('reopen'),
    voidAttempt: noted('void'),
    restoreAttempt: noted('restore'),
    letThrough: noted('letThrough'),
    addNote: async (note) => {
      if (note.text === '')
        return { ok: false, problems: [{ code: 'bad-input', field: 'text', message: 'Write it.' }] };
      done.push(['note', note.kind, note.userId, note.text]);
      return { ok: true, value: null };
    },
    seeKeptAside: async () => ({ ok: true, value: aside }),
    decideAside: noted('decide'),
    settleIncident: noted('settle'),
    beforeReopening: async () => ({ ok: true, value: { shown: ['right-answers'], lookedAt: now } }),
  };
  render(
    <RoomPage
      back="/c/1/sittings/s"
      live="/live"
      room={{
        title: 'Knots',
        timeZone: 'UTC',
        courseName: 'C',
        now,
        closes: null,
        timeLimit: null,
        times: {
          opens: null,
          lastStart: null,
          due: null,
          closes: now + 60 * minute,
          limit: 30 * minute,
          extraTime: false,
          fullTime: false,
          grace: null,
        },
        anonymous: false,
        rows,
        leaks: [],
        waiting: nothingWaits,
        ...more,
      }}
      log={log}
      commands={commands}
    />,
  );
  return { user: userEvent.setup(), done };
}
const button = (name: string | RegExp) => screen.getByRole('button', { name });
const cells = (name: string) =>
  [...(screen.getByRole('button', { name }).closest('tr')?.querySelectorAll('td') ?? [])].map(
    (cell) => cell.textContent,
  );

beforeEach(() => {
  vi.stubGlobal('EventSource', Stream);
  // However long a test takes, for the page it is always now.
  vi.useFakeTimers({ now, toFake: ['Date'] });
});
afterEach(() => {
  vi.useRealTimers();
});

describe('the room', () => {
  it('counts where everybody stands, and shows only those who are asked for', async () => {
    const { user } = open([
      row('Ada', { attempt: attempt() }),
      row('Bo', { attempt: attempt({ answered: 0 }) }),
      row('Cy', { attempt: attempt({ lastContact: now - 5 * minute }) }),
      row('Di'),
      row('Ed', { attempt: attempt({ phase: 'handed-in', endedAt: now, endedBy: 'clock', deadline: null }) }),
    ]);
    for (const name of ['1 writing', '1 nothing answered yet', '1 lost contact', '1 has not come', '1 handed in'])
      expect(button(name)).toBeTruthy();
    expect(cells('Ada').slice(3)).toEqual(['2 of 4', '20:00', 'now']);
    expect(cells('Ed')[1]).toBe('handed in by the clock 09:00');
    await user.click(button('1 lost contact'));
    expect(screen.queryByRole('button', { name: 'Ada' })).toBeNull();
    expect(button('Cy')).toBeTruthy();
  });

  it('goes by the server’s clock before any news has come, however wrong the browser’s own is', async () => {
    vi.useFakeTimers({ now: now + 3 * 60 * minute, toFake: ['Date', 'setInterval'] });
    open([row('Ada', { attempt: attempt() })]);
    act(() => vi.advanceTimersByTime(2_000));
    expect(cells('Ada').slice(3)).toEqual(['2 of 4', '19:58', 'now']);
  });

  it('changes by itself with what the server tells, and says when it no longer hears anything', () => {
    open([row('Ada', { attempt: attempt() }), row('Bo')]);
    Stream.last.tell({ now, rows: [row('Bo', { attempt: attempt({ answered: 1 }) })] });
    expect(button('2 writing')).toBeTruthy();
    expect(cells('Ada')[3]).toBe('2 of 4');
    Stream.last.tell({ now, leaks: ['Students see what is right, while others write.'] });
    expect(screen.getByText(/Students see what is right/)).toBeTruthy();
    act(() => Stream.last.onerror?.());
    expect(screen.getByRole('alert').textContent).toContain('No connection since');
    Stream.last.tell({ now });
    expect(screen.queryByRole('alert')).toBeNull();
  });

  it('gives time to all or one, and keeps what was typed when something is refused', async () => {
    const { user, done } = open([row('Ada', { attempt: attempt() })]);
    await user.click(button('More time for all'));
    await user.click(button('Give them'));
    expect(await screen.findByText('1 student has 5 min more.')).toBeTruthy();
    await user.click(button('Ada'));
    const more = within(screen.getByRole('region', { name: 'More time' }));
    await user.clear(more.getByLabelText('More minutes'));
    await user.type(more.getByLabelText('More minutes'), '7,5');
    await user.click(more.getByRole('button', { name: 'Give them' }));
    expect(done).toEqual([
      ['giveTime', null, 5],
      ['giveTime', ['a'], 7.5],
    ]);
    await user.click(button('Note an incident'));
    await user.click(screen.getAllByRole('button', { name: 'Write it down' }).at(-1) as HTMLElement);
    expect(await screen.findByText('Write it.')).toBeTruthy();
  });

  it('asks before it hands in, voids or opens again, with what that means', async () => {
    const { user, done } = open([row('Ada', { attempt: attempt() })]);
    await user.click(button('Ada'));
    await user.click(button('Hand in for them'));
    expect(screen.getByRole('dialog').textContent).toContain('2 of 4 questions are answered');
    expect(screen.getByRole('dialog').textContent).toContain('20 min are left');
    await user.click(within(screen.getByRole('dialog')).getByRole('button', { name: 'Hand in' }));
    Stream.last.tell({
      now,
      rows: [row('Ada', { attempt: attempt({ phase: 'handed-in', endedAt: now, endedBy: 'clock', deadline: null }) })],
    });
    await user.click(button('Open again'));
    await user.type(screen.getByLabelText('Reason'), 'the light went out');
    await user.click(within(screen.getByRole('dialog')).getByRole('button', { name: 'Open again' }));
    await user.click(button('Void'));
    await user.type(screen.getByLabelText('Reason'), 'wrong room');
    await user.click(button('Void it'));
    expect(done).toEqual([
      ['handIn', 'a'],
      ['reopen', 'a', { minutes: 10, reason: 'the light went out' }],
      ['void', 'a', 'wrong room'],
    ]);
  });

  it('lets a student through, and decides about answers kept aside', async () => {
    const answer: AsideAnswer = {
      slotId: 's1',
      epoch: 1,
      sequence: 4,
      number: 3,
      question: 'Which knot?',
      reason: 'late',
      receivedAt: now,
      givenAt: now - minute,
      inTime: true,
      text: 'Bowline',
      counting: '',
    };
    const { user, done } = open(
      [
        row('Ada', {
          attempt: attempt({ phase: 'handed-in', endedAt: now, endedBy: 'student', deadline: null }),
          attempts: 1,
          waitsToBeLetThrough: true,
          aside: 1,
        }),
      ],
      [answer],
    );
    await user.click(button('Ada'));
    await user.click(button('Let through to the next attempt'));
    const aside = within(screen.getByRole('region', { name: 'Answers kept aside' }));
    expect(await aside.findByText('Bowline')).toBeTruthy();
    expect(aside.getByText(/it was given 08:59:00, in time/)).toBeTruthy();
    await user.click(aside.getByRole('button', { name: 'Let it count' }));
    expect(done).toEqual([
      ['letThrough', 'Ada'],
      ['decide', { slotId: 's1', epoch: 1, sequence: 4 }, true],
    ]);
    expect(await screen.findByText('The answer to question 3 counts now.')).toBeTruthy();
  });

  it('of hundreds draws only a part, and news keep their order', () => {
    const many = Array.from({ length: 500 }, (_, i) => row(`Student ${String(i).padStart(3, '0')}`));
    seenIn(1_000, 720);
    open(many);
    // Twenty rows are in view, and some more wait beside them.
    const drawn = screen.getAllByRole('row').length;
    expect(drawn).toBeGreaterThan(20);
    expect(drawn).toBeLessThan(120);
    const merged = withNews(many, [row('Student 499', { aside: 2 }), row('Late comer')]);
    expect([merged.length, merged[499]?.aside, merged[500]?.name]).toEqual([501, 2, 'Late comer']);
  });
});

it('how long ago is said roughly', () => {
  expect([0, 45_000, 120_000, 7_200_000].map(agoSaid)).toEqual(['now', '45 s ago', '2 min ago', '2 h ago']);
});

it('a reported question shows what was said of it; a correction and an answer go out, and stay typed when refused', async () => {
  const user = userEvent.setup();
  const sent: unknown[] = [];
  render(
    <ReportsPage
      base="/c/1"
      sitting="/c/1/sittings/s"
      zone="UTC"
      questions={[
        {
          versionId: 'v',
          questionId: 'q',
          bankId: 'b',
          name: 'Knots',
          stem: 'Which knot?',
          papers: 3,
          reports: [
            {
              id: 'r',
              by: 'Ada',
              text: 'Two are the same.',
              at: now,
              answer: null,
              answeredAt: null,
              choices: ['A Bowline', 'B Reef knot'],
            },
          ],
          corrections: [],
        },
      ]}
      correct={async (versionId, text) => {
        if (text === '') return { ok: false, problems: [{ code: 'bad-input', field: 'text', message: 'Write it.' }] };
        sent.push([versionId, text]);
        return { ok: true, value: { papers: 3 } };
      }}
      withdrawCorrection={async () => ({ ok: true, value: null })}
      onPapers={[
        { versionId: 'v', questionId: 'q', bankId: 'b', name: 'Knots', stem: 'Which knot?', papers: 3 },
        { versionId: 'w', questionId: 'p', bankId: 'b', name: 'Tides', stem: 'Which tide?', papers: 2 },
      ]}
      answerReports={async (versionId, text) => {
        sent.push([versionId, text]);
        return { ok: true, value: { answered: 1 } };
      }}
    />,
  );
  expect(screen.getByText('1 report waits for an answer')).toBeTruthy();
  expect(screen.getByText('On this paper: A Bowline · B Reef knot')).toBeTruthy();
  await user.click(button('Put it on the papers'));
  expect(await screen.findByText('Write it.')).toBeTruthy();
  await user.type(screen.getByLabelText('A correction'), 'Read B as port');
  await user.click(button('Put it on the papers'));
  expect(await screen.findByText('The correction stands on 3 papers.')).toBeTruthy();
  await user.type(screen.getByLabelText('An answer to the one who reported it'), 'Thanks');
  await user.click(button('Answer'));
  expect(sent).toEqual([
    ['v', 'Read B as port'],
    ['v', 'Thanks'],
  ]);
});

describe('what waits for a decision', () => {
  it('is counted above the room, shows whose answers it is about, and an incident is settled in the log', async () => {
    const line: LogLine = {
      key: 'n7',
      at: now,
      about: 'Ada',
      by: null,
      what: 'Ada’s hand-in came after the time allowed for it.',
      kind: 'incident',
      open: 7,
    };
    const { user, done } = open(
      [row('Ada', { aside: 2, attempt: attempt({ phase: 'handed-in', endedAt: now, endedBy: 'page' }) }), row('Bo')],
      [],
      { waiting: { asides: 2, asidesOf: ['Ada'], reports: 1, incidents: 1, differences: 0, sheets: 0 } },
      [line],
    );
    expect(
      screen.getByText(/Waits for a decision: 2 answers kept aside, of 1 student; 1 report on a question; 1 incident/),
    ).toBeTruthy();
    expect(screen.getByRole('link', { name: 'Reported questions (1)' })).toBeTruthy();
    expect(screen.getByText(/handed in by the clock/)).toBeTruthy();
    await user.click(button('Show whose answers'));
    expect(screen.queryByRole('button', { name: 'Bo' })).toBeNull();
    await user.click(button(/^Settled/));
    expect(done).toContainEqual(['settle', 7]);
    Stream.last.tell({ waiting: nothingWaits });
    expect(screen.queryByText(/Waits for a decision/)).toBeNull();
  });

  it('opening again says what its student has seen of the keys', async () => {
    const { user } = open([row('Ada', { attempt: attempt({ phase: 'handed-in', endedAt: now, endedBy: 'student' }) })]);
    await user.click(button('Ada'));
    await user.click(button('Open again'));
    expect(
      await screen.findByText(/they can see right answers of it, and they looked at their result Mon 2 Mar, 09:00/),
    ).toBeTruthy();
  });

  it('any question of the papers can be corrected', async () => {
    const user = userEvent.setup();
    const sent: unknown[] = [];
    render(
      <ReportsPage
        base="/c/1"
        sitting="/c/1/sittings/s"
        zone="UTC"
        questions={[]}
        onPapers={[{ versionId: 'w', questionId: 'p', bankId: 'b', name: 'Tides', stem: 'Which tide?', papers: 2 }]}
        correct={async (versionId, text) => {
          sent.push([versionId, text]);
          return { ok: true, value: { papers: 2 } };
        }}
        withdrawCorrection={async () => ({ ok: true, value: null })}
        answerReports={async () => ({ ok: true, value: { answered: 0 } })}
      />,
    );
    await user.click(button('Tides'));
    await user.type(screen.getByLabelText('A correction'), 'Read spring tide.');
    await user.click(button('Put it on the papers'));
    expect(sent).toEqual([['w', 'Read spring tide.']]);
  });
});
