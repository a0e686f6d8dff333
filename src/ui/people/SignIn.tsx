'use client';
import { type FormEvent, useState } from 'react';
import type { Role } from '@/core/people/policy';
import { Button } from '../kit/Button';
import { TextField } from '../kit/Field';
import { pageWidths } from '../kit/pageWidths';
import { TextButton } from '../kit/TextButton';
import { Tick } from '../kit/Tick';

type DemoPerson = { userId: string; name: string; role: Role; note: string };

const groups: { role: Role; name: string; does: string }[] = [
  { role: 'instructor', name: 'Instructors', does: 'build banks and exams, publish results' },
  { role: 'marker', name: 'Markers', does: 'mark what is assigned to them' },
  { role: 'guest', name: 'Guests', does: 'read exams and results without names' },
  { role: 'student', name: 'Students', does: 'take exams and see their results' },
];

/** Email and password; in a demo also everybody in it, by role. `to` is where they go from here. */
export function SignIn({ people, to }: { people: DemoPerson[] | null; to: string }) {
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const [stays, setStays] = useState(false);
  const enter = async (address: string, body: unknown) => {
    setBusy(true);
    setProblem(null);
    const response = await fetch(address, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify(body),
    }).catch(() => null);
    if (response?.ok) {
      location.assign(to);
      return;
    }
    const said = (await response?.json().catch(() => null)) as { problems?: { message: string }[] } | null;
    setProblem(said?.problems?.[0]?.message ?? 'The server could not be reached. Try again.');
    setBusy(false);
  };
  const submit = (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    const form = new FormData(event.currentTarget);
    void enter('/api/sign-in', {
      name: form.get('name'),
      password: form.get('password'),
      stays,
    });
  };
  return (
    <main className={`mx-auto grid gap-x-12 gap-y-8 px-4 py-12 md:grid-cols-[320px_1fr] ${pageWidths.sheet}`}>
      <div>
        <h1 className="text-2xl">Wuzzen</h1>
        <p className="mb-6 text-ink-2">Question banks, exams drawn for each student, marks.</p>
        <form onSubmit={submit} className="space-y-3">
          <TextField
            label="Email or student number"
            name="name"
            autoComplete="username"
            autoCapitalize="none"
            spellCheck={false}
            hint="Or the name you have chosen to sign in with."
            required
          />
          <TextField
            label="Password"
            name="password"
            type="password"
            autoComplete="current-password"
            required
            problem={problem}
          />
          <Tick on={stays} onChange={setStays}>
            Stay signed in: this machine is mine
          </Tick>
          <Button look="main" type="submit" disabled={busy}>
            Sign in
          </Button>
        </form>
        <p className="mt-4 text-sm text-ink-2">
          No account, or the password forgotten? Your instructor gives you an address at which you choose one.
        </p>
      </div>
      {people && (
        <section aria-label="People of the demo" className="border border-line bg-sheet px-5 py-4">
          <h2 className="text-xl">Enter the demo as</h2>
          {groups.map(({ role, name, does }) => {
            const own = people.filter((person) => person.role === role);
            if (own.length === 0) return null;
            return (
              <div key={role} className="mt-3 border-t border-line pt-2">
                <h3 className="font-sans text-sm font-medium">
                  {name} <span className="font-normal text-ink-2">{does}</span>
                </h3>
                <ul className="mt-1 flex flex-wrap gap-x-1">
                  {own.map((person) => (
                    <li key={person.userId}>
                      <TextButton
                        disabled={busy}
                        onClick={() => void enter('/api/demo/sign-in', { userId: person.userId })}
                        className="px-1.5 py-1 decoration-line underline-offset-4 hover:decoration-prussian"
                      >
                        {person.name}
                        {person.note && <span className="text-sm text-ink-2"> ({person.note})</span>}
                      </TextButton>
                    </li>
                  ))}
                </ul>
              </div>
            );
          })}
        </section>
      )}
    </main>
  );
}
