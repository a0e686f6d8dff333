// @vitest-environment jsdom
import '../testing/dom';
import { render, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it, vi } from 'vitest';
import type { Instant } from '@/core/base/time';
import { oneGroup, usualGradebookRules } from '@/core/gradebook/gradebookRules';
import type { CellHistory } from '@/server/gradebook/entries';
import type { ColumnShown, Gradebook, GradebookRow } from '@/server/gradebook/gradebook';
import type { Workbench } from '@/server/gradebook/workbench';
import { BandsPage } from './BandsPage';
import { GradebookPage } from './GradebookPage';
import { type RulesCommands, RulesPage } from './RulesPage';

vi.mock('next/navigation', () => ({ useRouter: () => ({ refresh: () => undefined, push: () => undefined }) }));

const column = (id: string, more: Partial<ColumnShown> = {}): ColumnShown => ({
  id,
  title: id,
  kind: 'sitting',
  worth: 10,
  groupId: '',
  extraCredit: false,
  curve: null,
  late: null,
  ownWorth: null,
  usualWorth: 10,
  statistics: { n: 2, mean: 6, median: 6, deviation: 2, least: 4, most: 8 },
  ...more,
});
const row = (
  name: string,
  points: (number | null)[],
  marks: GradebookRow['marks'],
  more: Partial<GradebookRow> = {},
): GradebookRow => ({
  userId: name,
  name,
  studentNumber: null,
  section: null,
  hasLeft: false,
  points,
  entered: {},
  marks,
  total: points[0] === null ? null : (points[0] ?? 0) * 10,
  band: '',
  ...more,
});
const book: Gradebook = {
  courseName: 'C',
  rules: usualGradebookRules,
  groups: [],
  problems: [],
  columns: [column('Quiz'), column('Logbook', { kind: 'manual', ownWorth: 10, usualWorth: null })],
  rows: [
    row('Ada', [8, 5], { done: [0] }),
    row('Bo', [4, null], { changed: [0] }),
    row('Cy', [null, null], { missing: [0] }),
    row('Di', [null, 3], { excused: [0], dropped: [1] }),
  ],
  order: 'first',
  lastEntry: 0,
  total: null,
};
const ok = <T,>(value: T) => ({ ok: true as const, value });

describe('the gradebook', () => {
  const open = (history: Partial<CellHistory> = {}) => {
    const entered: unknown[] = [];
    render(
      <GradebookPage
        base="/c/1"
        book={book}
        commands={{
          gradebookSince: async () => ok({ columns: book.columns, rows: [], total: null, lastEntry: 0 }),
          cellHistory: async () =>
            ok({
              column: 'Logbook',
              student: 'Ada',
              kind: 'manual',
              worth: 10,
              entryId: 7,
              points: 5,
              excused: false,
              timeZone: 'UTC',
              changes: [{ at: 0, by: 'Tove', what: '5 entered', reason: 'first look', fallen: false }],
              ...history,
            }),
          setNameOrder: async () => ok(null),
          enterCells: async () => ok({ auditId: 1, entryIds: [1] }),
          undoChange: async () => ok(null as never),
          enterCell: async (columnId, userId, input) => {
            entered.push([columnId, userId, input]);
            return ok({ entryId: 8 });
          },
          explained: async () =>
            ok({
              student: 'Ada',
              percent: '80.0',
              band: '',
              parts: [{ heading: 'All columns', lines: ['Quiz: 8 of 10.'] }],
              trial: {
                columns: [{ ...column('Quiz'), taking: false }],
                groups: [oneGroup],
                rules: usualGradebookRules,
                cells: [{ kind: 'score', earned: 8, possible: 10 }],
                best: [],
              },
            }),
        }}
      />,
    );
    return { user: userEvent.setup(), entered };
  };
  const names = () =>
    screen
      .getAllByRole('rowheader')
      .map((one) => one.textContent)
      .filter((name) => /^(Ada|Bo|Cy|Di)$/.test(name ?? ''));

  it('says of each cell what it is, and what its sign means', () => {
    open();
    expect(screen.getByRole('gridcell', { name: 'Quiz of Bo: 4.0 of 10, changed since published' })).toBeTruthy();
    expect(screen.getByRole('gridcell', { name: 'Quiz of Ada: 8.0 of 10, done' })).toBeTruthy();
    expect(screen.getByRole('gridcell', { name: 'Quiz of Cy: missing' })).toBeTruthy();
    expect(screen.getByRole('gridcell', { name: 'Quiz of Di: excused' })).toBeTruthy();
    expect(screen.getByRole('gridcell', { name: 'Logbook of Di: 3.0 of 10, dropped' })).toBeTruthy();
  });

  it('shows those with something missing, changed or excused, and sorts by a column', async () => {
    const { user } = open();
    await user.selectOptions(screen.getByRole('combobox', { name: 'Show' }), 'missing');
    expect(names()).toEqual(['Cy']);
    await user.selectOptions(screen.getByRole('combobox', { name: 'Show' }), 'all');
    await user.click(screen.getByRole('button', { name: /^Quiz$/ }));
    expect(names().slice(0, 2)).toEqual(['Ada', 'Bo']);
  });

  it('is walked by arrow keys, and a cell opens with its history and takes what is entered', async () => {
    const { user, entered } = open();
    screen.getByRole('gridcell', { name: /^Total of Ada/ }).focus();
    await user.keyboard('{ArrowRight}{ArrowRight}{Enter}');
    expect(await screen.findByText('5 entered')).toBeTruthy();
    const field = screen.getByRole('textbox', { name: 'Points' });
    await user.clear(field);
    await user.type(field, 'six');
    await user.click(screen.getByRole('button', { name: 'Enter' }));
    expect(await screen.findByText('Give the points as a number.')).toBeTruthy();
    await user.clear(field);
    await user.type(field, '6,5');
    await user.type(screen.getByRole('textbox', { name: 'Reason' }), 'Counted anew');
    await user.click(screen.getByRole('button', { name: 'Enter' }));
    expect(entered).toEqual([
      ['Logbook', 'Ada', { points: 6.5, above: false, excused: false, reason: 'Counted anew', before: 7 }],
    ]);
  });

  it('shows which cell is open, and gives it the keys back once it is closed', async () => {
    const { user } = open();
    const cell = (name: RegExp) => screen.getByRole('gridcell', { name });
    await user.click(cell(/^Logbook of Ada/));
    expect(cell(/^Logbook of Ada/).getAttribute('aria-selected')).toBe('true');
    expect(screen.getAllByRole('gridcell', { selected: true })).toHaveLength(1);
    await screen.findByText('5 entered');
    await user.click(screen.getByRole('button', { name: 'Close' }));
    expect(document.activeElement).toBe(cell(/^Logbook of Ada/));
    await user.keyboard('{ArrowDown}{ArrowLeft} ');
    expect(cell(/^Quiz of Bo/).getAttribute('aria-selected')).toBe('true');
  });

  it('explains a total, and tries other numbers without keeping them', async () => {
    const { user, entered } = open();
    await user.click(screen.getByRole('gridcell', { name: /^Total of Ada/ }));
    expect(await screen.findByText('Quiz: 8 of 10.')).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Try other numbers' }));
    await user.type(screen.getByRole('textbox', { name: 'Quiz (of 10)' }), '5');
    expect(screen.getByText('Quiz: 5 of 10.')).toBeTruthy();
    expect(screen.getByText('50.0 %')).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Back to the record' }));
    expect(screen.getByText('Quiz: 8 of 10.')).toBeTruthy();
    expect(entered).toEqual([]);
  });
});

describe('the boundary workbench', () => {
  const bench: Workbench = {
    sittingId: 's',
    title: 'Quiz',
    bands: [
      { label: 'Good', from: 70, comment: '' },
      { label: 'Rest', from: 0, comment: '' },
    ],
    own: false,
    decimals: 1,
    results: [
      { userId: 'a', name: 'Ada', percent: 69 },
      { userId: 'b', name: 'Bo', percent: 90 },
    ],
    error: 2,
    whyNoError: '',
    sittings: [{ id: 's', title: 'Quiz' }],
  };
  it('shows who crosses as a boundary is moved by keys, and who lies so near that chance could decide', async () => {
    const kept: unknown[] = [];
    render(
      <BandsPage
        base="/c/1"
        bench={bench}
        commands={{
          saveNumbers: async (input) => {
            kept.push(input.rules?.bands);
            return ok(null);
          },
          saveSittingBands: async (_, bands) => {
            kept.push(bands);
            return ok(null);
          },
        }}
      />,
    );
    const user = userEvent.setup();
    expect(within(screen.getByRole('region', { name: 'A second look' })).getByText('Ada')).toBeTruthy();
    screen.getByRole('slider', { name: 'Boundary of Good' }).focus();
    await user.keyboard('{ArrowLeft}{ArrowLeft}');
    expect(screen.getByText('1 student crosses a boundary')).toBeTruthy();
    expect(screen.getByText('69.0 %: Rest → Good')).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Save the bands' }));
    expect(kept).toEqual([
      [
        { label: 'Good', from: 69, comment: '' },
        { label: 'Rest', from: 0, comment: '' },
      ],
    ]);
  });

  it('says a fault at its band and keeps nothing', async () => {
    const kept: unknown[] = [];
    render(
      <BandsPage
        base="/c/1"
        bench={bench}
        commands={{
          saveNumbers: async (input) => {
            kept.push(input.rules?.bands);
            return ok(null);
          },
          saveSittingBands: async (_, bands) => {
            kept.push(bands);
            return ok(null);
          },
        }}
      />,
    );
    const user = userEvent.setup();
    const [first] = screen.getAllByRole('textbox', { name: 'from %' });
    await user.clear(first as HTMLElement);
    await user.type(first as HTMLElement, '0');
    expect(screen.getByText(/begin at the same boundary of 0 %/)).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Save the bands' }));
    expect(kept).toEqual([]);
  });
});

describe('columns and weights', () => {
  const open = (more: Partial<RulesCommands> = {}) => {
    const sent: [string, unknown][] = [];
    const take =
      (name: string) =>
      async (...input: unknown[]) => {
        sent.push([name, input]);
        return ok(null);
      };
    render(
      <>
        <a href="/c/1/people">People</a>
        <RulesPage
          base="/c/1"
          book={{ ...book, groups: [{ ...oneGroup, id: 'g', title: 'Tests', weight: 60 }] }}
          history={{
            timeZone: 'UTC',
            changes: [
              { id: 2, at: 0 as Instant, by: 'Ingrid', said: ['Group “Tests”, weight: 60, before 50.'] },
              { id: 1, at: 0 as Instant, by: 'Mateus', said: ['Column “Quiz” added: worth 10 points.'] },
            ],
          }}
          commands={{
            saveNumbers: take('keep'),
            addColumn: async (input) => {
              sent.push(['new', input]);
              return ok({ columnId: 'n' });
            },
            removeColumn: take('take'),
            moveColumn: take('place'),
            withOtherNumbers: async (input) => {
              sent.push(['try', input]);
              return ok({
                before: { mean: 60, bands: {} },
                after: { mean: 62.5, bands: {} },
                moved: 3,
                crossing: [{ name: 'Ada', from: 'Good', to: 'Rest' }],
              });
            },
            ...more,
          }}
        />
      </>,
    );
    return { user: userEvent.setup(), sent, kept: () => sent.filter(([name]) => name !== 'try') };
  };

  it('are changed together, worked out as they change, and kept at once', async () => {
    const { user, sent, kept } = open();
    expect(screen.getByText(/The weights sum to 60, not to 100/)).toBeTruthy();
    expect(screen.queryByRole('region', { name: 'Changes not kept yet' })).toBeNull();
    await user.click(screen.getByRole('button', { name: 'Add a group' }));
    const titles = screen.getAllByRole('textbox', { name: 'Title' });
    await user.type(titles[1] as HTMLElement, 'Practice');
    await user.click(screen.getByRole('button', { name: 'Whether Quiz is extra credit: asked of everyone' }));
    await user.click(await screen.findByRole('radio', { name: /extra credit: earned on top/ }));
    await user.click(screen.getByRole('button', { name: 'Curve of Quiz: no curve' }));
    await user.click(await screen.findByRole('button', { name: /Make the best score full/ }));
    await user.click(screen.getByRole('button', { name: 'Worth of Quiz: 10 points' }));
    const worth = await screen.findByRole('textbox', { name: 'Worth, in points' });
    await user.clear(worth);
    await user.type(worth, '12{Enter}');
    expect(await screen.findByText(/from 60.0 % to 62.5 %; 3 totals move, 1 student gets another band/)).toBeTruthy();
    expect(kept()).toEqual([]);
    const numbers = {
      groups: [
        { id: 'g', title: 'Tests', weight: 60, drop: 0 },
        { id: '', title: 'Practice', weight: 40 },
      ],
      columns: { Quiz: { extraCredit: true, curve: { kind: 'to-maximum' }, worth: 12 } },
    };
    await waitFor(() => expect(sent.at(-1)).toMatchObject(['try', numbers]));
    await user.click(screen.getByRole('button', { name: 'Save the changes' }));
    expect(kept()).toMatchObject([['keep', [numbers, { groups: [{ id: 'g' }] }]]]);
    expect(await screen.findByText('The changes are kept.')).toBeTruthy();
    expect(screen.queryByRole('region', { name: 'Changes not kept yet' })).toBeNull();
  });

  it('say what was changed before, by whom', () => {
    open();
    const history = screen.getByText(/^What was changed here, 2 times, last on Thu 1 Jan 1970/).closest('details');
    expect([...(history?.querySelectorAll('li') ?? [])].map((one) => one.textContent)).toEqual([
      'Group “Tests”, weight: 60, before 50.Ingrid, Thu 1 Jan 1970, 00:00',
      'Column “Quiz” added: worth 10 points.Mateus, Thu 1 Jan 1970, 00:00',
    ]);
  });

  it('go back to what they were, and are not lost by following a link', async () => {
    const { user, kept } = open();
    await user.click(screen.getByRole('button', { name: 'Decimals: 1 decimal' }));
    await user.click(await screen.findByRole('radio', { name: '2 decimals' }));
    await user.click(screen.getByRole('link', { name: 'People' }));
    expect(await screen.findByText('Leave without keeping?')).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Not now' }));
    await user.click(screen.getByRole('button', { name: 'Leave it as it was' }));
    expect(screen.getByRole('button', { name: 'Decimals: 1 decimal' })).toBeTruthy();
    expect(kept()).toEqual([]);
  });

  it('say a fault at its field while it is typed', async () => {
    const { user } = open({
      withOtherNumbers: async () => ({
        ok: false,
        problems: [{ code: 'bad-input', field: 'groups.0.weight', message: 'A number from 0 up.' }],
      }),
    });
    await user.type(screen.getByRole('textbox', { name: 'Weight, %' }), 'x');
    expect(await screen.findByText('A number from 0 up.')).toBeTruthy();
    expect(screen.getByText('Not kept yet.')).toBeTruthy();
  });
});
