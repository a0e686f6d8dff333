'use client';
import { useRouter } from 'next/navigation';
import { type FormEvent, useState } from 'react';
import type { Result } from '@/core/base/result';
import { Button, ButtonLink } from '../kit/Button';
import { TextField } from '../kit/Field';
import { Problems, problemAt, problemsBesides } from '../kit/Problems';
import { TimeZoneField } from '../kit/TimeZoneField';
import { usePerform } from '../kit/usePerform';
import { type TermEntered, TermFields } from './TermFields';

type Fields = { name: string; term: string; timeZone: string } & Partial<TermEntered>;

type Props = {
  title: string;
  fields: Fields;
  act: string;
  submit: (input: Required<Fields>) => Promise<Result<{ courseId: string } | null>>;
  /** Where one goes without, and after, doing it; a new course has its own address. */
  back: string;
  onward?: string;
};

/** Name, term and time zone of a course, new or changed; of one that is there also when it teaches. */
export function CourseFields({ title, fields, act, submit, back, onward }: Props) {
  const router = useRouter();
  const { perform, problems, busy } = usePerform();
  const [entered, setEntered] = useState(fields);
  const send = async (event: FormEvent) => {
    event.preventDefault();
    await perform(
      () => submit({ firstDay: '', freeDays: [], ...entered }),
      (made) => router.push(onward ?? (made ? `/c/${made.courseId}` : back)),
    );
  };
  const field = (name: 'name' | 'term', label: string, hint?: string) => (
    <TextField
      label={label}
      hint={hint}
      value={entered[name]}
      onChange={(event) => setEntered({ ...entered, [name]: event.target.value })}
      problem={problemAt(problems, name)}
    />
  );
  return (
    <form onSubmit={(event) => void send(event)} className="space-y-3 border border-line bg-sheet px-6 py-5">
      <h1 className="text-2xl">{title}</h1>
      {field('name', 'Name')}
      {field('term', 'Term', 'For example: Autumn 2026')}
      <TimeZoneField
        label="Time zone"
        hint="All times of the course are shown in it. For example: Europe/Oslo"
        value={entered.timeZone}
        onChange={(timeZone) => setEntered({ ...entered, timeZone })}
        problem={problemAt(problems, 'timeZone')}
      />
      {entered.freeDays && (
        <TermFields
          term={{ firstDay: entered.firstDay ?? '', freeDays: entered.freeDays }}
          onChange={(term) => setEntered({ ...entered, ...term })}
          problems={problems}
        />
      )}
      <Problems
        problems={problemsBesides(problems, ['name', 'term', 'timeZone', 'firstDay']).filter(
          (problem) => !/freeDays\.\d/.test(problem.field ?? ''),
        )}
      />
      <div className="flex gap-2">
        <Button look="main" type="submit" disabled={busy}>
          {act}
        </Button>
        <ButtonLink href={back}>Cancel</ButtonLink>
      </div>
    </form>
  );
}
