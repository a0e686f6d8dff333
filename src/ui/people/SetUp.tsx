'use client';
import { type FormEvent, useEffect, useState } from 'react';
import { Button } from '../kit/Button';
import { TextField } from '../kit/Field';
import { Problems, problemAt, problemsBesides } from '../kit/Problems';
import { ownZone, TimeZoneField } from '../kit/TimeZoneField';
import { type Command, usePerform } from '../kit/usePerform';

const fields = [
  { name: 'name', label: 'Your name', type: 'text' },
  { name: 'email', label: 'Your email', type: 'email' },
  { name: 'password', label: 'A password, at least 10 characters', type: 'password' },
  { name: 'course', label: 'Your first course', type: 'text' },
] as const;

/** The first person of an empty installation makes their account and course. */
export function SetUp({ begin }: { begin: Command<[unknown], unknown> }) {
  const { perform, problems, busy } = usePerform();
  const [entered, setEntered] = useState<Record<string, string>>({ timeZone: 'UTC' });
  useEffect(() => setEntered((before) => ({ ...before, timeZone: ownZone() })), []);
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    if (!(await perform(() => begin(entered)))) return;
    const { email, password } = entered;
    await fetch('/api/sign-in', {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ name: email, password }),
    });
    location.assign('/');
  };
  return (
    <form onSubmit={(event) => void submit(event)} className="space-y-3 border border-line bg-sheet px-6 py-5">
      <h1 className="text-2xl">Set up Wuzzen</h1>
      <p className="text-ink-2">
        You become the first instructor and begin a course; students and colleagues are added there.
      </p>
      {fields.map(({ name, label, type }) => (
        <TextField
          key={name}
          label={label}
          type={type}
          value={entered[name] ?? ''}
          onChange={(event) => setEntered({ ...entered, [name]: event.target.value })}
          problem={problemAt(problems, name)}
        />
      ))}
      <TimeZoneField
        label="Its time zone"
        hint="Every time of the course is shown in it."
        value={entered.timeZone ?? ''}
        onChange={(timeZone) => setEntered({ ...entered, timeZone })}
        problem={problemAt(problems, 'timeZone')}
      />
      <Problems problems={problemsBesides(problems, [...fields.map((field) => field.name), 'timeZone'])} />
      <Button look="main" type="submit" disabled={busy}>
        Begin
      </Button>
    </form>
  );
}
