'use client';
import { Popover, PopoverButton, PopoverPanel } from '@headlessui/react';
import { useRouter } from 'next/navigation';
import { type FormEvent, useState } from 'react';
import { Button } from '../kit/Button';
import type { Commands } from '../kit/commands';
import { SelectField } from '../kit/Field';
import { Problems, problemAt, problemsBesides } from '../kit/Problems';
import { usePerform } from '../kit/usePerform';
import { WhenField } from '../kit/When';

type Props = {
  base: string;
  sections: { id: string; name: string }[];
} & Commands<'giveAgain', 'courseId' | 'sittingId'>;

/** Begins a new sitting from this one: its rules and people, its dates as many days later as the first one is to be. */
export function GiveAgain({ base, sections, giveAgain }: Props) {
  const router = useRouter();
  const { perform, problems, busy } = usePerform();
  const [day, setDay] = useState('');
  const [whom, setWhom] = useState('same');
  const submit = (event: FormEvent) => {
    event.preventDefault();
    void perform(
      () => giveAgain(day, whom),
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
          <WhenField
            label="Opens on"
            kind="day"
            value={day}
            onChange={setDay}
            hint="A draft with the same rules. Times of day stay; every date moves by as many days."
            problem={problemAt(problems, 'firstDay')}
          />
          <SelectField
            label="For"
            value={whom}
            onChange={(event) => setWhom(event.target.value)}
            problem={problemAt(problems, 'whom')}
          >
            <option value="same">the same people</option>
            {sections.map((section) => (
              <option key={section.id} value={section.id}>
                section {section.name}
              </option>
            ))}
            <option value="missing">those who have not handed in, as a column of its own</option>
          </SelectField>
          <Problems problems={problemsBesides(problems, ['firstDay', 'whom'])} />
          <Button type="submit" look="main" disabled={busy}>
            Begin the new sitting
          </Button>
        </form>
      </PopoverPanel>
    </Popover>
  );
}
