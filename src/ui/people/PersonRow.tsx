'use client';
import { useState } from 'react';
import type { Result } from '@/core/base/result';
import { lastNameOf, type NameOrder, nameInList } from '@/core/people/names';
import { type PersonCell, personCellNames, personCellText } from '@/core/people/personCells';
import { type Role, roles } from '@/core/people/policy';
import { CellField } from '../cells/CellField';
import type { TypedCells, Typing } from '../cells/useTypedCells';
import { Button } from '../kit/Button';
import type { InputOf } from '../kit/commands';
import { inputShape } from '../kit/Field';
import { Problems, problemAt, problemsBesides } from '../kit/Problems';
import { tableRow } from '../kit/RowTable';
import { TextButton } from '../kit/TextButton';
import { usePerform } from '../kit/usePerform';
import type { Person } from './model';
import { shownPersonCell } from './usePeopleCells';

/** The id of the list of sections, which a field for one offers. */
export const knownSections = 'known-sections';

type Props = {
  person: Person;
  busy: boolean;
  change: (input: InputOf<'changePerson'>) => Promise<Result<{ offered: boolean }>>;
  /** It was changed; or the part they are to have was offered to them. */
  onChanged: (offered: Role | null) => void;
  order: NameOrder;
  /** Lets them try another password at once. */
  onTryAgain: () => void;
  /** Makes a new address at which they choose a password. */
  onInvite: () => void;
  onRemove: () => void;
  cells: Pick<TypedCells, 'typing' | 'texts' | 'end'>;
  /** Whether it is the one that the keys come to. */
  first: boolean;
};

const fields = ['name', 'lastName', 'role', 'email', 'signInName', 'section', 'studentNumber', 'extraPercent'];
type Field = 'name' | 'lastName' | 'email' | 'signInName' | 'section' | 'studentNumber' | 'extraPercent';

/** A person; what is known of them is changed in place. */
export function PersonRow({
  person,
  order,
  busy,
  change,
  onChanged,
  onTryAgain,
  onInvite,
  onRemove,
  cells,
  first,
}: Props) {
  const [editing, setEditing] = useState<(Record<Field, string> & { role: Role }) | null>(null);
  const { perform, problems, busy: saving } = usePerform();
  const begin = () =>
    setEditing({
      name: person.name,
      lastName: person.lastName,
      role: person.role,
      email: person.email ?? '',
      signInName: person.signInName ?? '',
      section: person.section ?? '',
      studentNumber: person.studentNumber ?? '',
      extraPercent: String(person.extraPercent),
    });
  const save = async () => {
    if (!editing) return;
    await perform(
      () => change({ ...editing, extraPercent: Number(editing.extraPercent) }),
      ({ offered }) => {
        setEditing(null);
        onChanged(offered ? editing.role : null);
      },
    );
  };
  const wrong = (name: Field | 'role') => {
    const problem = problemAt(problems, name);
    return problem && <span className="block text-sm whitespace-normal text-brick">{problem}</span>;
  };
  const field = (name: Field, label: string, shown = '') =>
    editing && (
      <>
        <input
          aria-invalid={problemAt(problems, name) ? true : undefined}
          placeholder={shown}
          title={shown}
          aria-label={`${label} of ${person.name}`}
          list={name === 'section' ? knownSections : undefined}
          value={editing[name]}
          onChange={(event) => setEditing({ ...editing, [name]: event.target.value })}
          onKeyDown={(event) => {
            if (event.key === 'Enter') void save();
            if (event.key === 'Escape') setEditing(null);
          }}
          className={`${inputShape} ${name === 'extraPercent' ? 'max-w-20 text-right' : ''}`}
        />
        {wrong(name)}
      </>
    );
  const cell = (column: PersonCell) => (
    <PersonCellShown
      column={column}
      person={person}
      typing={cells.typing?.row === person.membershipId && cells.typing.column === column ? cells.typing : null}
      typed={cells.texts.get(person.membershipId)?.[column] ?? null}
      onEnd={cells.end}
      first={first && column === 'section'}
    />
  );
  return (
    <tr className={tableRow} data-row={person.membershipId}>
      <td className="py-1 font-medium">
        {field('name', 'Name', 'Name') || nameInList(person, order)}
        {field('lastName', 'Last name', `Sorted under ${lastNameOf({ name: editing?.name ?? '', lastName: '' })}`)}
        {!editing && !person.cameIn && <span className="block text-sm font-normal text-ink-2">not come in yet</span>}
        {!editing && person.slowed && (
          <span className="block text-sm font-normal text-saffron">
            wrong passwords{' '}
            <TextButton onClick={onTryAgain} aria-label={`Let ${person.name} try again at once`}>
              let try again
            </TextButton>
          </span>
        )}
      </td>
      <td className="text-ink-2">
        {editing ? (
          <>
            <select
              aria-label={`Role of ${person.name}`}
              className={inputShape}
              value={editing.role}
              onChange={(event) => setEditing({ ...editing, role: event.target.value as Role })}
            >
              {roles.map((role) => (
                <option key={role}>{role}</option>
              ))}
            </select>
            {wrong('role')}
          </>
        ) : (
          person.role
        )}
      </td>
      {editing ? <td>{field('section', 'Section')}</td> : cell('section')}
      {editing ? <td>{field('studentNumber', 'Student number')}</td> : cell('studentNumber')}
      <td className="wrap-anywhere text-ink-2">
        {field('email', 'Email', 'Email')}
        {field('signInName', 'Name to sign in with', 'Or a name to sign in with')}
        {!editing &&
          (person.email ? (
            <>
              {person.email.split('@')[0]}
              <wbr />@{person.email.split('@')[1]}
            </>
          ) : (
            person.signInName
          ))}
      </td>
      {editing ? (
        <td className="text-right tabular-nums">{field('extraPercent', 'Extra time in percent')}</td>
      ) : (
        cell('extraPercent')
      )}
      <td className="text-right whitespace-nowrap">
        {editing ? (
          <>
            <span className="inline-flex gap-1 py-1">
              <Button look="main" disabled={saving} onClick={() => void save()}>
                Save
              </Button>
              <Button onClick={() => setEditing(null)}>Cancel</Button>
            </span>
            <Problems problems={problemsBesides(problems, fields)} />
          </>
        ) : (
          <span className="text-sm">
            <TextButton className="px-1.5" onClick={begin} aria-label={`Change ${person.name}`}>
              Change
            </TextButton>
            <TextButton
              className="px-1.5"
              disabled={busy}
              onClick={onInvite}
              aria-label={`New address for ${person.name}`}
            >
              Address
            </TextButton>
            <button
              type="button"
              className="px-1.5 text-ink-2 underline hover:text-brick"
              disabled={busy}
              onClick={onRemove}
              aria-label={`Take out ${person.name}`}
            >
              Take out
            </button>
          </span>
        )}
      </td>
    </tr>
  );
}

type CellProps = {
  column: PersonCell;
  person: Person;
  typing: Typing | null;
  /** What was typed there and the page does not show yet. */
  typed: string | null;
  onEnd: TypedCells['end'];
  first: boolean;
};

/** A cell that is typed into. */
function PersonCellShown({ column, person, typing, typed, onEnd, first }: CellProps) {
  const isNumber = column === 'extraPercent';
  const name = personCellNames[column];
  const label = `${name.charAt(0).toUpperCase()}${name.slice(1)} of ${person.name}`;
  const text = shownPersonCell(column, typed ?? personCellText(column, person));
  return (
    <td
      // biome-ignore lint/a11y/noNoninteractiveElementToInteractiveRole: a cell of a grid is walked to by keys
      role="gridcell"
      data-cell={column}
      data-typed=""
      tabIndex={first ? 0 : -1}
      aria-label={`${label}: ${text || 'nothing'}`}
      className={`${isNumber ? 'text-right tabular-nums' : ''} cursor-cell outline-prussian hover:bg-prussian-wash focus:bg-prussian-wash focus:outline-1 focus:-outline-offset-1`}
    >
      {typing ? (
        <CellField
          key={typing.turn}
          typing={typing}
          label={label}
          onEnd={onEnd}
          isNumber={isNumber}
          {...(column === 'section' ? { list: knownSections } : {})}
        />
      ) : (
        <span className={typed === null ? '' : 'text-ink-2'}>{text}</span>
      )}
    </td>
  );
}
