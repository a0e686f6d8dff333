'use client';
import { type FormEvent, useState } from 'react';
import type { Invited } from '@/server/people/invitations';
import { Button } from '../kit/Button';
import { TextField } from '../kit/Field';
import { Problems, problemAt, problemsBesides } from '../kit/Problems';
import { TextButton } from '../kit/TextButton';
import { type Command, usePerform } from '../kit/usePerform';

type How = 'have' | 'new';
type Props = {
  person: Omit<Invited, 'userId'>;
  accept: Command<[password: string, how: How], { signsInAs: string }>;
};

/** An invited person chooses a password, takes up what they are offered, and is signed in. */
export function ChoosePassword({ person, accept }: Props) {
  const { name, signsInAs, offer, hasPassword } = person;
  const { perform, problems, busy } = usePerform();
  const [password, setPassword] = useState('');
  const [how, setHow] = useState<How>(offer && hasPassword ? 'have' : 'new');
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    const done = await perform(() => accept(password, how));
    if (!done) return;
    await fetch('/api/sign-in', {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ name: signsInAs, password }),
    });
    location.assign('/');
  };
  const turn = (next: How) => {
    setHow(next);
    setPassword('');
  };
  return (
    <form onSubmit={(event) => void submit(event)} className="space-y-4 border border-line bg-sheet px-6 py-5">
      <h1 className="text-2xl">Welcome, {name}</h1>
      {offer && (
        <p>
          {offer.by} asks you to be <strong>{offer.role}</strong> in <strong>{offer.courseName}</strong>.
        </p>
      )}
      <p>
        {how === 'have'
          ? 'Give your password to say yes.'
          : hasPassword
            ? 'Choose a new password. You are signed out wherever you are signed in.'
            : 'Choose a password.'}{' '}
        You sign in as <strong className="wrap-anywhere">{signsInAs}</strong>.
      </p>
      <TextField
        key={how}
        label={how === 'have' ? 'Your password' : 'New password'}
        type="password"
        autoComplete={how === 'have' ? 'current-password' : 'new-password'}
        hint={how === 'new' ? 'At least 10 characters.' : undefined}
        value={password}
        onChange={(event) => setPassword(event.target.value)}
        problem={problemAt(problems, 'password')}
      />
      <Problems problems={problemsBesides(problems, ['password'])} />
      <div className="flex flex-wrap items-center gap-x-4 gap-y-2">
        <Button look="main" type="submit" disabled={busy}>
          {how === 'have' ? 'Say yes and enter' : 'Set the password and enter'}
        </Button>
        {offer && hasPassword && (
          <TextButton onClick={() => turn(how === 'have' ? 'new' : 'have')}>
            {how === 'have' ? 'I do not know a password of this account' : 'I know the password'}
          </TextButton>
        )}
      </div>
    </form>
  );
}
