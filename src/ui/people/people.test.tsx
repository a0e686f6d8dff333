// @vitest-environment jsdom
import '../testing/dom';
import { fireEvent, render, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it, vi } from 'vitest';
import { refused } from '@/core/base/result';
import type { People } from '@/server/people/roster';
import { ChoosePassword } from './ChoosePassword';
import type { PeopleCommands, Person } from './model';
import { PeoplePage } from './PeoplePage';

const refresh = vi.fn();
const router = { refresh };
vi.mock('next/navigation', () => ({ useRouter: () => router }));

const ok = async <T,>(value: T) => ({ ok: true as const, value });
const person = (name: string, more: Partial<Person> = {}): Person => ({
  membershipId: `m ${name}`,
  userId: name,
  name,
  lastName: '',
  email: `${name.toLowerCase().replace(' ', '.')}@x.example`,
  signInName: null,
  role: 'student',
  section: null,
  sectionId: null,
  studentNumber: null,
  extraPercent: 0,
  cameIn: true,
  slowed: false,
  ...more,
});

function open(all: Partial<People> = {}, more: Partial<PeopleCommands> = {}) {
  const asked: unknown[][] = [];
  const noting =
    <T,>(name: string, value: T) =>
    async (...sent: unknown[]) => {
      asked.push([name, ...sent]);
      return ok(value);
    };
  const commands = {
    changePerson: noting('changePerson', { offered: false }),
    typePeople: noting('typePeople', { auditId: 9 }),
    undoChange: noting('undoChange', { said: '' }),
    bringBack: noting('bringBack', null),
    letTryAgain: noting('letTryAgain', null),
    offerAgain: noting('offerAgain', { slips: [], refused: [] }),
    withdrawOffer: noting('withdrawOffer', null),
    setNameOrder: noting('setNameOrder', null),
    inviteAgain: noting('inviteAgain', { slips: [], refused: [] }),
    ...more,
  } as unknown as PeopleCommands;
  render(
    <PeoplePage
      base="/c/1/people"
      course="Knots"
      timeZone="UTC"
      all={{ people: [person('Ada Lund')], offers: [], former: [], sections: [], order: 'first', ...all }}
      commands={commands}
    />,
  );
  return { user: userEvent.setup(), asked };
}

describe('the people of a course', () => {
  it('without an email are told by what they sign in with', () => {
    open({ people: [person('Bo Ek', { email: null, signInName: '1002' })] });
    expect(screen.getByRole('row', { name: /Bo Ek/ }).textContent).toContain('1002');
  });

  it('are mended in their row, and what is wrong is said at its field', async () => {
    const { user } = open(
      { people: [person('Bo Ek', { email: null, signInName: '1002' })] },
      { changePerson: async () => refused('bad-input', 'Whoever is marker needs an email.', 'email') },
    );
    await user.click(screen.getByRole('button', { name: 'Change Bo Ek' }));
    await user.selectOptions(screen.getByRole('combobox', { name: 'Role of Bo Ek' }), 'marker');
    await user.click(screen.getByRole('button', { name: 'Save' }));
    const email = screen.getByRole('textbox', { name: 'Email of Bo Ek' });
    expect(email.getAttribute('aria-invalid')).toBe('true');
    expect(email.parentElement?.textContent).toContain('Whoever is marker needs an email.');
    // What was chosen stays.
    expect((screen.getByRole('combobox', { name: 'Role of Bo Ek' }) as HTMLSelectElement).value).toBe('marker');
  });

  it('send along only what is theirs: a last name that nobody has said stays unsaid', async () => {
    const { user, asked } = open();
    await user.click(screen.getByRole('button', { name: 'Change Ada Lund' }));
    await user.click(screen.getByRole('button', { name: 'Save' }));
    expect(asked[0]).toMatchObject(['changePerson', 'm Ada Lund', { name: 'Ada Lund', lastName: '', signInName: '' }]);
  });

  it('who were slowed down by wrong passwords may try again', async () => {
    const { user, asked } = open({ people: [person('Ada Lund', { slowed: true })] });
    await user.click(screen.getByRole('button', { name: 'Let Ada Lund try again at once' }));
    expect(asked).toEqual([['letTryAgain', 'm Ada Lund']]);
    expect(screen.getByText('Ada Lund may try again at once.')).toBeTruthy();
  });

  it('who have left are a list of their own, and come back from it', async () => {
    const { user, asked } = open({
      former: [{ membershipId: 'm Cy', name: 'Cy Moe', role: 'student', section: 'B', leftAt: 0 }],
    });
    await user.selectOptions(screen.getByRole('combobox', { name: 'Show' }), 'former');
    expect(screen.queryByText('Ada Lund')).toBeNull();
    expect(screen.getByRole('row', { name: /Cy Moe/ }).textContent).toContain('Thu 1 Jan 1970');
    await user.click(screen.getByRole('button', { name: 'Bring Cy Moe back' }));
    expect(asked).toEqual([['bringBack', 'm Cy']]);
  });

  it('who are asked to be more stand above, until they say so or are asked no longer', async () => {
    const { user, asked } = open({
      offers: [{ offerId: 'o', userId: 'u', name: 'Col League', email: 'c@x.example', role: 'marker', offeredAt: 0 }],
    });
    const waiting = screen.getByRole('region', { name: 'Asked, and not answered yet' });
    expect(waiting.textContent).toContain('Col League, to be marker');
    await user.click(within(waiting).getByRole('button', { name: 'Address for Col League' }));
    // While the one is under way the other waits.
    await vi.waitFor(async () => {
      if (asked.length < 2) await user.click(within(waiting).getByRole('button', { name: 'No longer ask Col League' }));
      expect(asked).toEqual([
        ['offerAgain', 'o'],
        ['withdrawOffer', 'o'],
      ]);
    });
  });

  it('stand under their last names when asked for', async () => {
    const { user, asked } = open({ order: 'last' });
    expect(screen.getByText('Lund, Ada')).toBeTruthy();
    await user.selectOptions(screen.getByRole('combobox', { name: 'Names' }), 'first');
    expect(asked).toEqual([['setNameOrder', 'first']]);
  });

  it('of a list in two unnamed columns are turned round by a word', async () => {
    const looks: unknown[][] = [];
    const preview = (halves: 'first-name' | 'last-name') => ({
      ready: [{ line: 1, name: 'Max Mueller', lastName: 'Mueller', email: '', studentNumber: '1', section: '' }],
      bad: [],
      newSections: [],
      halves,
      unread: [],
      problem: null,
      key: 'k',
    });
    const { user } = open({}, {
      previewRoster: async (...sent: unknown[]) => {
        looks.push(sent);
        return ok(preview(sent[1] === 'first-name' ? 'first-name' : 'last-name'));
      },
    } as unknown as Partial<PeopleCommands>);
    await user.click(screen.getByRole('button', { name: 'Add a class list' }));
    await user.type(screen.getByRole('textbox', { name: /Paste the list/ }), 'Mueller, Max, 1');
    await user.click(screen.getByRole('button', { name: 'Preview' }));
    expect(screen.getByText(/last name, then first name/)).toBeTruthy();
    expect(screen.getByText(/1 row has no email/)).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'It is the other way round' }));
    expect(looks.at(-1)).toEqual(['Mueller, Max, 1', 'first-name']);
    expect(screen.getByText(/first name, then last name/)).toBeTruthy();
  });
});

describe('an address that offers a part', () => {
  it('is taken up with the password one has, or with a new one', async () => {
    const accepted: unknown[][] = [];
    render(
      <ChoosePassword
        person={{
          name: 'Bo',
          signsInAs: 'bo@x.example',
          hasPassword: true,
          offer: { id: 'o', courseId: 'c', courseName: 'Knots', role: 'marker', by: 'Tove' },
        }}
        accept={async (...sent) => {
          accepted.push(sent);
          return refused('not-allowed', 'This is not the password of this account.', 'password');
        }}
      />,
    );
    const user = userEvent.setup();
    expect(screen.getByText(/Tove asks you to be/).textContent).toBe('Tove asks you to be marker in Knots.');
    await user.type(screen.getByLabelText('Your password'), 'mine');
    await user.click(screen.getByRole('button', { name: 'Say yes and enter' }));
    expect(screen.getByText('This is not the password of this account.')).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'I do not know a password of this account' }));
    await user.type(screen.getByLabelText('New password'), 'a new one of mine');
    await user.click(screen.getByRole('button', { name: 'Set the password and enter' }));
    expect(accepted).toEqual([
      ['mine', 'have'],
      ['a new one of mine', 'new'],
    ]);
  });
});

describe('cells of people', () => {
  const people = [
    person('Ada Lund', { section: 'Evening', studentNumber: '1001' }),
    person('Bo Ek', { studentNumber: '1002', extraPercent: 25 }),
    person('Cy Falk'),
  ];
  const sections = [{ id: 's1', name: 'Evening', students: 1 }];
  const cell = (name: string) => screen.getByRole('gridcell', { name: new RegExp(`^${name}`) });
  const typed = (asked: unknown[][]) =>
    asked
      .filter(([name]) => name === 'typePeople')
      .map(([, input]) => {
        const { cells, newSections } = input as {
          cells: { membershipId: string; cell: string; text: string; before: string }[];
          newSections: boolean;
        };
        return [newSections, ...cells.map((one) => [one.membershipId.slice(2), one.cell, one.text, one.before])];
      });

  it('are typed into like a sheet: typing replaces, Enter goes down, Tab to the right, Ctrl+Z takes back', async () => {
    const { user, asked } = open({ people, sections });
    cell('Extra time of Ada Lund').focus();
    await user.keyboard('50{Enter}');
    expect(document.activeElement).toBe(cell('Extra time of Bo Ek'));
    await user.keyboard('{F2}');
    expect((screen.getByRole('textbox', { name: 'Extra time of Bo Ek' }) as HTMLInputElement).value).toBe('25');
    await user.keyboard('{Escape}');
    cell('Section of Bo Ek').focus();
    await user.keyboard('Evening{Tab}1077{Enter}');
    expect(document.activeElement).toBe(cell('Student number of Cy Falk'));
    await waitFor(() =>
      expect(typed(asked)).toEqual([
        [false, ['Ada Lund', 'extraPercent', '50', '']],
        [false, ['Bo Ek', 'section', 'Evening', '']],
        [false, ['Bo Ek', 'studentNumber', '1077', '1002']],
      ]),
    );
    expect(await screen.findByText('Student number of Bo Ek: 1077.')).toBeTruthy();
    expect([cell('Extra time of Ada Lund').textContent, cell('Student number of Bo Ek').textContent]).toEqual([
      '+50 %',
      '1077',
    ]);
    await user.keyboard('{Control>}z{/Control}');
    await waitFor(() => expect(asked.at(-1)).toEqual(['undoChange', 9]));
    await user.dblClick(cell('Section of Ada Lund'));
    expect((screen.getByRole('combobox', { name: 'Section of Ada Lund' }) as HTMLInputElement).value).toBe('Evening');
  });

  it('ask about a section that there is not yet, and refuse a number that somebody has', async () => {
    const { user, asked } = open({ people, sections });
    cell('Section of Cy Falk').focus();
    await user.keyboard('evening{Enter}');
    expect(screen.getByRole('alert').textContent).toBe(
      'There is no section “evening” yet, but “Evening”. Enter once more if it is meant.',
    );
    await user.keyboard('{Enter}');
    await waitFor(() => expect(typed(asked)).toEqual([[true, ['Cy Falk', 'section', 'evening', '']]]));
    cell('Student number of Cy Falk').focus();
    await user.keyboard('1001{Enter}');
    expect(screen.getByRole('alert').textContent).toBe('Ada Lund has the student number 1001.');
    await user.keyboard('{Escape}');
    cell('Extra time of Cy Falk').focus();
    await user.keyboard('lots{Enter}');
    expect(screen.getByRole('alert').textContent).toBe('“lots” is no whole number of percent, like 25.');
    expect(asked.filter(([name]) => name === 'typePeople')).toHaveLength(1);
  });

  it('are pasted over with a look first; numbers may change hands', async () => {
    const { user, asked } = open({ people, sections });
    const column = '1002\tx\tall\n1001\t\t12\n1001\n\n9';
    fireEvent.paste(cell('Student number of Ada Lund'), { clipboardData: { getData: () => column } });
    const dialog = await screen.findByRole('dialog', { name: '7 cells pasted' });
    const rows = within(dialog)
      .getAllByRole('row')
      .slice(1)
      .map((one) => one.textContent);
    expect(rows).toEqual([
      'Ada LundName to sign in withThe name to sign in with is set under “Change”.',
      'Ada LundExtra time“all” is no whole number of percent, like 25.',
      'Bo EkStudent number1002Cy Falk has the student number 1001.',
      'Cy FalkStudent numberBo Ek has the student number 1001.',
      'Ada LundStudent number10011002',
      'Bo EkExtra time2512',
    ]);
    expect(dialog.textContent).toContain('4 cells cannot be entered; 1 cell found no person or column.');
    await user.click(within(dialog).getByRole('button', { name: 'Not now' }));
    fireEvent.paste(cell('Student number of Ada Lund'), { clipboardData: { getData: () => '1002\n1001' } });
    await user.click(await screen.findByRole('button', { name: 'Enter 2 cells' }));
    await waitFor(() =>
      expect(typed(asked)).toEqual([
        [true, ['Ada Lund', 'studentNumber', '1002', '1001'], ['Bo Ek', 'studentNumber', '1001', '1002']],
      ]),
    );
  });

  it('show what somebody else has done there meanwhile, beside what was typed', async () => {
    const { user } = open(
      { people, sections },
      { typePeople: async () => refused('conflict', 'Cy Falk, extra time: this cell has been changed meanwhile.') },
    );
    refresh.mockClear();
    cell('Extra time of Cy Falk').focus();
    await user.keyboard('50{Enter}');
    const unsent = await screen.findByRole('region', { name: 'Not saved' });
    expect(unsent.textContent).toContain('this cell has been changed meanwhile.');
    expect(refresh).toHaveBeenCalledOnce();
    expect(cell('Extra time of Cy Falk').textContent).toBe('+50 %');
    await user.click(screen.getByRole('button', { name: 'Give it up' }));
    expect(cell('Extra time of Cy Falk').textContent).toBe('');
  });

  it('say why something is not taken back', async () => {
    const { user } = open(
      { people, sections },
      { undoChange: async () => refused('conflict', 'Cy Falk has been changed since.') },
    );
    cell('Extra time of Cy Falk').focus();
    await user.keyboard('50{Enter}');
    await user.click(await screen.findByRole('button', { name: 'Undo' }));
    expect(await screen.findByText('Cy Falk has been changed since.')).toBeTruthy();
    expect(screen.queryByRole('region', { name: 'Not saved' })).toBeNull();
  });

  it('are kept where the server is not reached, and said', async () => {
    refresh.mockClear();
    const { user } = open(
      { people, sections },
      {
        typePeople: async () => {
          throw new Error('no network');
        },
      },
    );
    cell('Section of Cy Falk').focus();
    await user.keyboard('Evening{Enter}');
    expect((await screen.findByRole('region', { name: 'Not saved' })).textContent).toContain(
      '1 cell typed here is not saved',
    );
    expect(cell('Section of Cy Falk').textContent).toBe('Evening');
    // Without a network the page is not asked for: it could not come.
    expect(refresh).not.toHaveBeenCalled();
  });
});
