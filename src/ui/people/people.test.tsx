// @vitest-environment jsdom
import '../testing/dom';
import { render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it, vi } from 'vitest';
import { refused } from '@/core/base/result';
import type { People } from '@/server/people/roster';
import { ChoosePassword } from './ChoosePassword';
import type { PeopleCommands, Person } from './model';
import { PeoplePage } from './PeoplePage';

vi.mock('next/navigation', () => ({ useRouter: () => ({ refresh: () => undefined }) }));

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
    await user.selectOptions(screen.getByRole('combobox', { name: 'Part of Bo Ek' }), 'marker');
    await user.click(screen.getByRole('button', { name: 'Save' }));
    const email = screen.getByRole('textbox', { name: 'Email of Bo Ek' });
    expect(email.getAttribute('aria-invalid')).toBe('true');
    expect(email.parentElement?.textContent).toContain('Whoever is marker needs an email.');
    // What was chosen stays.
    expect((screen.getByRole('combobox', { name: 'Part of Bo Ek' }) as HTMLSelectElement).value).toBe('marker');
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
    await user.click(within(waiting).getByRole('button', { name: 'No longer ask Col League' }));
    expect(asked).toEqual([
      ['offerAgain', 'o'],
      ['withdrawOffer', 'o'],
    ]);
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
