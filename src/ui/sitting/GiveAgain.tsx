'use client';
import { Popover, PopoverButton, PopoverPanel } from '@headlessui/react';
import { useRouter } from 'next/navigation';
import { type FormEvent, useState } from 'react';
import { Button } from '../kit/Button';
import { TextField } from '../kit/Field';
import { Problems, problemAt, problemsBesides } from '../kit/Problems';
import { type Command, usePerform } from '../kit/usePerform';

type Props = { base: string; again: Command<[firstDay: string], { sittingId: string }> };

/** Begins a new sitting from this one: its rules and people, its dates as many days later as the first one is to be. */
export function GiveAgain({ base, again }: Props) {
  const router = useRouter();
  const { perform, problems, busy } = usePerform();
  const [day, setDay] = useState('');
  const submit = (event: FormEvent) => {
    event.preventDefault();
    void perform(
      () => again(day),
      ({ sittingId }) => router.push(`${base}/sittings/${sittingId}`),
    );
  };
  return (
    <Popover>
      <PopoverButton as={Button}>Give it again</PopoverButton>
      <PopoverPanel
        anchor={{ to: 'bottom end', gap: 4 }}
        focus
        className="z-30 w-72 border border-edge bg-sheet p-4 shadow-md"
      >
        <form onSubmit={submit} className="space-y-3">
          <TextField
            label="Opens on"
            type="date"
            value={day}
            onChange={(event) => setDay(event.target.value)}
            hint="A draft with the same rules and people. Times of day stay; every date moves by as many days."
            problem={problemAt(problems, 'firstDay')}
          />
          <Problems problems={problemsBesides(problems, ['firstDay'])} />
          <Button type="submit" look="main" disabled={busy}>
            Begin the new sitting
          </Button>
        </form>
      </PopoverPanel>
    </Popover>
  );
}
