'use client';
import { useRouter } from 'next/navigation';
import { type FormEvent, useState } from 'react';
import { Button, ButtonLink } from '../kit/Button';
import { TextField } from '../kit/Field';
import { Problems, problemAt, problemsBesides } from '../kit/Problems';
import { type Command, usePerform } from '../kit/usePerform';

/** Begins a course with a bank of its own. */
export function NewCourse({ create }: { create: Command<[unknown], { courseId: string }> }) {
  const router = useRouter();
  const { perform, problems, busy } = usePerform();
  const [entered, setEntered] = useState({ name: '', term: '', timeZone: 'UTC' });
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    await perform(
      () => create(entered),
      ({ courseId }) => router.push(`/c/${courseId}`),
    );
  };
  const field = (name: keyof typeof entered, label: string, hint?: string) => (
    <TextField
      label={label}
      hint={hint}
      value={entered[name]}
      onChange={(event) => setEntered({ ...entered, [name]: event.target.value })}
      problem={problemAt(problems, name)}
    />
  );
  return (
    <form onSubmit={(event) => void submit(event)} className="space-y-3 border border-line bg-sheet px-6 py-5">
      <h1 className="text-2xl">A new course</h1>
      {field('name', 'Name')}
      {field('term', 'Term', 'For example: Autumn 2026')}
      {field('timeZone', 'Time zone', 'All times of the course are shown in it. For example: Europe/Oslo')}
      <Problems problems={problemsBesides(problems, ['name', 'term', 'timeZone'])} />
      <div className="flex gap-2">
        <Button look="main" type="submit" disabled={busy}>
          Begin the course
        </Button>
        <ButtonLink href="/">Cancel</ButtonLink>
      </div>
    </form>
  );
}
