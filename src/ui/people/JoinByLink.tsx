'use client';
import { type FormEvent, useState } from 'react';
import { Button } from '../kit/Button';
import { TextField } from '../kit/Field';

/** Whoever comes by the link of an exam types a name, and goes on to its rules. */
export function JoinByLink({ secret, title, anonymous }: { secret: string; title: string; anonymous: boolean }) {
  const [name, setName] = useState('');
  const [state, setState] = useState<{ busy: boolean; problem: string | null }>({ busy: false, problem: null });
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    setState({ busy: true, problem: null });
    const response = await fetch('/api/join', {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ secret, name }),
    }).catch(() => null);
    const body = (await response?.json().catch(() => null)) as {
      sittingId?: string;
      problems?: { message: string }[];
    } | null;
    if (response?.ok && body?.sittingId) {
      location.assign(`/my/exams/${body.sittingId}`);
      return;
    }
    setState({
      busy: false,
      problem: body?.problems?.[0]?.message ?? 'The server could not be reached. Try again.',
    });
  };
  return (
    <form onSubmit={(event) => void submit(event)} className="space-y-3 border border-line bg-sheet px-6 py-5">
      <h1 className="text-2xl">{title}</h1>
      <p className="text-ink-2">
        {anonymous
          ? 'Type a name: it says only that you took part, and is not stored with your answers.'
          : 'Type your name as your instructor knows it.'}{' '}
        You then see the rules before you start.
      </p>
      <TextField
        label="Your name"
        autoComplete="name"
        value={name}
        onChange={(event) => setName(event.target.value)}
        problem={state.problem}
      />
      <Button type="submit" look="main" disabled={state.busy}>
        Go on
      </Button>
      <p className="text-sm text-ink-2">Stay in this browser until you have handed in: it is how you are known.</p>
    </form>
  );
}
