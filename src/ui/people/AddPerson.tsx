'use client';
import { type FormEvent, useState } from 'react';
import { type Role, roles } from '@/core/people/policy';
import { Button } from '../kit/Button';
import { SelectField, TextField } from '../kit/Field';
import { Problems, problemAt, problemsBesides } from '../kit/Problems';
import { usePerform } from '../kit/usePerform';

import type { PeopleCommands } from './model';
import { asked } from './Offers';

type Props = {
  sections: { id: string; name: string }[];
  add: PeopleCommands['addPerson'];
  /** What was done, in words. */
  onDone: (said: string) => void;
};

/** How somebody who was invited comes in: no mail is sent. */
const handOut = 'Nothing was mailed: if they have no account yet, “Address” in their row makes one to hand over.';

const blank = { name: '', lastName: '', email: '', role: 'student' as Role, studentNumber: '', section: '' };

/** Adds one person; what was chosen last (part, section) is where the next one starts. */
export function AddPerson({ sections, add, onDone }: Props) {
  const { perform, problems, busy } = usePerform();
  const [entered, setEntered] = useState(blank);
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    await perform(
      () => add(entered),
      ({ offered }) => {
        onDone(
          offered
            ? `${entered.name} has been asked to be ${entered.role}: ${asked}`
            : entered.email
              ? `${entered.name} has been added. ${handOut}`
              : `${entered.name} has been added. Without an email no invitation reaches them: “Address” in their row makes one to hand over.`,
        );
        setEntered({ ...blank, role: entered.role, section: entered.section });
      },
    );
  };
  const field = (name: 'name' | 'email' | 'studentNumber' | 'section', label: string, hint?: string) => (
    <TextField
      label={label}
      hint={hint}
      value={entered[name]}
      list={name === 'section' ? 'sections' : undefined}
      onChange={(event) => setEntered({ ...entered, [name]: event.target.value })}
      problem={problemAt(problems, name)}
    />
  );
  return (
    <form onSubmit={(event) => void submit(event)} className="mb-4 border border-line bg-sheet p-3">
      <div className="grid items-start gap-3 md:grid-cols-[1.4fr_1.6fr_1fr_1fr_1fr]">
        {field('name', 'Name')}
        {field(
          'email',
          'Email',
          entered.role === 'student' ? 'Without one they sign in with their number or name.' : undefined,
        )}
        <SelectField
          label="Role"
          value={entered.role}
          onChange={(event) => setEntered({ ...entered, role: event.target.value as Role })}
        >
          {roles.map((role) => (
            <option key={role}>{role}</option>
          ))}
        </SelectField>
        {field('section', 'Section')}
        {field('studentNumber', 'Student number')}
      </div>
      <datalist id="sections">
        {sections.map((section) => (
          <option key={section.id} value={section.name} />
        ))}
      </datalist>
      <Problems problems={problemsBesides(problems, ['name', 'email', 'studentNumber', 'section'])} className="mt-3" />
      <Button look="main" type="submit" disabled={busy} className="mt-3">
        Add
      </Button>
    </form>
  );
}
