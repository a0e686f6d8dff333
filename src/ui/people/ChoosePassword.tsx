'use client';
import { type FormEvent, useState } from 'react';
import { Button } from '../kit/Button';
import { TextField } from '../kit/Field';
import { Problems, problemAt, problemsBesides } from '../kit/Problems';
import { type Command, usePerform } from '../kit/usePerform';

type Props = { name: string; email: string; accept: Command<[string], { email: string }> };

/** An invited person chooses a password and is signed in with it. */
export function ChoosePassword({ name, email, accept }: Props) {
  const { perform, problems, busy } = usePerform();
  const [password, setPassword] = useState('');
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    const done = await perform(() => accept(password));
    if (!done) return;
    await fetch('/api/sign-in', {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ email, password }),
    });
    location.assign('/');
  };
  return (
    <form onSubmit={(event) => void submit(event)} className="space-y-4 border border-line bg-sheet px-6 py-5">
      <h1 className="text-2xl">Welcome, {name}</h1>
      <p>Choose a password for {email}.</p>
      <TextField
        label="Password"
        type="password"
        autoComplete="new-password"
        hint="At least 10 characters."
        value={password}
        onChange={(event) => setPassword(event.target.value)}
        problem={problemAt(problems, 'password')}
      />
      <Problems problems={problemsBesides(problems, ['password'])} />
      <Button look="main" type="submit" disabled={busy}>
        Set the password and enter
      </Button>
    </form>
  );
}
