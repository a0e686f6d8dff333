// @vitest-environment jsdom
import '../testing/dom';
import { fireEvent, render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { ComponentProps } from 'react';
import { describe, expect, it, vi } from 'vitest';
import { day, hour, minute } from '@/core/base/time';
import { noArrangement } from '@/core/sitting/rules';
import { SittingList } from './SittingList';
import { SittingPage } from './SittingPage';

vi.mock('next/navigation', () => ({ useRouter: () => ({ refresh: () => undefined, push: () => undefined }) }));

const now = Date.UTC(2026, 2, 2, 9, 17);
type Props = ComponentProps<typeof SittingPage>;

const student = (name: string, more: Partial<Props['open']['audience'][number]> = {}) => ({
  userId: name,
  name,
  email: `${name}@x.example`,
  studentNumber: null,
  section: null,
  arrangement: noArrangement,
  ...more,
});

function open(sitting: Partial<Props['sitting']> = {}, more: Partial<Props['open']> = {}) {
  const sent: Record<string, unknown>[] = [];
  let scheduled = 0;
  render(
    <SittingPage
      base="/c/1"
      now={now}
      mayChange
      sitting={{
        id: 's',
        examId: 'e',
        title: 'Knots',
        anonymous: false,
        state: 'draft',
        opens: null,
        lastStart: null,
        due: null,
        closes: null,
        timeLimit: null,
        fullTimeOnceStarted: false,
        attemptsAllowed: 1,
        attemptCounts: 'best',
        ...sitting,
      }}
      open={{
        phase: 'draft',
        timeZone: 'UTC',
        examTitle: 'Knots',
        points: 10,
        questions: 5,
        sectionIds: [],
        sections: [],
        audience: [student('Ada'), student('Bo')],
        markers: [],
        problems: [],
        planProblems: [],
        looks: [],
        remarks: 0,
        ...more,
      }}
      commands={{
        save: async (input) => {
          sent.push(input as Record<string, unknown>);
          return { ok: true, value: null };
        },
        schedule: async () => {
          scheduled += 1;
          return { ok: true, value: { students: 2 } };
        },
        arrange: async () => ({ ok: true, value: null }),
        again: async () => ({ ok: true, value: { sittingId: 't' } }),
      }}
    />,
  );
  return { user: userEvent.setup(), sent, scheduled: () => scheduled };
}
const field = (label: string) => screen.getByLabelText(label) as HTMLInputElement;
const button = (name: string) => screen.getByRole('button', { name });

describe('a sitting', () => {
  it('proposes to close the day after the opening that was just entered, at the same hour', async () => {
    const { user } = open();
    fireEvent.change(field('Opens'), { target: { value: '2026-03-28T13:30' } });
    await user.click(button('propose a closing'));
    expect(field('Closes').value).toBe('2026-03-29T13:30');
  });

  it('without an opening proposes a week from now, at a full hour', async () => {
    const { user } = open();
    await user.click(button('propose a closing'));
    expect(field('Closes').value).toBe('2026-03-09T10:00');
  });

  it('saves what was entered before it is scheduled, and says that it is', async () => {
    const { user, sent, scheduled } = open();
    fireEvent.change(field('Opens'), { target: { value: '2026-03-03T09:00' } });
    await user.type(field('Minutes'), '40');
    await user.click(button('Schedule'));
    expect(await screen.findByText('It is scheduled, and 2 students have been told.')).toBeTruthy();
    expect(sent).toHaveLength(1);
    expect(sent[0]).toMatchObject({ opens: '2026-03-03T09:00', timeLimitMinutes: 40, attemptsAllowed: 1 });
    expect(scheduled()).toBe(1);
  });

  it('says what keeps it from being scheduled, and the button says where to look', async () => {
    const { user, scheduled } = open({}, { problems: [{ code: 'bad-input', message: 'Say when it opens.' }] });
    expect(screen.getByText('Say when it opens.')).toBeTruthy();
    await user.click(button('Schedule'));
    expect(scheduled()).toBe(0);
    expect(button('Schedule').title).toMatch(/Before it can be scheduled/);
  });

  it('shows each student the time they really have', () => {
    const longer = { ...noArrangement, extraPercent: 25 };
    open(
      { state: 'scheduled', timeLimit: 40 * minute, opens: now, closes: now + day },
      { phase: 'open', audience: [student('Ada'), student('Bo', { arrangement: longer })] },
    );
    const of = (name: string) => screen.getByText(name).closest('li')?.textContent ?? '';
    expect(of('Ada')).toContain('40 min');
    expect(of('Bo')).toContain('50 min, until 09:27');
    expect(screen.getByText('1 with an arrangement')).toBeTruthy();
  });
});

describe('the sittings of a course', () => {
  it('lead to their results by name, once they have begun', () => {
    const row = { opens: now, closes: now + hour, students: 3, running: 0, handedIn: 1 };
    render(
      <SittingList
        base="/c/1"
        timeZone="UTC"
        mayChange
        sittings={[
          { ...row, id: 'a', title: 'Knots', phase: 'open' },
          { ...row, id: 'b', title: 'Tides', phase: 'coming' },
        ]}
      />,
    );
    const table = within(screen.getByRole('table'));
    expect(table.getByRole('link', { name: 'Results of Knots' }).getAttribute('href')).toBe('/c/1/sittings/a/results');
    expect(table.queryByRole('link', { name: 'Results of Tides' })).toBeNull();
  });
});
