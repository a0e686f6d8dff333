// @vitest-environment jsdom
import '../testing/dom';
import { fireEvent, render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { ComponentProps } from 'react';
import { describe, expect, it, vi } from 'vitest';
import { day, hour, minute } from '@/core/base/time';
import { noArrangement, noFurtherRules, type SittingRules } from '@/core/sitting/rules';
import { readShare, readWait } from './RulePieces';
import { SittingList } from './SittingList';
import { SittingPage } from './SittingPage';

vi.mock('next/navigation', () => ({ useRouter: () => ({ refresh: () => undefined, push: () => undefined }) }));

const now = Date.UTC(2026, 2, 2, 9, 17);
type Props = ComponentProps<typeof SittingPage>;

const student = (name: string, more: Partial<Props['open']['audience'][number]> = {}) => ({
  userId: name,
  name,
  section: null,
  arrangement: noArrangement,
  standing: false,
  attempts: 0,
  running: false,
  ...more,
});

const usual: SittingRules = {
  ...noFurtherRules,
  opens: null,
  lastStart: null,
  due: null,
  closes: null,
  timeLimit: null,
  fullTimeOnceStarted: false,
  attemptsAllowed: 1,
  attemptCounts: 'best',
};

function open(
  rules: Partial<SittingRules> = {},
  more: Partial<Props['open']> = {},
  state: 'draft' | 'scheduled' = 'draft',
) {
  const sent: Record<string, unknown>[] = [];
  const scheduled: string[][] = [];
  const arranged: unknown[] = [];
  const kept: string[] = [];
  render(
    <SittingPage
      base="/c/1"
      origin="http://school.example"
      now={now}
      mayChange
      rules={{ ...usual, ...rules }}
      open={{
        sitting: {
          id: 's',
          courseId: '1',
          examId: 'e',
          revisionId: 'r',
          title: 'Knots',
          anonymous: false,
          state,
          opens: null,
          lastStart: null,
          due: null,
          closes: null,
          timeLimit: null,
          fullTimeOnceStarted: false,
          attemptsAllowed: 1,
          attemptCounts: 'best',
          further: null,
          nextTask: '',
          acknowledged: null,
          releasePlan: {},
          selfPublish: null,
          bands: null,
          completion: null,
          scored: true,
          counts: 'score',
          createdBy: 't',
          createdAt: 0,
        },
        phase: state === 'draft' ? 'draft' : 'open',
        timeZone: 'UTC',
        examTitle: 'Knots',
        points: 10,
        questions: 5,
        purpose: { scored: true, counts: 'score', anonymous: false },
        who: { kind: 'course' },
        link: null,
        sections: [{ id: 'a', name: 'A' }],
        course: [
          { id: 'ada', name: 'Ada', section: 'A' },
          { id: 'bo', name: 'Bo', section: null },
        ],
        audience: [student('Ada'), student('Bo')],
        markers: [],
        findings: [],
        overAt: null,
        looks: [],
        remarks: 0,
        unusual: false,
        ...more,
      }}
      commands={{
        saveSitting: async (input) => {
          sent.push(input as Record<string, unknown>);
          return { ok: true, value: null };
        },
        scheduleSitting: async (keys = []) => {
          scheduled.push(keys);
          return { ok: true, value: { students: 2 } };
        },
        acknowledge: async () => ({ ok: true, value: null }),
        keepAsUsual: async () => {
          kept.push('kept');
          return { ok: true, value: null };
        },
        arrange: async (_, input) => {
          arranged.push(input);
          return { ok: true, value: null };
        },
        giveAgain: async () => ({ ok: true, value: { sittingId: 't' } }),
      }}
    />,
  );
  return { user: userEvent.setup(), sent, scheduled, arranged, kept };
}
const field = (label: string) => screen.getByLabelText(label) as HTMLInputElement;
const button = (name: string | RegExp) => screen.getByRole('button', { name });

describe('a sitting', () => {
  it('proposes to close the day after the opening that was just entered, at the same hour', async () => {
    const { user, sent } = open();
    await user.click(button(/^Opens: /));
    fireEvent.change(field('Opens'), { target: { value: '2026-03-28T13:30' } });
    await user.click(button('Set'));
    await user.click(button('Closes: never'));
    expect(field('Closes').value).toBe('2026-03-29T13:30');
    await user.click(button('Set'));
    expect(sent).toEqual([{ opens: '2026-03-28T13:30' }, { closes: '2026-03-29T13:30' }]);
  });

  it('without an opening proposes a week from now, at a full hour; nothing changes until it is set', async () => {
    const { user, sent } = open();
    await user.click(button('Closes: never'));
    expect(field('Closes').value).toBe('2026-03-09T10:00');
    expect(sent).toEqual([]);
  });

  it('keeps its rules for the exam’s next sittings where they differ, once nothing waits to be applied', async () => {
    const { user, kept } = open({}, { unusual: true }, 'scheduled');
    await user.click(button('How students move: anywhere on their paper'));
    await user.click(screen.getByLabelText(/^onward only/));
    expect(screen.queryByText('Keep these for its next sittings')).toBeNull();
    await user.click(button('Leave it as it was'));
    await user.click(button('Keep these for its next sittings'));
    expect(kept).toEqual(['kept']);
    expect(screen.getByText(/its next sitting begins with these rules/)).toBeTruthy();
  });

  it('as a draft saves each piece of its sentences by itself', async () => {
    const { user, sent } = open({ closes: now + day });
    await user.click(button('How many attempts: one attempt'));
    await user.click(screen.getByLabelText('up to so many attempts'));
    await user.click(button(/^Between attempts: /));
    await user.clear(field('Wait'));
    await user.type(field('Wait'), '4 h, 1 d');
    await user.click(button('Set'));
    await user.click(button('When the time is over: is handed in by itself'));
    await user.click(screen.getByLabelText(/counts only if its student hands it in/));
    await user.click(button(/^Networks: /));
    await user.type(field('Networks'), '10.1.0.0/16');
    await user.click(button('Set'));
    expect(sent).toMatchObject([
      { attemptsAllowed: 3 },
      { further: { between: { kind: 'wait', minutes: [240, 1440] } } },
      { further: { expiry: { kind: 'grace', minutes: 2 } } },
      { further: { networks: ['10.1.0.0/16'] } },
    ]);
  });

  it('is given to some by ticking them', async () => {
    const { user, sent } = open();
    await user.click(button('Given to: the whole course'));
    await user.click(screen.getByLabelText('some of it'));
    await user.click(screen.getByLabelText('section A'));
    await user.type(field('Find in the course'), 'Bo');
    await user.click(screen.getByLabelText('Bo'));
    await user.click(button('Set'));
    expect(sent).toEqual([{ who: { kind: 'some', sectionIds: ['a'], studentIds: ['bo'] } }]);
    expect(button('Given to: A, Bo')).toBeTruthy();
  });

  it('learning as they go brings tries, their cost, and missed questions at the end', async () => {
    const { user, sent } = open();
    await user.click(button(/^When students learn/));
    await user.click(screen.getByLabelText(/as they go: each question/));
    await user.click(button('Tries: once'));
    await user.clear(field('How often a question can be tried'));
    await user.type(field('How often a question can be tried'), '3');
    await user.click(button('Done'));
    await user.click(button('What a further try costs: 25 %'));
    await user.clear(field('What a further try costs'));
    await user.type(field('What a further try costs'), '1/3');
    await user.click(button('Set'));
    const { tries, learning } = (sent.at(-1) as { further: SittingRules }).further;
    expect([learning, tries?.most]).toEqual(['as-they-go', 3]);
    expect(tries?.cost).toBeCloseTo(1 / 3);
  });

  it('once scheduled changes only when the changes are applied, all together', async () => {
    const { user, sent } = open(
      { opens: now, closes: now + day, timeLimit: 40 * minute },
      { audience: [student('Ada', { running: true })] },
      'scheduled',
    );
    await user.click(button('Minutes: 40 min'));
    await user.clear(field('Minutes'));
    await user.type(field('Minutes'), '50');
    await user.click(button('Done'));
    expect(sent).toEqual([]);
    expect(screen.getByText(/1 student is writing: their time follows at once/)).toBeTruthy();
    await user.click(button('Apply the changes'));
    expect(sent).toHaveLength(1);
    expect(sent[0]).toMatchObject({ timeLimitMinutes: 50 });
    expect(await screen.findByText(/The changes hold from now on/)).toBeTruthy();
  });

  it('is held back by errors, and by warnings until each has been ticked', async () => {
    const warning = { key: 'never-closes', kind: 'warning' as const, message: 'It never closes.' };
    const { user, scheduled } = open({}, { findings: [warning] });
    await user.click(button('Schedule'));
    expect(scheduled).toEqual([]);
    expect(button('Schedule').title).toMatch(/Read the 1 warning/);
    await user.click(screen.getByLabelText('I have read this and it is meant so.'));
    await user.click(button('Schedule'));
    expect(scheduled).toEqual([['never-closes']]);
    expect(await screen.findByText('It is scheduled, and 2 students have been told.')).toBeTruthy();
  });

  it('says what keeps it from being scheduled, at its piece and in the list, and the button says where to look', async () => {
    const error = {
      key: 'closes-past',
      kind: 'error' as const,
      field: 'closes',
      message: 'It would close in the past.',
    };
    const { user, scheduled } = open({}, { findings: [error] });
    expect(screen.getAllByText('It would close in the past.')).toHaveLength(2);
    await user.click(button('Schedule'));
    expect(scheduled).toEqual([]);
    expect(button('Schedule').title).toMatch(/Before it can be scheduled/);
  });

  it('shows each student the time they really have, and arranges all that can differ for one', async () => {
    const longer = { ...noArrangement, extraPercent: 25 };
    const { user, arranged } = open(
      { timeLimit: 40 * minute, opens: now, closes: now + day },
      { audience: [student('Ada'), student('Bo', { arrangement: longer, standing: true })] },
      'scheduled',
    );
    const of = (name: string) => screen.getByText(name).closest('li')?.textContent ?? '';
    expect(of('Ada')).toContain('40 min');
    expect(of('Bo')).toContain('50 min, until 09:27');
    expect(screen.getByText('1 with an arrangement')).toBeTruthy();
    await user.click(button('Arrange for Bo'));
    await user.clear(field('more attempts'));
    await user.type(field('more attempts'), '1');
    fireEvent.change(field('Closes (own)'), { target: { value: '2026-03-10T12:00' } });
    await user.type(field('Own entry code'), 'anchor');
    await user.click(button('Save'));
    expect(arranged).toEqual([
      {
        extraPercent: 25,
        extraMinutes: 0,
        extraAttempts: 1,
        excused: false,
        opens: '',
        lastStart: '',
        due: '',
        closes: '2026-03-10T12:00',
        entryCode: 'anchor',
        networks: [],
      },
    ]);
  });

  it('given by link shows the link', () => {
    open({ attemptsAllowed: null }, { who: { kind: 'link' }, link: 'secret' });
    expect(screen.getByText('http://school.example/join/secret')).toBeTruthy();
  });
});

describe('what is typed for a share or a wait', () => {
  it('is read in percent or as a fraction', () => {
    expect(['25 %', '25', '1/4', '0', '12,5 %'].map(readShare)).toEqual([0.25, 0.25, 0.25, 0, 0.125]);
    expect(readShare('much')).toBeNaN();
  });

  it('is read with its unit', () => {
    expect(['20 min', '20', '4 h', '1.5 h', '1 d', '2 days'].map(readWait)).toEqual([20, 20, 240, 90, 1440, 2880]);
    expect(readWait('soon')).toBeNaN();
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
