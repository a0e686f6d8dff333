'use client';
import { useState } from 'react';
import { Button } from '../kit/Button';
import type { InputOf } from '../kit/commands';
import { inputShape } from '../kit/Field';
import { tableRow } from '../kit/RowTable';
import { TextButton } from '../kit/TextButton';
import type { Person } from './model';

type Props = {
  person: Person;
  sections: { id: string; name: string }[];
  busy: boolean;
  onChange: (input: InputOf<'changePerson'>) => Promise<unknown>;
  /** Makes a new address at which they choose a password. */
  onInvite: () => void;
  onRemove: () => void;
};

type Field = 'name' | 'email' | 'section' | 'studentNumber' | 'extraPercent';

/** A person; what is known of them is changed in place. */
export function PersonRow({ person, sections, busy, onChange, onInvite, onRemove }: Props) {
  const [editing, setEditing] = useState<Record<Field, string> | null>(null);
  const begin = () =>
    setEditing({
      name: person.name,
      email: person.email,
      section: person.section ?? '',
      studentNumber: person.studentNumber ?? '',
      extraPercent: String(person.extraPercent),
    });
  const save = async () => {
    if (editing && (await onChange({ ...editing, extraPercent: Number(editing.extraPercent) }))) setEditing(null);
  };
  const field = (name: Field, label: string) =>
    editing && (
      <input
        aria-label={`${label} of ${person.name}`}
        list={name === 'section' ? 'known-sections' : undefined}
        value={editing[name]}
        onChange={(event) => setEditing({ ...editing, [name]: event.target.value })}
        onKeyDown={(event) => {
          if (event.key === 'Enter') void save();
          if (event.key === 'Escape') setEditing(null);
        }}
        className={`${inputShape} ${name === 'extraPercent' ? 'max-w-20 text-right' : ''}`}
      />
    );
  return (
    <tr className={tableRow}>
      <td className="py-1 font-medium">
        {field('name', 'Name') || person.name}
        {!person.cameIn && <span className="block text-sm font-normal text-ink-2">not come in yet</span>}
      </td>
      <td className="text-ink-2">{person.role}</td>
      <td>
        {field('section', 'Section') || person.section}
        {editing && (
          <datalist id="known-sections">
            {sections.map((section) => (
              <option key={section.id} value={section.name} />
            ))}
          </datalist>
        )}
      </td>
      <td>{field('studentNumber', 'Student number') || person.studentNumber}</td>
      <td className="wrap-anywhere text-ink-2">
        {field('email', 'Email') || (
          <>
            {person.email.split('@')[0]}
            <wbr />@{person.email.split('@')[1]}
          </>
        )}
      </td>
      <td className="text-right tabular-nums">
        {field('extraPercent', 'Extra time in percent') || (person.extraPercent ? `+${person.extraPercent} %` : '')}
      </td>
      <td className="text-right whitespace-nowrap">
        {editing ? (
          <span className="inline-flex gap-1 py-1">
            <Button look="main" disabled={busy} onClick={() => void save()}>
              Save
            </Button>
            <Button onClick={() => setEditing(null)}>Cancel</Button>
          </span>
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
