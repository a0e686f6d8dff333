// @vitest-environment jsdom
import '../testing/dom';
import { cleanup, fireEvent, render, screen, within } from '@testing-library/react';
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
          isRound: false,
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
          if (input.title === 'refused')
            return { ok: false, problems: [{ code: 'bad-input', field: 'title', message: 'Not this title.' }] };
          return { ok: true, value: null };
        },
        callOffSitting: async () => {
          kept.push('called off');
          return { ok: true, value: { told: 2 } };
        },
        redraftSitting: async () => ({ ok: true, value: null }),
        removeSitting: async () => {
          kept.push('removed');
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
        makeUp: async (userId, input) => {
          arranged.push({ userId, ...input });
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
  it('takes opening, closing and limit in one row: a moment when its field is left, never half of one', async () => {
    const { sent, user } = open();
    fireEvent.change(field('Opens'), { target: { value: '2026-03-28T13:30' } });
    expect(sent).toEqual([]);
    fireEvent.blur(field('Opens'));
    await user.click(button('a day after it opens'));
    expect(field('Closes').value).toBe('Sun 29 Mar 2026, 13:30');
    await user.type(field('Minutes from the start'), '45{Enter}');
    await user.clear(field('Minutes from the start'));
    await user.type(field('Minutes from the start'), 'soon{Enter}');
    expect(screen.getByText('A whole number of minutes, or nothing for no limit.')).toBeTruthy();
    expect(sent).toEqual([{ opens: '2026-03-28T13:30' }, { closes: '2026-03-29T13:30' }, { timeLimitMinutes: 45 }]);
  });

  it('without an opening offers to close a week from now, at a full hour; nothing changes until it is taken', async () => {
    const { user, sent } = open();
    expect(sent).toEqual([]);
    await user.click(button('in a week'));
    expect(sent).toEqual([{ closes: '2026-03-09T10:00' }]);
  });

  it('a time that the clocks skip is refused at its field, and one that comes twice says which it is', () => {
    const { sent } = open({}, { timeZone: 'Europe/Oslo' });
    fireEvent.change(field('Opens'), { target: { value: '2026-03-29T02:30' } });
    fireEvent.blur(field('Opens'));
    expect(screen.getByText(/there is no 02:30. The time after the change is 03:30/)).toBeTruthy();
    expect(sent).toEqual([]);
    fireEvent.change(field('Opens'), { target: { value: '2026-10-25T02:30' } });
    fireEvent.blur(field('Opens'));
    expect(screen.getByText('Sun 25 Oct 2026, 02:30 (after the clocks have gone back)')).toBeTruthy();
  });

  it('never shows a rule as set that was refused: it stays typed where it is mended, and nothing is scheduled over it', async () => {
    const { user, sent, scheduled } = open();
    await user.click(button(/^Networks: /));
    await user.type(field('Networks'), '10.1.0.0/33');
    await user.click(button('Set'));
    expect(screen.getByText('“10.1.0.0/33” is not a network range such as 10.1.0.0/16.')).toBeTruthy();
    expect(field('Networks').value).toBe('10.1.0.0/33');
    expect(sent).toEqual([]);
    await user.keyboard('{Escape}');
    expect(button('Networks: from anywhere')).toBeTruthy();
    await user.click(button('Title: Knots'));
    await user.clear(field('Title'));
    await user.type(field('Title'), 'refused');
    await user.click(button('Set'));
    expect(await screen.findByText('Not this title.')).toBeTruthy();
    expect(button('Title: Knots')).toBeTruthy();
    await user.click(button('Schedule'));
    expect(scheduled).toEqual([]);
    await user.click(button('Leave it so'));
    await user.click(button('Schedule'));
    expect(scheduled).toHaveLength(1);
  });

  it('days on which it is shut are picked, said as days, and taken out again', async () => {
    const { user, sent } = open();
    await user.click(button('Days on which it is shut: no day is shut'));
    fireEvent.change(field('A day'), { target: { value: '2026-12-25' } });
    await user.click(button('Add it'));
    expect(sent.at(-1)).toMatchObject({ further: { shutDays: ['2026-12-25'] } });
    await user.click(button('Take out: Fri 25 Dec 2026'));
    expect(sent.at(-1)).toMatchObject({ further: { shutDays: [] } });
  });

  it('by keyboard the arrows walk through what can be picked, and Enter sets it', async () => {
    const { user, sent } = open();
    button('How students move: anywhere on their paper').focus();
    await user.keyboard('{Enter}');
    (await screen.findByLabelText('anywhere on their paper')).focus();
    await user.keyboard('{ArrowDown}');
    expect(sent).toEqual([]);
    expect(screen.getByText('Enter sets it, Escape leaves it.')).toBeTruthy();
    await user.keyboard('{Enter}');
    expect(sent).toMatchObject([{ further: { onwardOnly: true } }]);
  });

  it('is called off with a word to whoever was told, after being asked; a draft is removed', async () => {
    const first = open({ opens: now + day }, { phase: 'coming' }, 'scheduled');
    await first.user.click(button('Call it off'));
    expect(screen.getByText(/2 students are told that it does not take place/)).toBeTruthy();
    expect(first.kept).toEqual([]);
    await first.user.click(within(screen.getByRole('dialog')).getByRole('button', { name: 'Call it off' }));
    expect(await screen.findByText('It is called off, and 2 students have been told.')).toBeTruthy();
    cleanup();
    const { user, kept } = open();
    await user.click(button('Remove'));
    await user.click(button('Remove it'));
    expect(kept).toEqual(['removed']);
  });

  it('that was begun cannot be called off, and says why', async () => {
    const { user, kept } = open({}, { audience: [student('Ada', { attempts: 1 })] }, 'scheduled');
    await user.click(button('Call it off'));
    expect(button('Call it off').title).toContain('It has been begun');
    expect(kept).toEqual([]);
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
    await user.clear(field('Minutes from the start'));
    await user.type(field('Minutes from the start'), '50{Enter}');
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

  it('gives who was ill a make-up by a typed day, in three steps, and says what stays', async () => {
    const longer = { ...noArrangement, extraPercent: 25 };
    const { user, arranged } = open(
      { timeLimit: 40 * minute, opens: now, closes: now + day },
      { audience: [student('Ada', { attempts: 1 }), student('Bo', { arrangement: longer })] },
      'scheduled',
    );
    expect(screen.queryByRole('button', { name: 'Was ill: Ada' })).toBeNull();
    await user.click(button('Was ill: Bo'));
    const form = within(screen.getByRole('form', { name: 'Make-up for Bo' }));
    expect(form.getByText(/with 25 % more time as arranged; what was missed does not count as 0/)).toBeTruthy();
    await user.type(form.getByLabelText('Writes on'), '10.3.2030 14:30{Enter}');
    expect(arranged).toEqual([{ userId: 'Bo', opens: '2030-03-10T14:30', closes: '', entryCode: '' }]);
    expect(await screen.findByText(/Bo writes later and is told/)).toBeTruthy();
    await user.click(button('Was ill: Bo'));
    await user.click(button('The day is not known yet'));
    expect(arranged[1]).toMatchObject({ userId: 'Bo', opens: '' });
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
          { ...row, id: 'a', title: 'Knots', isRound: false, phase: 'open' },
          { ...row, id: 'b', title: 'Tides', isRound: false, phase: 'coming' },
        ]}
      />,
    );
    const table = within(screen.getByRole('table'));
    expect(table.getByRole('link', { name: 'Results of Knots' }).getAttribute('href')).toBe('/c/1/sittings/a/results');
    expect(table.queryByRole('link', { name: 'Results of Tides' })).toBeNull();
  });
});
