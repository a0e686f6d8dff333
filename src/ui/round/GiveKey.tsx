'use client';
import { useState } from 'react';
import { Button } from '../kit/Button';
import { TextField } from '../kit/Field';
import { Problems, problemAt, problemsBesides } from '../kit/Problems';
import { usePerform } from '../kit/usePerform';
import type { LeadCommands } from './roundCommands';

/** Says what is right of a thing that was asked on the spot: every answer is scored by it from then on. */
export function GiveKey({ question, giveKey }: { question: number; giveKey: LeadCommands['giveKey'] }) {
  const { perform, problems, busy } = usePerform();
  const [key, setKey] = useState('');
  return (
    <form
      className="mt-3 flex flex-wrap items-end gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        void perform(() => giveKey({ question, key }));
      }}
    >
      <TextField
        label="What is right"
        hint="A letter, T or F, a number such as 12 ± 0.5, or words with | between them."
        className="w-64"
        value={key}
        onChange={(event) => setKey(event.target.value)}
        problem={problemAt(problems, 'key')}
      />
      <Button type="submit" busy={busy}>
        Score by this
      </Button>
      <Problems problems={problemsBesides(problems, ['key'])} />
    </form>
  );
}
